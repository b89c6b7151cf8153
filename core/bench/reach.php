<?php

declare(strict_types=1);

/**
 * Distances of 20,000 vertices of a ball to a prop of about 2,000 triangles that passes by: ours, and three-mesh-bvh on the same
 * places in turns, without a limit and with one; the best of all turns. Prints JSON lines.
 */

use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\SurfaceTree;

require __DIR__ . '/../../vendor/autoload.php';

$ball = Solids::ball(0.5, 58);
foreach (['ring around it' => [Solids::torus(0.6, 0.05, 48, 21), [0.0, 0.1, 0.0]], 'ball that touches it' => [Solids::ball(0.2, 18), [0.6, 0.2, 0.1]]] as $name => [$mesh, $at]) {
    $tree = SurfaceTree::of($mesh, true);
    $points = [];
    foreach ($ball->x as $v => $x) {
        $points[] = [$x - $at[0], $ball->y[$v] - $at[1], $ball->z[$v] - $at[2]];
    }
    $path = sys_get_temp_dir() . '/yard-bench-reach-' . getmypid() . '.json';
    file_put_contents($path, json_encode(['x' => $mesh->x, 'y' => $mesh->y, 'z' => $mesh->z, 'triangles' => $mesh->triangles, 'points' => $points, 'limits' => [null, 0.2, 0.05]], JSON_THROW_ON_ERROR));
    $ours = $theirs = array_fill(0, 3, INF);
    // The machine is faster and slower by turns.
    for ($turn = 0; $turn < 6; $turn++) {
        foreach ([INF, 0.2, 0.05] as $k => $limit) {
            for ($round = 0; $round < 4; $round++) {
                $start = hrtime(true);
                foreach ($points as [$x, $y, $z]) {
                    $tree->nearest($x, $y, $z, $limit);
                }
                $ours[$k] = min($ours[$k], (hrtime(true) - $start) / 1e6);
            }
        }
        exec('node ' . escapeshellarg(__DIR__ . '/nearest.mjs') . ' ' . escapeshellarg($path), $lines);
        $theirs = array_map(min(...), $theirs, array_column((array) json_decode((string) end($lines), true), 'ms'));
    }
    unlink($path);
    echo json_encode([
        'bench' => "reach, {$name}", 'places' => count($points), 'triangles' => $mesh->triangleCount(), 'limits m' => ['none', 0.2, 0.05], 'ms a frame, at best' => array_map(static fn (float $ms): float => round($ms, 1), $ours),
        'three-mesh-bvh' => $theirs, 'ratio' => array_map(static fn (float $a, float $b): float => round($a / $b, 2), $ours, $theirs),
    ], JSON_THROW_ON_ERROR), "\n";
}
