<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Closure;
use YardBreak\Core\Math\GradientNoise;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Breach: an irregular opening. The region about the opening is cut into crumbs; those whose middle lies within the
 * cutter, whose outline layered noise makes ragged, belong to what falls out. Crumbs of the same piece are joined again, so
 * pieces have the crumbs' broken outline. What lies outside stays whole, but for bands along the rim.
 */
final readonly class BreachPattern implements Pattern
{
    /** Layers of noise in the outline. */
    private const OCTAVES = 4;

    /** Size of the outline's largest bulges, in parts of the radius. */
    private const BULGE = 0.8;

    /** Crumbs at most; smaller ones would take minutes. */
    private const MOST = 20000;

    /** Crumbs sit evenly: this much of the way to the middle of their cells. */
    private const EVENNESS = 0.6;

    /**
     * @param list<Cutter> $cutters the openings
     * @param float $ragged how far the outline strays, in parts of the radius
     * @param float $crumb size of the crumbs, m
     * @param int $pieces how many pieces fall out; 0: what is cut out is taken away
     * @param int $bands how many layers break off along the rim
     * @param float $band width of a layer, m
     * @param array{array{float, float, float}, float}|null $grain direction in which crumbs are splinters, and how many times
     *                                                             as long as wide they are
     */
    public function __construct(
        public int $seed,
        public array $cutters,
        public float $ragged,
        public float $crumb,
        public int $pieces,
        public int $bands,
        public float $band,
        public ?array $grain = null,
    ) {
    }

    public function cut(Fracture $fracture, int $piece, TriangleMesh $mesh, Progress $progress): void
    {
        $distance = $this->distance();
        // Splinters are long: those of the rim must end before the prop does.
        $reach = $this->bands * $this->band + 2.0 * $this->crumb * ($this->grain[1] ?? 1.0);
        // Crumbs are as dense as asked near the opening; the rest of the prop gets a few, which are joined again at once.
        $density = static fn (float $x, float $y, float $z): float => $distance($x, $y, $z) < $reach ? 1.0 : 0.0;
        $count = $this->crumbs($mesh, $distance, $reach);
        $strewn = new Sites($mesh, $density);
        $sites = $strewn->strew($count, RandomStream::named($this->seed, 'breach crumbs'));
        [$axis, $slender] = $this->grain ?? [[0.0, 1.0, 0.0], 1.0];
        [$x, $y, $z] = $strewn->even($sites, self::EVENNESS, RandomStream::named($this->seed, 'breach evenness'), $slender, $axis);
        [$hx, $hy, $hz] = $this->hearts($x, $y, $z, $distance);
        $group = [];
        foreach ($x as $i => $px) {
            $d = $distance($px, $y[$i], $z[$i]);
            if ($d >= 0.0) {
                $layer = $this->band > 0.0 ? (int) floor($d / $this->band) : $this->bands;
                $group[$i] = $layer < $this->bands ? -2 - $layer : -1;
                continue;
            }
            $best = INF;
            $group[$i] = 0;
            foreach ($hx as $h => $cx) {
                $e = ($px - $cx) ** 2 + ($y[$i] - $hy[$h]) ** 2 + ($z[$i] - $hz[$h]) ** 2;
                if ($e < $best) {
                    $best = $e;
                    $group[$i] = $h;
                }
            }
        }
        $out = count(array_filter($group, static fn (int $g): bool => $g >= 0));
        if (! in_array(-1, $group, true) || $out === 0) {
            throw new BreakFailed($out === 0
                ? 'The opening misses the prop. Move its place onto the prop, or make it larger.'
                : 'The opening swallows the whole prop. Make it smaller.');
        }
        $grain = new Squeeze($slender, $axis);
        [$x, $y, $z] = Sites::squeezed($x, $y, $z, $slender, $axis);
        $region = Region::around($grain->squeezed($mesh));
        $diagram = CellDiagramBuilder::voronoi($x, $y, $z, CellComplex::voronoi($x, $y, $z, $region->low, $region->high), $progress);
        $cells = $this->grain === null
            ? (new PieceCutter($fracture))->cut($piece, new CellCutting($diagram, $progress))
            : (new PieceCutter($fracture))->cut($piece, new CellCutting($diagram, $progress), $grain->squeezed(...), $grain->back(...));
        $groups = array_map(static fn (int $cell): int => $group[$cell], $cells);
        $left = array_combine(array_keys($groups), array_keys($groups));
        if ($this->pieces === 0) {
            $left = $fracture->discard(array_keys(array_filter($groups, static fn (int $g): bool => $g >= 0)));
        }
        $now = [];
        foreach ($left as $before => $piece) {
            $now[$piece] = $groups[$before];
        }
        $new = PieceMerger::groups($fracture, $now);
        foreach ($now as $piece => $of) {
            if ($of < -1) {
                $fracture->layer[$new[$piece]] = -2 - $of;
            }
        }
    }

    /** @return Closure(float, float, float): float how far a place lies outside the ragged openings, m; negative inside */
    public function distance(): Closure
    {
        $noise = GradientNoise::seeded($this->seed, 'breach outline');

        return function (float $x, float $y, float $z) use ($noise): float {
            $nearest = INF;
            foreach ($this->cutters as $cutter) {
                $scale = 1.0 / (self::BULGE * $cutter->size);
                $stray = $this->ragged * $cutter->size * $noise->layered($x * $scale, $y * $scale, $z * $scale, self::OCTAVES);
                $nearest = min($nearest, $cutter->distance($x, $y, $z) + $stray);
            }

            return $nearest;
        };
    }

    /** How many crumbs fill the part of the prop that is to be crumbled: estimated from points strewn through the prop. */
    private function crumbs(TriangleMesh $mesh, Closure $distance, float $reach): int
    {
        [$x, $y, $z] = (new Sites($mesh))->strew(2000, RandomStream::named($this->seed, 'breach size'));
        $inside = 0;
        foreach ($x as $i => $px) {
            $inside += $distance($px, $y[$i], $z[$i]) < $reach ? 1 : 0;
        }
        [$low, $high] = $mesh->bounds();
        $thin = min($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);
        $volume = MassProperties::of($mesh)->volume * $inside / 2000.0;
        // In a thin wall one layer of crumbs is enough.
        $count = (int) ceil($volume / ($this->crumb ** 2 * min($this->crumb, max(1e-12, $thin)) * ($this->grain[1] ?? 1.0)));
        if ($inside === 0) {
            throw new BreakFailed('The opening misses the prop. Move its place onto the prop, or make it larger.');
        }
        if ($count > self::MOST) {
            throw new BreakFailed(sprintf('That would be %s crumbs; at most %s are made. Make the crumbs larger.', number_format($count), number_format(self::MOST)));
        }

        return max(12, $count);
    }

    /**
     * Middles of the pieces that fall out: crumbs inside, picked far from one another (farthest point first).
     *
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    private function hearts(array $x, array $y, array $z, Closure $distance): array
    {
        $inside = [];
        foreach ($x as $i => $px) {
            if ($distance($px, $y[$i], $z[$i]) < 0.0) {
                $inside[] = $i;
            }
        }
        $hx = $hy = $hz = [];
        $nearest = array_fill_keys($inside, INF);
        $pick = $inside[(int) (RandomStream::named($this->seed, 'breach hearts')->float() * count($inside))] ?? -1;
        for ($h = 0; $h < max(1, $this->pieces) && $pick >= 0; $h++) {
            [$hx[], $hy[], $hz[]] = [$x[$pick], $y[$pick], $z[$pick]];
            $far = -1.0;
            $next = -1;
            foreach ($inside as $i) {
                $d = ($x[$i] - $x[$pick]) ** 2 + ($y[$i] - $y[$pick]) ** 2 + ($z[$i] - $z[$pick]) ** 2;
                $nearest[$i] = min($nearest[$i], $d);
                if ($nearest[$i] > $far) {
                    $far = $nearest[$i];
                    $next = $i;
                }
            }
            $pick = $far > 0.0 ? $next : -1;
        }

        return [$hx, $hy, $hz];
    }
}
