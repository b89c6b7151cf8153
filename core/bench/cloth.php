<?php

/**
 * Cloth: seconds a frame and largest stretch along the threads of sheets that hang by two corners, by an edge, and fall over a
 * ball; and the sweep over edges beside the same loop in node. Prints JSON lines. Usage: cloth.php [divisions, e.g. 50 100]
 */

declare(strict_types=1);

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Motion\Cloth\Fabric;
use YardBreak\Core\Motion\Cloth\Springs;
use YardBreak\Core\Motion\Cloth\Weave;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

require __DIR__ . '/../../vendor/autoload.php';

/** @param array<int, float|int> $places */
function longest(Weave $weave, array $places): float
{
    $most = 0.0;
    for ($a = 0; $a < $weave->count(); $a++) {
        for ($c = $weave->first[$a]; $c < $weave->first[$a + 1]; $c++) {
            if ($weave->diagonal[$c] < 0.5) {
                [$i, $j] = [3 * $a, 3 * $weave->other[$c]];
                $l = sqrt(($places[$i] - $places[$j]) ** 2 + ($places[$i + 1] - $places[$j + 1]) ** 2 + ($places[$i + 2] - $places[$j + 2]) ** 2);
                $most = max($most, $l / $weave->length[$c] - 1.0);
            }
        }
    }

    return $most;
}

$pin = static fn (float $x): array => ['source' => 'zone', 'zone' => ['at' => ['x' => $x, 'y' => 0, 'z' => -0.5], 'within' => 0.001, 'softness' => 0]];
$scenes = [
    'corners' => [['hold' => [$pin(-0.5), $pin(0.5)]], []],
    'edge' => [['hold' => [['source' => 'rim', 'rim' => ['side' => 'low-z', 'within' => 0.001, 'softness' => 0]]]], []],
    'ball' => [[], [['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.5, 'divisions' => 12]], 'position' => ['y' => 1.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']]]],
];
foreach (array_map(intval(...), array_slice($argv, 1) ?: ['50', '100']) as $divisions) {
    foreach ($scenes as $name => [$cloth, $more]) {
        $shot = Shot::read(['version' => 2, 'frames' => 48, 'props' => [['id' => 'c', 'name' => 'C', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 1, 'depth' => 1, 'divisions' => $divisions]], 'position' => ['y' => 1.5],
            'break' => ['pattern' => 'whole'], 'release' => $cloth === [] ? ['trigger' => 'frame'] : ['trigger' => 'never'], 'motion' => ['mover' => 'cloth', 'cloth' => [...$cloth, 'damping' => 0.1, 'drag' => 0.1]]], ...$more]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $weave = Weave::of($pipeline->broken($shot->props[0])->pieces->mesh(0), new Fabric(0.2, 2e4, 0.3, 1e-5, 0.1, 0.0, 0.4, 0.004));
        $start = microtime(true);
        $motion = $pipeline->motion($shot);
        $ready = microtime(true) - $start;
        $times = [];
        $stretch = $end = 0.0;
        $last = microtime(true);
        foreach ($motion->frames() as $frame) {
            $times[] = microtime(true) - $last;
            $end = longest($weave, $frame->of('c', Track::VERTICES));
            $stretch = max($stretch, $end);
            $last = microtime(true);
        }
        sort($times);
        echo json_encode([
            'bench' => "cloth {$name}", 'vertices' => $weave->count(), 'ready s' => round($ready, 2), 'ms a frame, median' => round(1e3 * $times[24], 1), 'best' => round(1e3 * $times[1], 1),
            'largest stretch %' => round(100.0 * $stretch, 1), 'at the end %' => round(100.0 * $end, 1), 'peak MB' => memory_get_peak_usage(true) >> 20,
        ], JSON_THROW_ON_ERROR), "\n";
    }
}

$weave = Weave::of(Solids::sheet(1.0, 1.0, 100), new Fabric(0.2, 2e4, 0.3, 1e-5, 0.1, 0.0, 0.4, 0.004));
$data = ['x' => $weave->x, 'y' => $weave->y, 'z' => $weave->z, 'first' => $weave->first, 'other' => $weave->other, 'length' => $weave->length];
foreach ($data['y'] as $i => $y) {
    $data['y'][$i] = 0.01 * sin($i);
}
$path = sys_get_temp_dir() . '/yard-bench-springs-' . getmypid() . '.json';
file_put_contents($path, json_encode($data, JSON_THROW_ON_ERROR));
$w = array_fill(0, $weave->count(), 1.0);
$compliance = array_fill(0, count($weave->length), 1e-3);
for ($round = 0; $round < 3; $round++) {
    [$x, $y, $z] = [$data['x'], $data['y'], $data['z']];
    $best = INF;
    for ($k = 0; $k < 60; $k++) {
        $start = hrtime(true);
        Springs::sweep($x, $y, $z, $w, $weave->first, $weave->other, $weave->length, $compliance, false);
        $best = min($best, (hrtime(true) - $start) / 1e6);
    }
    exec('node ' . escapeshellarg(__DIR__ . '/springs.mjs') . ' ' . escapeshellarg($path), $lines);
    echo json_encode(['bench' => 'springs', 'edges' => count($weave->length), 'ms a sweep, best of 60' => round($best, 3), 'sum' => array_sum($y), 'node' => json_decode((string) end($lines), true)], JSON_THROW_ON_ERROR), "\n";
}
unlink($path);
