<?php

// Flakes of a 20,000-triangle ball, as sheets and with thickness: seconds and peak memory, pieces packed and weighed included. Each
// count in a process of its own. Usage: flakes.php [COUNT THICKNESS]

declare(strict_types=1);

use YardBreak\Core\Break\FlakesPattern;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Stage\BrokenProp;

require __DIR__ . '/../../vendor/autoload.php';

if (! isset($argv[2])) {
    foreach ([[2500, 0.0], [10000, 0.0], [10000, 0.002], [25000, 0.0], [100000, 0.0], [100000, 0.001]] as [$count, $thickness]) {
        passthru(escapeshellarg(dirname(__DIR__, 2) . '/bin/php') . ' ' . escapeshellarg(__FILE__) . " {$count} {$thickness}");
    }
    exit;
}
$ball = Normals::computed(Solids::ball(0.5, 41));
$pattern = new FlakesPattern((int) $argv[1], 1, 0.5, (float) $argv[2], 0.002);
$times = [];
for ($run = 0; $run < ((int) $argv[1] > 20000 ? 1 : 3); $run++) {
    $begin = microtime(true);
    $flakes = count(BrokenProp::skin('', $ball, $pattern->flakes($ball, new Progress()))->pieces) - 1;
    $times[] = microtime(true) - $begin;
}
sort($times);
echo json_encode([
    'bench' => 'flakes', 'triangles' => $ball->triangleCount(), 'flakes' => $flakes, 'thickness' => (float) $argv[2],
    'seconds' => round($times[intdiv(count($times), 2)], 3), 'peak_mb' => memory_get_peak_usage() >> 20,
]), "\n";
