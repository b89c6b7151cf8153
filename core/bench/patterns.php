<?php

/** Every pattern at three sizes, to see how the time grows. One JSON line a case. Usage: bin/php core/bench/patterns.php */

declare(strict_types=1);

use YardBreak\Core\Break\BreachPattern;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\CoursesPattern;
use YardBreak\Core\Break\Cutter;
use YardBreak\Core\Break\DrawnPattern;
use YardBreak\Core\Break\GrainPattern;
use YardBreak\Core\Break\HalvingPattern;
use YardBreak\Core\Break\StarterWeb;
use YardBreak\Core\Break\WebPattern;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;

require __DIR__ . '/../../vendor/autoload.php';

$block = Normals::computed(Solids::box(1, 1, 1, 8));
$wall = Normals::computed(Solids::box(2, 1, 0.1, 8));
$cases = [
    'cellular' => [$block, static fn (int $k) => new CellularPattern(100 * $k, 1, 0.3)],
    'web' => [$wall, static fn (int $k) => new WebPattern(1, [[0.0, 0.0, 0.05]], [0.0, 0.0, -1.0], 20, 5 * $k, 0.9, 1.1, 0.4, false)],
    'bricks' => [$wall, static fn (int $k) => new CoursesPattern(CoursesPattern::BRICK, 1, [0.0, 1.0, 0.0], 0.2 / sqrt($k), 0.1 / sqrt($k), 0.0, 0.5, 0.0, 0.0)],
    'halving' => [$block, static fn (int $k) => new HalvingPattern(0, 100 * $k, 1, 0.0)],
    'halving, wandering' => [$block, static fn (int $k) => new HalvingPattern(0, 8 * $k, 1, 0.05)],
    'grain' => [$block, static fn (int $k) => new GrainPattern(100 * $k, 1, 0.3, [0.0, 1.0, 0.0], 8.0, 0.7)],
    'breach' => [$wall, static fn (int $k) => new BreachPattern(1, [Cutter::about(Cutter::ROUND, [0.0, 0.0, 0.0], [0.0, 0.0, 1.0], 0.35)], 0.4, 0.08 / sqrt($k), 12, 0, 0.0)],
    'drawn' => [$wall, static fn (int $k) => new DrawnPattern(StarterWeb::lines($wall, 2, 16, 6 * $k, 1), 2)],
];
foreach ($cases as $name => [$mesh, $pattern]) {
    foreach ([1, 2, 4] as $k) {
        $times = [];
        $pieces = 0;
        for ($r = 0; $r < 3; $r++) {
            $begin = hrtime(true);
            $pieces = count((new Breaker())->break($mesh, $pattern($k))->pieces);
            $times[] = (hrtime(true) - $begin) / 1e9;
        }
        sort($times);
        echo json_encode(['bench' => "pattern {$name}", 'size' => $k, 'pieces' => $pieces, 'median_s' => round($times[1], 3), 'ms_a_piece' => round(1000.0 * $times[1] / $pieces, 2)]), "\n";
    }
}
