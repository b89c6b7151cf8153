<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Countable;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Weight\Samples;

/** Edges of a mesh that are long beside it: two of them may cross far from any vertex. */
final readonly class LongEdges implements Countable
{
    /** Longer than this share of the mesh. */
    private const LONG = 1.0 / 32.0;

    /**
     * @param list<array{array{float, float, float}, array{float, float, float}}> $edges
     * @param float $long m
     */
    private function __construct(private array $edges, private float $long)
    {
    }

    public static function of(TriangleMesh $mesh): self
    {
        [$low, $high] = $mesh->bounds();
        $long = self::LONG * max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);
        $edges = [];
        for ($c = 0, $end = count($mesh->triangles); $c < $end; $c++) {
            $a = $mesh->triangles[$c];
            $b = $mesh->triangles[$c % 3 === 2 ? $c - 2 : $c + 1];
            [$from, $to] = [[$mesh->x[$a], $mesh->y[$a], $mesh->z[$a]], [$mesh->x[$b], $mesh->y[$b], $mesh->z[$b]]];
            // Each edge has a triangle on either side; once is enough.
            if ($from < $to && ($to[0] - $from[0]) ** 2 + ($to[1] - $from[1]) ** 2 + ($to[2] - $from[2]) ** 2 > $long * $long) {
                $edges[] = [$from, $to];
            }
        }

        return new self($edges, $long);
    }

    public function count(): int
    {
        return count($this->edges);
    }

    /** The vertices of the mesh, and with them, if asked for, places along these edges. */
    public function places(TriangleMesh $mesh, bool $along): Samples
    {
        [$x, $y, $z] = [array_values($mesh->x), array_values($mesh->y), array_values($mesh->z)];
        foreach ($along ? $this->edges : [] as [$a, $b]) {
            [$dx, $dy, $dz] = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
            $parts = (int) ceil(sqrt($dx * $dx + $dy * $dy + $dz * $dz) / $this->long);
            for ($part = 1; $part < $parts; $part++) {
                $x[] = $a[0] + $dx * $part / $parts;
                $y[] = $a[1] + $dy * $part / $parts;
                $z[] = $a[2] + $dz * $part / $parts;
            }
        }

        return new Samples($x, $y, $z);
    }

    /** @return list<array{array{float, float, float}, array{float, float, float}}> where they are at a frame */
    public function carried(Prop $prop, float $frame): array
    {
        return array_map(static fn (array $edge): array => [$prop->transform->carried($edge[0], $frame), $prop->transform->carried($edge[1], $frame)], $this->edges);
    }

    /**
     * The least distance between the edges of two, m: nearest places of two segments as in Ericson, Real-Time Collision Detection, 5.1.9 (from memory).
     *
     * @param list<array{array{float, float, float}, array{float, float, float}}> $one
     * @param list<array{array{float, float, float}, array{float, float, float}}> $other
     */
    public static function between(array $one, array $other): float
    {
        $least = INF;
        foreach ($one as [[$px, $py, $pz], [$qx, $qy, $qz]]) {
            [$ux, $uy, $uz] = [$qx - $px, $qy - $py, $qz - $pz];
            $a = $ux * $ux + $uy * $uy + $uz * $uz;
            foreach ($other as [[$rx, $ry, $rz], [$sx, $sy, $sz]]) {
                [$vx, $vy, $vz] = [$sx - $rx, $sy - $ry, $sz - $rz];
                [$wx, $wy, $wz] = [$px - $rx, $py - $ry, $pz - $rz];
                $e = $vx * $vx + $vy * $vy + $vz * $vz;
                $b = $ux * $vx + $uy * $vy + $uz * $vz;
                $c = $ux * $wx + $uy * $wy + $uz * $wz;
                $f = $vx * $wx + $vy * $wy + $vz * $wz;
                $det = $a * $e - $b * $b;
                $s = $det > 1e-12 * $a * $e ? ($b * $f - $c * $e) / $det : 0.0;
                $s = $s < 0.0 ? 0.0 : ($s > 1.0 ? 1.0 : $s);
                $t = ($b * $s + $f) / $e;
                if ($t < 0.0 || $t > 1.0) {
                    $t = $t < 0.0 ? 0.0 : 1.0;
                    $s = ($b * $t - $c) / $a;
                    $s = $s < 0.0 ? 0.0 : ($s > 1.0 ? 1.0 : $s);
                }
                $x = $wx + $s * $ux - $t * $vx;
                $y = $wy + $s * $uy - $t * $vy;
                $z = $wz + $s * $uz - $t * $vz;
                $square = $x * $x + $y * $y + $z * $z;
                if ($square < $least) {
                    $least = $square;
                }
            }
        }

        return sqrt($least);
    }
}
