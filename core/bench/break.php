<?php

/** Time to break: best of several runs in one process, one JSON line a case. Usage: bin/php core/bench/break.php [RUNS] */

declare(strict_types=1);

use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\GrainJar;

require __DIR__ . '/../../vendor/autoload.php';

$runs = max(1, (int) ($argv[1] ?? 5));
$jar = Normals::computed(GrainJar::mesh());
foreach ([60, 250, 500] as $count) {
    $times = [];
    $pieces = [];
    for ($r = 0; $r < $runs; $r++) {
        $begin = hrtime(true);
        $pieces = (new Breaker())->break($jar, new CellularPattern($count, 7, 0.25))->pieces;
        $times[] = (hrtime(true) - $begin) / 1e9;
    }
    sort($times);
    echo json_encode([
        'bench' => "break-jar-{$count}", 'triangles' => $jar->triangleCount(), 'pieces' => count($pieces), 'runs' => $runs,
        'best_s' => round($times[0], 3), 'median_s' => round($times[intdiv(count($times), 2)], 3), 'worst_s' => round($times[count($times) - 1], 3),
    ]), "\n";
}
