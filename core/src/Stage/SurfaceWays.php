<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Mesh\EdgeSplit;
use YardBreak\Core\Mesh\SurfaceMarch;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Weight\Samples;

/** Ways over the surface of a prop to any place in or on it, from where a front sets out. */
final class SurfaceWays
{
    /** As fine as its surface is made at least, in triangles: a front bends round what lies in its way. */
    private const FINE = 16000;

    /** The same for a glimpse. */
    private const COARSE = 1500;

    public readonly TriangleMesh $mesh;

    private readonly SurfaceSeats $seats;

    private ?SurfaceMarch $fronts = null;

    private function __construct(Prop $prop, Surfaces $surfaces, int $triangles)
    {
        $mesh = $surfaces->ownMesh($prop);
        $this->mesh = EdgeSplit::of($mesh, EdgeSplit::length($mesh, $triangles));
        // Fine enough as it is: then it is sorted already.
        $this->seats = new SurfaceSeats($prop, $surfaces, $this->mesh->triangleCount() === $mesh->triangleCount() ? null : $this->mesh);
    }

    public static function of(Prop $prop, Surfaces $surfaces, bool $coarse = false): self
    {
        return $surfaces->remembered($prop, $coarse ? 'coarse ways' : 'ways', static fn (): self => new self($prop, $surfaces, $coarse ? self::COARSE : self::FINE));
    }

    /** The vertices, as places. */
    public function places(): Samples
    {
        return new Samples(array_values($this->mesh->x), array_values($this->mesh->y), array_values($this->mesh->z));
    }

    /**
     * @param list<array{float, float, float}> $places from which a front sets out, each at the place of the surface that is nearest
     *
     * @return array<int, float> way from there to the corners of the triangles they lie in, by vertex, m
     */
    public function near(array $places): array
    {
        $near = [];
        foreach ($this->seats->of(Samples::of($places)) as $k => [$face, $s, $t]) {
            [$px, $py, $pz] = $this->place($face, $s, $t);
            foreach (array_slice($this->mesh->triangles, 3 * $face, 3) as $v) {
                $far = sqrt(($this->mesh->x[$v] - $px) ** 2 + ($this->mesh->y[$v] - $py) ** 2 + ($this->mesh->z[$v] - $pz) ** 2);
                $near[$v] = min($far, $near[$v] ?? INF);
            }
        }

        return $near;
    }

    /**
     * @param array<int, float> $begin as {@see SurfaceMarch::from()} has them
     * @param array<int, float> $behind
     * @param list<float>|null $slowness
     *
     * @return list<float> way to each vertex, m
     */
    public function march(array $begin, array $behind, ?array $slowness): array
    {
        return ($this->fronts ??= SurfaceMarch::over($this->mesh))->from($begin, $behind, $slowness);
    }

    /**
     * @param list<float> $ways to the vertices, m
     * @param list<array{float, float, float}> $origins places from which a front set out at way 0: within their triangles the way is straight
     * @param bool $even whether a way counts the same everywhere
     *
     * @return Closure(Samples): list<float> m
     */
    public function reader(array $ways, array $origins, bool $even): Closure
    {
        $straight = [];
        foreach ($origins === [] ? [] : $this->seats->of(Samples::of($origins)) as [$face, $s, $t]) {
            $straight[$face][] = $this->place($face, $s, $t);
        }

        return function (Samples $at) use ($ways, $straight, $even): array {
            $far = [];
            foreach ($this->seats->of($at) as [$face, $s, $t]) {
                [$a, $b, $c] = array_slice($this->mesh->triangles, 3 * $face, 3);
                [$u, $v, $w] = [$ways[$a], $ways[$b], $ways[$c]];
                if (! $even || $u === INF || $v === INF || $w === INF) {
                    $far[] = $u === INF || $v === INF || $w === INF ? min($u, $v, $w) : $u + $s * ($v - $u) + $t * ($w - $u);
                    continue;
                }
                // A front that bends is ahead of what lies evenly between the corners.
                $place = $this->place($face, $s, $t);
                $way = min($u + $s * ($v - $u) + $t * ($w - $u), $this->across($a, $b, $place, $u, $v), $this->across($b, $c, $place, $v, $w), $this->across($c, $a, $place, $w, $u));
                foreach ($straight[$face] ?? [] as [$ox, $oy, $oz]) {
                    $way = min($way, sqrt(($place[0] - $ox) ** 2 + ($place[1] - $oy) ** 2 + ($place[2] - $oz) ** 2));
                }
                $far[] = $way;
            }

            return $far;
        };
    }

    /** @param array{float, float, float} $place */
    private function across(int $b, int $c, array $place, float $u, float $v): float
    {
        [$x, $y, $z] = $place;
        $mesh = $this->mesh;

        return SurfaceMarch::across($mesh->x[$b] - $x, $mesh->y[$b] - $y, $mesh->z[$b] - $z, $mesh->x[$c] - $x, $mesh->y[$c] - $y, $mesh->z[$c] - $z, $u, $v, true);
    }

    /** @return array{float, float, float} */
    private function place(int $face, float $s, float $t): array
    {
        [$a, $b, $c] = array_slice($this->mesh->triangles, 3 * $face, 3);
        $r = 1.0 - $s - $t;

        return [
            $r * $this->mesh->x[$a] + $s * $this->mesh->x[$b] + $t * $this->mesh->x[$c],
            $r * $this->mesh->y[$a] + $s * $this->mesh->y[$b] + $t * $this->mesh->y[$c],
            $r * $this->mesh->z[$a] + $s * $this->mesh->z[$b] + $t * $this->mesh->z[$c],
        ];
    }
}
