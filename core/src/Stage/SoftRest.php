<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Mesh\EdgeSplit;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Soft\Inwards;
use YardBreak\Core\Motion\Soft\Lattice;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Weight\Samples;

/**
 * A soft prop on the way into the shape of another one of the same triangles: its surface goes there, the nodes in it go along
 * with that ({@see Inwards}), and what of the surface they do not carry is laid upon it.
 */
final class SoftRest
{
    /** As near as this to the prop's surface, as a share of its size, a vertex is on it; what is not was made by a break. */
    private const ON = 1e-5;

    /**
     * @param array{list<int>, list<float>} $around eight nodes around each vertex of the body's surface, and how far it goes with each
     * @param array{list<float>, list<float>, list<float>} $relief the whole of it, by axis: of each vertex, m
     */
    private function __construct(private readonly OtherRest $nodes, private readonly array $around, private readonly array $relief)
    {
    }

    /**
     * @param TriangleMesh $surface of the body, at the size the prop has at first
     * @param Samples $nodes of the lattice, in the prop's own space
     * @param array{float, float, float} $scale of the prop at the first frame
     *
     * @throws BreakFailed if there is no other shape, or none of the same triangles
     */
    public static function of(Prop $prop, Lattice $lattice, TriangleMesh $surface, Samples $nodes, array $scale, Surfaces $others): self
    {
        $own = $others->ownMesh($prop);
        [$a, $b, $c] = $scale;
        $seen = $surface->scaled([1.0 / $a, 1.0 / $b, 1.0 / $c]);
        $vertices = new Samples(array_values($seen->x), array_values($seen->y), array_values($seen->z));
        [$ways, $amount] = SurfaceChange::ways($prop, $vertices, $others);
        if (Topology::of($own)->isWatertight()) {
            $side = $own->size() / $prop->mover->settings->int('fineness');
            $fine = EdgeSplit::of($own, $side);
            $known = SurfaceChange::ways($prop, new Samples(array_values($fine->x), array_values($fine->y), array_values($fine->z)), $others)[0];
            $carried = Inwards::carried($fine, $known, [[...$nodes->x, ...$vertices->x], [...$nodes->y, ...$vertices->y], [...$nodes->z, ...$vertices->z]], $side);
            $inner = array_slice($carried, 0, count($nodes->x));
            // Where two pieces were cut apart both go the same way.
            foreach (self::on($own, $vertices, new SurfaceSeats($prop, $others)) as $v => $on) {
                $ways[$v] = $on ? $ways[$v] : $carried[count($inner) + $v];
            }
        } else {
            // What has no inside is thin: all of it goes as the surface does that is nearest.
            $inner = SurfaceChange::ways($prop, $nodes, $others)[0];
        }
        [$around, $shares] = $lattice->around();
        $relief = [[], [], []];
        foreach ($ways as $v => $way) {
            foreach ($scale as $axis => $times) {
                $lent = 0.0;
                for ($k = 8 * $v; $k < 8 * $v + 8; $k++) {
                    $lent += $shares[$k] * $inner[$around[$k]][$axis];
                }
                $relief[$axis][] = $times * ($way[$axis] - $lent);
            }
        }

        return new self(OtherRest::along($nodes, $inner, $scale, $amount), [$around, $shares], $relief);
    }

    /** @return list<bool> of each place whether it lies on the prop's surface */
    private static function on(TriangleMesh $own, Samples $at, SurfaceSeats $seats): array
    {
        $near = (self::ON * $own->size()) ** 2;
        $on = [];
        foreach ($seats->of($at) as $k => [$triangle, $b, $c]) {
            $away = [-$at->x[$k], -$at->y[$k], -$at->z[$k]];
            foreach ([1.0 - $b - $c, $b, $c] as $n => $share) {
                $v = $own->triangles[3 * $triangle + $n];
                $away[0] += $share * $own->x[$v];
                $away[1] += $share * $own->y[$v];
                $away[2] += $share * $own->z[$v];
            }
            $on[] = $away[0] ** 2 + $away[1] ** 2 + $away[2] ** 2 <= $near;
        }

        return $on;
    }

    /**
     * @param Closure(float): list<float> $felt how far the weight has come at each node at a frame
     *
     * @return array{list<float>, list<float>, list<float>} where its nodes are at rest, by axis
     */
    public function nodesAt(float $frame, Closure $felt): array
    {
        return $this->nodes->at($frame, $felt);
    }

    /**
     * As far as its weight has come; without one wholly.
     *
     * @param Closure(float): list<float> $felt how far the weight has come at each node at a frame
     *
     * @return array{array{list<float>, list<float>, list<float>}, array{list<float>, list<float>, list<float>}} where its nodes are at rest, and what its surface is beside that, by axis
     */
    public function at(float $frame, Closure $felt): array
    {
        return $this->with($this->nodes->at($frame, $felt));
    }

    /**
     * @param array{list<float>, list<float>, list<float>} $places
     *
     * @return array{array{list<float>, list<float>, list<float>}, array{list<float>, list<float>, list<float>}}
     */
    private function with(array $places): array
    {
        $far = $this->nodes->shares();
        [$around, $shares] = $this->around;
        $relief = [[], [], []];
        for ($v = 0, $count = count($this->relief[0]); $v < $count; $v++) {
            $share = 0.0;
            for ($k = 8 * $v; $k < 8 * $v + 8; $k++) {
                $share += $shares[$k] * $far[$around[$k]];
            }
            $relief[0][] = $share * $this->relief[0][$v];
            $relief[1][] = $share * $this->relief[1][$v];
            $relief[2][] = $share * $this->relief[2][$v];
        }

        return [$places, $relief];
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return $this->nodes->save();
    }

    /** @return array{array{list<float>, list<float>, list<float>}, array{list<float>, list<float>, list<float>}} as it was */
    public function restore(State $saved): array
    {
        return $this->with($this->nodes->restore($saved));
    }
}
