<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\Joint;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Cloth\Fastening;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Kind\JoinsBent;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Weight\Samples;

/** What holds cloth and soft things to the hard pieces of other props: each place of them to the piece that it is nearest to at the first frame. */
final readonly class Fastenings
{
    /** Places that a picture shows. */
    private const SEEN = 400;

    public function __construct(private Shot $shot, private Surfaces $others)
    {
    }

    /** Whether a joint is one, between props that can be fastened to each other. */
    public static function holds(Joint $joint, Shot $shot): bool
    {
        $prop = $shot->prop($joint->prop);
        $other = $shot->prop($joint->other);

        return is_a(Kinds::joint($joint->kind->kind), JoinsBent::class, true) && $prop !== null && $other !== null && $prop->mover->has('fastens') && $other->mover->has('joins');
    }

    /** Whether anything holds the one to the other. */
    public static function fastens(Prop $prop, Prop $other, Shot $shot): bool
    {
        return array_filter($shot->joints, static fn (Joint $joint): bool => $joint->prop === $prop->id && $joint->other === $other->id && self::holds($joint, $shot)) !== [];
    }

    /**
     * @param TriangleMesh $mesh of what bends, in the prop's space
     * @param Samples|null $nodes what is fastened, in the prop's space; null: its vertices
     * @param (Closure(int): list<int>)|null $around those of them that are around a vertex
     */
    public function of(Prop $prop, TriangleMesh $mesh, ?Samples $nodes = null, ?Closure $around = null): Fastening
    {
        $places = [];
        foreach ($this->shot->joints as $joint) {
            if ($joint->prop === $prop->id && self::holds($joint, $this->shot)) {
                array_push($places, ...$this->places($joint, $prop, $mesh, $nodes, $around));
            }
        }

        return new Fastening($places);
    }

    /** @return array{count: int, places: list<array{float, float, float}>} at how many places a joint holds, and where some of them are at the first frame, m */
    public function seen(Joint $joint): array
    {
        $prop = $this->shot->prop($joint->prop);
        $held = $this->vertices($joint);
        $seen = [];
        for ($n = min(self::SEEN, count($held)), $k = 0; $prop !== null && $k < $n; $k++) {
            $mesh ??= $this->mesh($prop);
            $v = $held[intdiv($k * count($held), $n)];
            $seen[] = $prop->transform->carried([$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]], 1.0);
        }

        return ['count' => count($held), 'places' => $seen];
    }

    /** @return list<int> vertices, as they are drawn, that a joint holds */
    public function vertices(Joint $joint): array
    {
        $prop = $this->shot->prop($joint->prop);

        return $prop === null || ! self::holds($joint, $this->shot) ? [] : array_column($this->places($joint, $prop, $this->mesh($prop)), 'vertex');
    }

    /**
     * @return float how far the nearest vertex of a prop, as it was prepared, is outside another at the first frame, m
     *
     * @throws Refusal if one of them has no mesh
     */
    public function apart(Prop $prop, Prop $other): float
    {
        [$tree, $times] = $this->others->of($other, 1.0);
        $mesh = $this->others->ownMesh($prop);
        $apart = INF;
        foreach ($mesh->x as $v => $x) {
            [$x, $y, $z] = Vector::times(self::under($prop, $other, [$x, $mesh->y[$v], $mesh->z[$v]]), 1.0 / $times);
            $triangle = $tree->nearest($x, $y, $z, INF);
            if ($triangle >= 0) {
                $tree->look($triangle, $x, $y, $z);
                $apart = min($apart, $times * $tree->distance);
            }
        }

        return $apart;
    }

    private function mesh(Prop $prop): TriangleMesh
    {
        return TriangleMesh::together($this->others->broken($prop)->coarse()->pieces);
    }

    /**
     * @param (Closure(int): list<int>)|null $around
     *
     * @return list<array{joint: string, vertex: int, names: list<string>, local: array{float, float, float}, strength: float, cut: int|null}> see {@see Fastening}
     */
    private function places(Joint $joint, Prop $prop, TriangleMesh $mesh, ?Samples $nodes = null, ?Closure $around = null): array
    {
        $other = $this->shot->prop($joint->other);
        $kind = Kinds::joint($joint->kind->kind);
        if ($other === null || ! is_a($kind, JoinsBent::class, true)) {
            return [];
        }
        $under = fn (float $x, float $y, float $z): array => self::under($prop, $other, [$x, $y, $z]);
        $nodes ??= new Samples(array_values($mesh->x), array_values($mesh->y), array_values($mesh->z));
        $near = $this->nearest($other, array_map($under, $mesh->x, $mesh->y, $mesh->z), $kind::within($joint->kind->settings));
        $pieceOf = [];
        foreach ($near as $v => $piece) {
            $pieceOf += array_fill_keys($around === null ? [$v] : $around($v), $piece);
        }
        ksort($pieceOf);
        $places = [];
        foreach ($pieceOf as $k => $piece) {
            // As long as nothing of it is loose, all of it is one thing.
            $places[] = ['joint' => $joint->id, 'vertex' => $k, 'names' => ["{$other->id}/{$piece}", "{$other->id}/whole"], 'local' => $under($nodes->x[$k], $nodes->y[$k], $nodes->z[$k]), 'strength' => $joint->strength / count($pieceOf), 'cut' => $joint->cut];
        }

        return $places;
    }

    /**
     * @param array{float, float, float} $place in a prop's space
     *
     * @return array{float, float, float} where that is at the first frame, in the axes of another as it stands then, m
     */
    private static function under(Prop $prop, Prop $other, array $place): array
    {
        return Quaternion::rotate(Quaternion::conjugate($other->transform->rotationAt(1.0)), Vector::minus($prop->transform->carried($place, 1.0), $other->transform->positionAt(1.0)));
    }

    /**
     * @param array<int, array{float, float, float}> $places in the prop's axes as it stands at the first frame, m
     *
     * @return array<int, int> of those that are near enough, the piece
     */
    private function nearest(Prop $other, array $places, float $within): array
    {
        $found = $best = [];
        $broken = $this->others->broken($other);
        foreach ($broken->pieces as $piece => $mesh) {
            $mesh = $mesh->scaled($other->transform->scaleAt(1.0));
            [$low, $high] = $mesh->bounds();
            $near = array_filter($places, static fn (array $at): bool => max($low[0] - $at[0], $at[0] - $high[0], $low[1] - $at[1], $at[1] - $high[1], $low[2] - $at[2], $at[2] - $high[2]) <= $within);
            if ($near === []) {
                continue;
            }
            $tree = SurfaceTree::of($mesh, $broken->mass[$piece]->volume > 0.0);
            foreach ($near as $v => [$x, $y, $z]) {
                $triangle = $tree->nearest($x, $y, $z, INF);
                if ($triangle >= 0) {
                    $tree->look($triangle, $x, $y, $z);
                    if ($tree->distance <= $within && $tree->distance < ($best[$v] ?? INF)) {
                        [$best[$v], $found[$v]] = [$tree->distance, $piece];
                    }
                }
            }
        }
        ksort($found);

        return $found;
    }
}
