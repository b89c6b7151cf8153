<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Points strewn evenly over a surface: no two nearer than a radius that is as large as their number allows (Poisson-disk
 * sampling by dart throwing, Cook 1986, with a grid as Bridson 2007), then moved to the middle of what is nearest to them
 * (Lloyd 1982, on sample points of the surface).
 *
 * Cost: linear in their number.
 */
final class SurfaceSites
{
    /** Radius to begin with, in parts of that of the densest packing of discs; shrinks by the factor where darts keep missing. */
    private const DENSEST = 0.76;

    private const SHRINK = 0.9;

    /** Darts per point and radius. */
    private const DARTS = 4;

    private const SAMPLES_A_SITE = 10;

    private const ROUNDS = 3;

    /** @var list<float> area of all triangles up to each */
    private array $areas = [];

    private readonly float $total;

    public function __construct(private readonly TriangleMesh $mesh)
    {
        $sum = 0.0;
        for ($f = 0, $end = $mesh->triangleCount(); $f < $end; $f++) {
            [$nx, $ny, $nz] = $mesh->cross($f);
            $sum += 0.5 * sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $this->areas[] = $sum;
        }
        $this->total = $sum;
    }

    /** How far apart so many points lie, about, m. */
    public function spacing(int $count): float
    {
        return sqrt($this->total / max(1, $count) * 2.0 / sqrt(3.0));
    }

    /**
     * @return array{list<float>, list<float>, list<float>, list<int>} places and the triangle each lies in
     *
     * @throws BreakFailed if the mesh has no area
     */
    public function strew(int $count, float $evenness, int $seed): array
    {
        if ($this->total <= 0.0) {
            throw new BreakFailed('The mesh has no area that could flake.');
        }
        $stream = RandomStream::named($seed, 'flake sites');
        $sites = $this->apart($count, $stream);
        if ($evenness <= 0.0) {
            return $sites;
        }
        $samples = $this->darts($count * self::SAMPLES_A_SITE, RandomStream::named($seed, 'flake evenness'));
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $sites = self::moved($sites, $samples, $evenness, $this->spacing($count));
        }

