<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Generator;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Remesh;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Flakes of even triangles. As they are cut they are needles from side to side: they could bend along these only, and no vertex in
 * the middle would feel that something comes through. All are made of even triangles together: two that lie side by side go on sharing their rim.
 */
final readonly class EvenFlakes implements SkinPattern
{
    /** Triangles at most, of all together: finer ones would take more than a gigabyte, and cloth takes no more. */
    private const MOST = 150_000;

    /** Triangles of a shape below this are nothing. */
    private const FLAT = 1e-6;

    /**
     * @param SkinPattern $of makes sheets
     * @param float $edge length of the triangles' edges, about, m
     */
    public function __construct(public SkinPattern $of, public float $edge)
    {
    }

    public function keepsCore(): bool
    {
        return $this->of->keepsCore();
    }

    public function flakes(TriangleMesh $mesh, Progress $progress): Generator
    {
        $triangle = 0.25 * sqrt(3.0) * $this->edge ** 2;
        $area = $mesh->area();
        if ($area > self::MOST * $triangle) {
            throw new BreakFailed(sprintf(
                'Flakes with edges of %s m would have more than %s triangles. Make the edges %s m long, or longer.',
                round($this->edge, 5),
                number_format(self::MOST),
                ceil(1e4 * sqrt($area / (0.25 * sqrt(3.0) * self::MOST))) / 1e4,
            ));
        }
        $flakes = iterator_to_array($this->of->flakes($mesh, $progress), false);
        $even = Remesh::to(
            FlakeSheet::of($flakes, $mesh->size()),
            max(4 * count($flakes), (int) round(array_sum(array_map(static fn (TriangleMesh $flake): float => $flake->area(), $flakes)) / $triangle)),
            loosely: true,
            round: static fn (int $done, int $of) => $progress->at('even triangles', $done, $of),
        );
        foreach (FlakeSheet::apart($even, count($flakes)) as $k => $flake) {
            $flake = self::withoutFlat($flake);
            // One smaller than a triangle is left as it is.
            yield $flake->triangleCount() < 2 ? $flakes[$k] : Normals::computed($flake);
        }
    }

    /** Three corners of a straightened rim may lie in one line: what is left without them is the same flake. */
    private static function withoutFlat(TriangleMesh $mesh): TriangleMesh
    {
        $faces = [];
        for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t++) {
            if ($mesh->shape($t) > self::FLAT) {
                $faces[] = $t;
            }
        }

        return count($faces) < $count ? $mesh->picked($faces) : $mesh;
    }
}
