<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\TriangleMesh;

/** Lines to begin a drawing with: rays from the middle and rings between them, unevenly, to be dragged about. */
final class StarterWeb
{
    /**
     * @param int $axis 0: x, 1: y, 2: z, the one that is looked along
     *
     * @return list<Line> rays first; where a ray meets a ring both have a point
     */
    public static function lines(TriangleMesh $mesh, int $axis, int $rays, int $rings, int $seed): array
    {
        [$low, $high] = $mesh->bounds();
        $u = ($axis + 1) % 3;
        $v = ($axis + 2) % 3;
        $middle = [0.5 * ($low[$u] + $high[$u]), 0.5 * ($low[$v] + $high[$v])];
        $half = [0.5 * ($high[$u] - $low[$u]), 0.5 * ($high[$v] - $low[$v])];
        $stream = RandomStream::named($seed, 'starter web');
        // Crossings of rays and rings, from the middle outwards, and the rays' ends beyond the rim.
        $crossing = [];
        for ($j = 0; $j < $rays; $j++) {
            $angle = 2.0 * M_PI * ($j + 0.6 * ($stream->float() - 0.5)) / $rays;
            $c = cos($angle);
            $s = sin($angle);
            $reach = min($half[0] / max(1e-9, abs($c)), $half[1] / max(1e-9, abs($s)));
            for ($i = 1; $i <= $rings + 1; $i++) {
                $share = $i > $rings ? 1.05 : (($i + 0.5 * ($stream->float() - 0.5)) / ($rings + 1.0)) ** 1.2;
                $crossing[$j][] = [round($middle[0] + $share * $reach * $c, 6), round($middle[1] + $share * $reach * $s, 6)];
            }
        }
        $hub = [round($middle[0], 6), round($middle[1], 6)];
        $lines = [];
        foreach ($crossing as $points) {
            $lines[] = new Line([$hub, ...$points]);
        }
        for ($i = 0; $i < $rings; $i++) {
            $lines[] = new Line(array_column($crossing, $i), true);
        }

        return $lines;
    }
}
