<?php

/** What a step costs when bodies sleep: boxes in stacks of four, all asleep; then one that falls far away. Prints JSON lines. */

declare(strict_types=1);

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Motion\Rigid\HullBuilder;
use YardBreak\Core\Motion\Rigid\Inertia;
use YardBreak\Core\Motion\Rigid\RigidWorld;

require __DIR__ . '/../../vendor/autoload.php';

/** Median of twelve steps, ms. */
function stepTime(RigidWorld $world): float
{
    $times = [];
    for ($s = 0; $s < 12; $s++) {
        $begin = hrtime(true);
        $world->step(1.0 / 60.0);
        $times[] = (hrtime(true) - $begin) / 1e6;
    }
    sort($times);

    return round($times[6], 3);
}

$half = 0.05;
$x = $y = $z = [];
for ($i = 0; $i < 8; $i++) {
    $x[] = ($i & 1) !== 0 ? $half : -$half;
    $y[] = ($i & 2) !== 0 ? $half : -$half;
    $z[] = ($i & 4) !== 0 ? $half : -$half;
}
$hull = HullBuilder::of($x, $y, $z);
$inertia = new Inertia(1.0, [0.0, 0.0, 0.0], [0.00167, 0.00167, 0.00167, 0.0, 0.0, 0.0]);
foreach ([1024, 5000] as $count) {
    $world = new RigidWorld([0.0, -9.80665, 0.0], 0.0, 0.6, 0.1);
    $side = (int) ceil(sqrt($count / 4));
    for ($k = 0; $k < $count; $k++) {
        $stack = intdiv($k, 4);
        $body = $world->bodies->addBody($inertia, [0.105 * ($stack % $side), $half + 2.0 * $half * ($k % 4), 0.105 * intdiv($stack, $side)], Quaternion::IDENTITY);
        $world->bodies->addShape($body, $hull, [0.0, 0.0, 0.0], $k, 0.6, 0.1);
        $world->bodies->sleep($body);
    }
    $rest = stepTime($world);
    $body = $world->bodies->addBody($inertia, [0.0, 50.0, 0.0], Quaternion::IDENTITY);
    $world->bodies->addShape($body, $hull, [0.0, 0.0, 0.0], $count, 0.6, 0.1);
    echo json_encode(['bench' => "rest-{$count}", 'all_asleep_ms' => $rest, 'one_falls_ms' => stepTime($world)]), "\n";
}
