<?php

declare(strict_types=1);

/**
 * Ways over surfaces of 20,000 vertices: ours, and the same code in node on the same mesh in the same run; how far off both are
 * from great circles and straight lines. Prints JSON lines.
 */

use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\SurfaceMarch;
use YardBreak\Core\Mesh\TriangleMesh;

require __DIR__ . '/../../vendor/autoload.php';

$x = $y = $z = $triangles = [];
mt_srand(5);
$shake = static fn (): float => 0.3 * (mt_rand() / mt_getrandmax() * 2.0 - 1.0);
for ($j = 0; $j <= 141; $j++) {
    for ($i = 0; $i <= 141; $i++) {
        $inner = $i > 0 && $j > 0 && $i < 141 && $j < 141;
        $x[] = ($i + ($inner ? $shake() : 0.0)) / 141.0;
        $y[] = 0.0;
        $z[] = ($j + ($inner ? $shake() : 0.0)) / 141.0;
        if ($i < 141 && $j < 141) {
            $a = 142 * $j + $i;
            array_push($triangles, $a, $a + 142, $a + 1, $a + 1, $a + 142, $a + 143);
        }
    }
}
foreach (['ball' => Solids::ball(0.5, 58), 'plane of uneven triangles' => new TriangleMesh($x, $y, $z, $triangles)] as $name => $mesh) {
    $march = SurfaceMarch::over($mesh);
    $ms = $node = INF;
    $way = $theirs = [];
    $path = sys_get_temp_dir() . '/yard-bench-spread-' . getmypid() . '.json';
    file_put_contents($path, json_encode(['x' => $mesh->x, 'y' => $mesh->y, 'z' => $mesh->z, 'triangles' => $mesh->triangles], JSON_THROW_ON_ERROR));
    // In turns: the machine is faster and slower.
    for ($turn = 0; $turn < 6; $turn++) {
        for ($round = 0; $round < 4; $round++) {
            $start = hrtime(true);
            $way = $march->from([0 => 0.0], [0 => 0.0]);
            $ms = min($ms, (hrtime(true) - $start) / 1e6);
        }
        exec('node ' . escapeshellarg(__DIR__ . '/march.mjs') . ' ' . escapeshellarg($path), $lines);
        $theirs = json_decode((string) end($lines), true, 16, JSON_THROW_ON_ERROR);
        $node = min($node, $theirs['ms']);
    }
    unlink($path);
    $sum = $all = $most = $unlike = 0.0;
    foreach ($way as $v => $far) {
        [$px, $py, $pz] = [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]];
        $true = $name === 'ball' ? 0.5 * acos(max(-1.0, min(1.0, 4.0 * ($px * $mesh->x[0] + $py * $mesh->y[0] + $pz * $mesh->z[0])))) : sqrt(($px - $mesh->x[0]) ** 2 + ($pz - $mesh->z[0]) ** 2);
        $sum += abs($far - $true);
        $all += $true;
        $most = max($most, abs($far - $true));
        $unlike = max($unlike, abs($far - $theirs['way'][$v]));
    }
    echo json_encode([
        'bench' => "ways over a {$name}", 'vertices' => $mesh->vertexCount(), 'ms, at best' => round($ms, 1), 'node' => round($node, 1), 'ratio' => round($ms / $node, 2),
        'mean off' => sprintf('%.3f %%', 100.0 * $sum / $all), 'most off, of the size' => sprintf('%.3f %%', 100.0 * $most), 'unlike node m' => $unlike,
    ], JSON_THROW_ON_ERROR), "\n";
}
