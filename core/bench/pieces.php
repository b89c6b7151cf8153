<?php

/** A ball of 69,312 triangles cut by Voronoi cells, ours beside manifold-3d in the same run. Usage: bin/php core/bench/pieces.php [256 1024] */

declare(strict_types=1);

use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\MeshCutter;
use YardBreak\Core\Mesh\Primitive\Solids;

require __DIR__ . '/../../vendor/autoload.php';

$ball = Solids::ball(0.5, 76);
foreach (array_slice($argv, 1) ?: ['256', '1024'] as $word) {
    $n = (int) $word;
    $times = [];
    $pieces = [];
    $diagram = (new CellularPattern($n, 1, 0.0))->diagram($ball);
    for ($r = 0; $r < 3; $r++) {
        $begin = hrtime(true);
        $diagram = (new CellularPattern($n, 1, 0.0))->diagram($ball);
        $pieces = MeshCutter::cut($ball, $diagram);
        $times[] = (hrtime(true) - $begin) / 1e9;
    }
    sort($times);
    $cells = array_fill(0, $n, []);
    foreach ($diagram->low as $f => $low) {
        for ($t = $diagram->start[$f]; $t < $diagram->start[$f + 1]; $t++) {
            $c = $diagram->corner[$t];
            foreach ([$low, $diagram->high[$f]] as $cell) {
                if ($cell < $n) {
                    $cells[$cell][$c] = [$diagram->x[$c], $diagram->y[$c], $diagram->z[$c]];
                }
            }
        }
    }
    $positions = [];
    foreach ($ball->x as $v => $x) {
        array_push($positions, $x, $ball->y[$v], $ball->z[$v]);
    }
    $path = sys_get_temp_dir() . '/yard-pieces-' . getmypid() . '.json';
    file_put_contents($path, json_encode(['positions' => $positions, 'triangles' => $ball->triangles, 'cells' => array_map(array_values(...), $cells)]));
    $theirs = json_decode((string) exec('node ' . escapeshellarg(__DIR__ . '/manifold.mjs') . ' ' . escapeshellarg($path)), true);
    unlink($path);
    $volume = array_sum(array_map(static fn ($piece): float => $piece->mass->volume, $pieces));
    echo json_encode([
        'bench' => "pieces-{$n}", 'triangles' => $ball->triangleCount(), 'pieces' => count($pieces), 'median_s' => round($times[1], 3), 'best_s' => round($times[0], 3),
        'manifold_s' => round($theirs['seconds'] ?? 0.0, 2), 'manifold_pieces' => $theirs['pieces'] ?? 0, 'times_as_fast' => round(($theirs['seconds'] ?? 0.0) / $times[1], 1),
        'volume' => $volume, 'peak_mb' => (int) (memory_get_peak_usage() / 1e6),
    ]), "\n";
}
