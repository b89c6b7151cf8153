<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Document\Plane;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * When a prop first touches another one, or a floor, as their keys move them, also between frames.
 *
 * Conservative advancement: from a moment at which they are apart by d one may go on as far as the two move by less than d in
 * all (Mirtich, Timewarp rigid body simulation, 2000; from memory). What moves least far within a stretch of time is bounded by the way of the corners of its
 * box, which is taken in parts; a stretch in which they might meet is halved. The distance is that of the vertices of each
 * to the surface of the other, and of their long edges.
 *
 * @implements Stage<float|null>
 */
final class FirstContact implements Stage
{
    use FoundFrame;

    /** A stretch of time in which the way is taken in so many parts, and how much longer it may be for being curved. */
    private const PARTS = 4;

    private const CURVED = 1.05;

    /** Stretches are halved down to this, frames. */
    private const FINEST = 1.0 / 1024.0;

    /** Nearer than this share of the smaller one's size they touch. */
    private const TOUCH = 1e-5;

    /** So many pairs of long edges are looked at one by one. */
    private const PAIRS = 60_000;

    /**
     * @param Prop|null $other null: the floors
     * @param list<Plane> $planes
     * @param float $near so near counts as touching, m
     */
    public function __construct(
        private readonly Prop $prop,
        private readonly ?Prop $other,
        private readonly array $planes,
        private readonly int $frames,
        private readonly float $near,
        private readonly Surfaces $surfaces,
    ) {
    }

    public function name(): string
    {
        return 'first-contact';
    }

    public function version(): int
    {
        return 1;
    }

    public function inputs(): array
    {
        $of = fn (Prop $prop): array => [$this->surfaces->hash($prop), $prop->transform->inputs()];
        $planes = array_map(static fn (Plane $plane): array => [$plane->height, $plane->normal], $this->planes);

        return [$of($this->prop), $this->other === null ? $planes : $of($this->other), $this->frames, $this->near];
    }

    public function run(Progress $progress): ?float
    {
        $size = self::size($this->surfaces->ownMesh($this->prop));
        if ($this->other === null) {
            $apart = $this->aboveTheFloors();
        } else {
            $size = min($size, self::size($this->surfaces->ownMesh($this->other)));
            $apart = $this->betweenThem($this->other);
        }
        $touch = $this->near + self::TOUCH * $size;
        if ($apart(1.0, $touch) <= $touch) {
            return 1.0;
        }
        for ($frame = 1; $frame < $this->frames; $frame++) {
            $found = $this->within((float) $frame, (float) $frame + 1.0, $touch, $apart);
            if ($found !== null) {
                return $found;
            }
        }

        return null;
    }

    /**
     * @param Closure(float, float): float $apart distance at a moment, m; anything more than the limit where it is farther
     *
     * @return float|null when they touch within a stretch at whose beginning they do not
     */
    private function within(float $from, float $to, float $touch, Closure $apart): ?float
    {
        // Halves still to be looked at, the earliest last, and whether it is open if they touch where it begins. Not by recursion, which
        // the JIT has been seen to return nonsense from (docs/decisions/0002-jit.md).
        $halves = [[$from, $to, false]];
        while ($halves !== []) {
            [$begin, $end, $open] = array_pop($halves);
            if ($open && $apart($begin, $touch) <= $touch) {
                return $begin;
            }
            $way = $this->ways($begin, $end);
            if ($apart($begin, $touch + $way) > $touch + $way) {
                continue;
            }
            if ($end - $begin > self::FINEST) {
                $middle = 0.5 * ($begin + $end);
                array_push($halves, [$middle, $end, true], [$begin, $middle, false]);
            } elseif ($apart($end, $touch) <= $touch) {
                return $end;
            }
        }

        return null;
    }

    /** How far places of both go at most, together, m. */
    private function ways(float $from, float $to): float
    {
        return self::way($this->prop, $this->surfaces, $from, $to) + ($this->other === null ? 0.0 : self::way($this->other, $this->surfaces, $from, $to));
    }