        return $sites;
    }

    /** @return array{list<float>, list<float>, list<float>, list<int>} points anywhere on the surface, by area */
    private function darts(int $count, RandomStream $stream): array
    {
        $X = $this->mesh->x;
        $Y = $this->mesh->y;
        $Z = $this->mesh->z;
        $t = $this->mesh->triangles;
        $areas = $this->areas;
        $last = count($areas) - 1;
        $x = $y = $z = $in = [];
        for ($i = 0; $i < $count; $i++) {
            // Strata: every stretch of the area gets its share.
            $at = ($i + $stream->float()) / $count * $this->total;
            $low = 0;
            $high = $last;
            while ($low < $high) {
                $middle = ($low + $high) >> 1;
                if ($areas[$middle] < $at) {
                    $low = $middle + 1;
                } else {
                    $high = $middle;
                }
            }
            $r = sqrt($stream->float());
            $s = $stream->float();
            $wa = 1.0 - $r;
            $wb = $r * (1.0 - $s);
            $wc = $r * $s;
            $a = $t[3 * $low];
            $b = $t[3 * $low + 1];
            $c = $t[3 * $low + 2];
            $x[] = $wa * $X[$a] + $wb * $X[$b] + $wc * $X[$c];
            $y[] = $wa * $Y[$a] + $wb * $Y[$b] + $wc * $Y[$c];
            $z[] = $wa * $Z[$a] + $wb * $Z[$b] + $wc * $Z[$c];
            $in[] = $low;
        }

        return [$x, $y, $z, $in];
    }

    /** @return array{list<float>, list<float>, list<float>, list<int>} */
    private function apart(int $count, RandomStream $stream): array
    {
        $x = $y = $z = $in = [];
        $radius = self::DENSEST * $this->spacing($count);
        [$low, $high] = $this->mesh->bounds();
        while (count($x) < $count) {
            // The grid's blocks are one radius wide: a point's rivals lie in the 27 blocks about its own.
            $s = 1.0 / $radius;
            $r2 = $radius * $radius;
            // Blocks are numbered in rows, with an empty block around them.
            $ny = (int) (($high[1] - $low[1]) * $s) + 3;
            $nz = (int) (($high[2] - $low[2]) * $s) + 3;
            $grid = [];
            foreach ($x as $i => $px) {
                $grid[((int) (($px - $low[0]) * $s) * $ny + (int) (($y[$i] - $low[1]) * $s)) * $nz + (int) (($z[$i] - $low[2]) * $s)][] = $i;
            }
            [$dx, $dy, $dz, $din] = $this->darts(self::DARTS * $count, $stream);
            // In an order that has nothing to do with the triangles'.
            $order = array_keys($dx);
            for ($i = count($order) - 1; $i > 0; $i--) {
                $j = (int) ($stream->float() * ($i + 1));
                $k = $order[$i];
                $order[$i] = $order[$j];
                $order[$j] = $k;
            }
            foreach ($order as $d) {
                $px = $dx[$d];
                $py = $dy[$d];
                $pz = $dz[$d];
                $bx = (int) (($px - $low[0]) * $s);
                $by = (int) (($py - $low[1]) * $s);
                $bz = (int) (($pz - $low[2]) * $s);
                for ($ix = $bx - 1; $ix <= $bx + 1; $ix++) {
                    for ($iy = $by - 1; $iy <= $by + 1; $iy++) {
                        for ($iz = $bz - 1; $iz <= $bz + 1; $iz++) {
                            foreach ($grid[($ix * $ny + $iy) * $nz + $iz] ?? [] as $i) {
                                if (($x[$i] - $px) * ($x[$i] - $px) + ($y[$i] - $py) * ($y[$i] - $py) + ($z[$i] - $pz) * ($z[$i] - $pz) < $r2) {
                                    continue 5;
                                }
                            }
                        }
                    }
                }
                $grid[($bx * $ny + $by) * $nz + $bz][] = count($x);
                $x[] = $px;
                $y[] = $py;
                $z[] = $pz;
                $in[] = $din[$d];
                if (count($x) === $count) {
                    break;
                }
            }
            $radius *= self::SHRINK;
        }

        return [$x, $y, $z, $in];
    }

    /**
     * Each site goes to the sample nearest to the middle of the samples it is nearest to, or some of the way.
     *
     * @param array{list<float>, list<float>, list<float>, list<int>} $sites
     * @param array{list<float>, list<float>, list<float>, list<int>} $samples
     *
     * @return array{list<float>, list<float>, list<float>, list<int>}
     */
    private static function moved(array $sites, array $samples, float $evenness, float $spacing): array
    {
        [$x, $y, $z, $in] = $sites;
        [$px, $py, $pz, $pin] = $samples;
        $n = count($x);
        $nearest = SiteGrid::of($x, $y, $z, $spacing)->nearest($x, $y, $z, $px, $py, $pz);
        $sumX = $sumY = $sumZ = array_fill(0, $n, 0.0);
        $members = array_fill(0, $n, 0);
        foreach ($nearest as $q => $s) {
            $sumX[$s] += $px[$q];
            $sumY[$s] += $py[$q];
            $sumZ[$s] += $pz[$q];
            $members[$s]++;
        }
        $best = array_fill(0, $n, INF);
        $goX = $goY = $goZ = array_fill(0, $n, 0.0);
        for ($s = 0; $s < $n; $s++) {
            $m = max(1, $members[$s]);
            $goX[$s] = $x[$s] + $evenness * ($sumX[$s] / $m - $x[$s]);
            $goY[$s] = $y[$s] + $evenness * ($sumY[$s] / $m - $y[$s]);
            $goZ[$s] = $z[$s] + $evenness * ($sumZ[$s] / $m - $z[$s]);
        }
        // Back onto the surface.
        foreach ($nearest as $q => $s) {
            $dx = $px[$q] - $goX[$s];
            $dy = $py[$q] - $goY[$s];
            $dz = $pz[$q] - $goZ[$s];
            $d = $dx * $dx + $dy * $dy + $dz * $dz;
            if ($d < $best[$s]) {
                $best[$s] = $d;
                $x[$s] = $px[$q];
                $y[$s] = $py[$q];
                $z[$s] = $pz[$q];
                $in[$s] = $pin[$q];
            }
        }

        return [array_values($x), array_values($y), array_values($z), array_values($in)];
    }
}
