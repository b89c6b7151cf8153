<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/** The edges of a mesh that have a triangle on one side only, as straight lines. */
final readonly class OpenRim
{
    /** A line lies on a side of the mesh's bounds if it is this near to it, as a share of their size. */
    private const NEAR = 0.02;

    /**
     * @param list<array{float, float, float, float, float, float}> $lines from and to, m
     * @param array{array{float, float, float}, array{float, float, float}} $bounds of the mesh
     */
    private function __construct(private array $lines, private array $bounds)
    {
    }

    public static function of(TriangleMesh $mesh): self
    {
        $lines = [];
        foreach (array_chunk(Topology::of($mesh)->openEdges, 2) as [$a, $b]) {
            $lines[] = [$mesh->x[$a], $mesh->y[$a], $mesh->z[$a], $mesh->x[$b], $mesh->y[$b], $mesh->z[$b]];
        }

        return new self($lines, $mesh->bounds());
    }

    /**
     * Only what lies on one side of the mesh's bounds and runs along it: not the first edges around a corner.
     *
     * @param int $axis 0, 1, 2 for x, y, z
     * @param int $end -1 the low one, 1 the high one
     */
    public function on(int $axis, int $end): self
    {
        [$low, $high] = $this->bounds;
        $side = $end < 0 ? $low[$axis] : $high[$axis];
        $near = self::NEAR * max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);

        return new self(array_values(array_filter(
            $this->lines,
            static function (array $line) use ($axis, $side, $near): bool {
                $length = sqrt(($line[0] - $line[3]) ** 2 + ($line[1] - $line[4]) ** 2 + ($line[2] - $line[5]) ** 2);
                $away = abs($line[$axis] - $line[$axis + 3]) > 0.5 * $length;

                return ! $away && abs($line[$axis] - $side) <= $near && abs($line[$axis + 3] - $side) <= $near;
            },
        )), $this->bounds);
    }

    public function isEmpty(): bool
    {
        return $this->lines === [];
    }

    /**
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     *
     * @return list<float> of each place from the nearest line, m; INF if there is none
     */
    public function distances(array $x, array $y, array $z): array
    {
        $far = array_fill(0, count($x), INF);
        foreach ($this->lines as [$ax, $ay, $az, $bx, $by, $bz]) {
            $ux = $bx - $ax;
            $uy = $by - $ay;
            $uz = $bz - $az;
            $uu = $ux * $ux + $uy * $uy + $uz * $uz;
            $per = $uu > 0.0 ? 1.0 / $uu : 0.0;
            foreach ($x as $i => $px) {
                $px -= $ax;
                $py = $y[$i] - $ay;
                $pz = $z[$i] - $az;
                $t = ($px * $ux + $py * $uy + $pz * $uz) * $per;
                $t = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);
                $px -= $t * $ux;
                $py -= $t * $uy;
                $pz -= $t * $uz;
                $d = $px * $px + $py * $py + $pz * $pz;
                if ($d < $far[$i]) {
                    $far[$i] = $d;
                }
            }
        }

        return array_map(static fn (float $squared): float => sqrt($squared), $far);
    }
}