    /** How far any place of a prop goes at most, m. */
    private static function way(Prop $prop, Surfaces $surfaces, float $from, float $to): float
    {
        [$low, $high] = $surfaces->ownMesh($prop)->bounds();
        $most = 0.0;
        for ($corner = 0; $corner < 8; $corner++) {
            $place = [$corner & 1 ? $high[0] : $low[0], $corner & 2 ? $high[1] : $low[1], $corner & 4 ? $high[2] : $low[2]];
            $before = $prop->transform->carried($place, $from);
            $way = 0.0;
            for ($part = 1; $part <= self::PARTS; $part++) {
                $now = $prop->transform->carried($place, $from + ($to - $from) * $part / self::PARTS);
                $way += sqrt(($now[0] - $before[0]) ** 2 + ($now[1] - $before[1]) ** 2 + ($now[2] - $before[2]) ** 2);
                $before = $now;
            }
            $most = max($most, $way);
        }

        return self::CURVED * $most;
    }

    /** @return Closure(float, float): float */
    private function aboveTheFloors(): Closure
    {
        $mesh = $this->surfaces->ownMesh($this->prop);
        $transform = $this->prop->transform;

        return function (float $frame, float $limit) use ($mesh, $transform): float {
            $least = INF;
            $position = $transform->positionAt($frame);
            $back = Quaternion::conjugate($transform->rotationAt($frame));
            [$sx, $sy, $sz] = $transform->scaleAt($frame);
            foreach ($this->planes as $plane) {
                // The plane in the prop's own axes; what is lowest above it is a vertex.
                [$nx, $ny, $nz] = Quaternion::rotate($back, $plane->normal);
                [$nx, $ny, $nz] = [$nx * $sx, $ny * $sy, $nz * $sz];
                $lowest = INF;
                foreach ($mesh->x as $v => $x) {
                    $along = $nx * $x + $ny * $mesh->y[$v] + $nz * $mesh->z[$v];
                    if ($along < $lowest) {
                        $lowest = $along;
                    }
                }
                $least = min($least, $plane->above($position[0], $position[1], $position[2]) + $lowest);
            }

            return $least;
        };
    }

    /** @return Closure(float, float): float */
    private function betweenThem(Prop $other): Closure
    {
        [$mesh, $otherMesh] = [$this->surfaces->ownMesh($this->prop), $this->surfaces->ownMesh($other)];
        $edges = [LongEdges::of($mesh), LongEdges::of($otherMesh)];
        // Edge to edge exactly, unless there are too many; else by places along them.
        $exact = count($edges[0]) * count($edges[1]) <= self::PAIRS;
        $there = new Approach(Nearness::toSurface($this->prop, $other, $this->surfaces, false), $edges[0]->places($mesh, ! $exact));
        $back = new Approach(Nearness::toSurface($other, $this->prop, $this->surfaces, false), $edges[1]->places($otherMesh, ! $exact));
        [$at, $gone] = [1.0, 0.0];

        // Asked in the order of time: what has gone on since counts for all places that were far away.
        return function (float $frame, float $limit) use ($there, $back, $other, $edges, $exact, &$at, &$gone): float {
            $gone += $this->ways($at, $frame);
            $at = $frame;
            // Balls around both say quickly that they are far from each other.
            [$a, $r] = $this->ball($this->prop, $frame);
            [$b, $s] = $this->ball($other, $frame);
            $far = sqrt(($a[0] - $b[0]) ** 2 + ($a[1] - $b[1]) ** 2 + ($a[2] - $b[2]) ** 2) - $r - $s;

            if ($far > $limit) {
                return $far;
            }
            $least = min($there->least($frame, $gone, $limit), $back->least($frame, $gone, $limit));

            return $exact && $least > 0.0 ? min($least, LongEdges::between($edges[0]->carried($this->prop, $frame), $edges[1]->carried($other, $frame))) : $least;
        };
    }

    /** @return array{array{float, float, float}, float} middle and radius of a ball around a prop, in the shot */
    private function ball(Prop $prop, float $frame): array
    {
        [$low, $high] = $this->surfaces->ownMesh($prop)->bounds();
        [$x, $y, $z] = $prop->transform->scaleAt($frame);

        return [$this->surfaces->middle($prop, $frame), 0.5 * sqrt((($high[0] - $low[0]) * $x) ** 2 + (($high[1] - $low[1]) * $y) ** 2 + (($high[2] - $low[2]) * $z) ** 2)];
    }

    private static function size(TriangleMesh $mesh): float
    {
        [$low, $high] = $mesh->bounds();

        return max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);
    }
}
