<?php

/**
 * Scenes in which much meets much, each of which once took many times as long: hard pieces in a heap on cloth, cloths on each other,
 * finely divided things where they are met. Prints a JSON line each: seconds to the first frame, of the rest, of the slowest.
 * Usage: heavy.php [part of a name]
 */

declare(strict_types=1);

use YardBreak\Core\Document\DemoShot;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Pipeline;

require __DIR__ . '/../../vendor/autoload.php';
ini_set('memory_limit', '4G');

/**
 * @param array<string, mixed> $source
 * @param array<string, mixed> $more
 *
 * @return array<string, mixed> a prop, whole, that lets go at once
 */
function prop(string $id, array $source, float $y, string $mover, array $more = []): array
{
    return [...['id' => $id, 'name' => $id, 'source' => $source, 'position' => ['y' => $y], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => $mover]], ...$more];
}

$never = ['release' => ['trigger' => 'never']];
$ball = static fn (float $width, int $divisions): array => ['kind' => 'ball', 'ball' => ['width' => $width, 'divisions' => $divisions]];
$sheet = static fn (float $side, int $divisions): array => ['kind' => 'sheet', 'sheet' => ['width' => $side, 'depth' => $side, 'divisions' => $divisions]];
$rubble = static fn (int $pieces, string $mover): array => prop('rubble', ['kind' => 'box', 'box' => ['width' => 0.8, 'height' => 0.4, 'depth' => 0.8]], 1.1, $mover, ['break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => $pieces]]]);
$eel = array_values(array_filter(DemoShot::all()['The eel goes through']['props'], static fn (array $prop): bool => $prop['source']['kind'] === 'file'))[0];
$eel['played']['speed'] = 300;
$still = prop('ball', $ball(0.5, 12), 0.25, 'rigid', $never);

$scenes = [
    '100 pieces on cloth over a ball' => [36, [$rubble(100, 'rigid'), prop('cloth', $sheet(1.4, 30), 0.6, 'cloth'), $still]],
    '300 pieces on cloth over a ball' => [36, [$rubble(300, 'rigid'), prop('cloth', $sheet(1.4, 30), 0.6, 'cloth'), $still]],
    '300 pieces on a held sheet' => [36, [$rubble(300, 'rigid'), prop('cloth', $sheet(1.4, 30), 0.6, 'cloth', $never)]],
    '300 pieces on a soft ball' => [36, [$rubble(300, 'rigid'), prop('soft', $ball(0.8, 12), 0.42, 'soft')]],
    '8 soft pieces of a ball on a sheet over a ball' => [96, [prop('soft', $ball(0.5, 12), 1.5, 'soft', ['break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 8]]]), prop('cloth', $sheet(1.6, 20), 0.9, 'cloth'), prop('ball', $ball(0.6, 12), 0.3, 'rigid', $never)]],
    '60 soft pieces of a block' => [36, [prop('soft', ['kind' => 'box', 'box' => ['width' => 0.8, 'height' => 0.8, 'depth' => 0.8]], 0.6, 'soft', ['break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 60]]])]],
    '300 light pieces on cloth over a ball' => [36, [$rubble(300, 'light'), prop('cloth', $sheet(1.4, 30), 0.6, 'cloth'), $still]],
    '30 shards of a ball on a sheet on the floor' => [84, [prop('shards', $ball(0.36, 12), 0.5, 'rigid', ['break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 30]]]), prop('cloth', $sheet(1.0, 20), 0.02, 'cloth')]],
    '25 shards of a jar on a soft block' => [84, [prop('jar', ['kind' => 'jar', 'jar' => ['height' => 0.4]], 0.85, 'rigid', ['break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 25]]]), prop('soft', ['kind' => 'box', 'box' => ['width' => 1.0, 'height' => 0.4, 'depth' => 1.0]], 0.21, 'soft')]],
    '30 shards of a jar on a sheet' => [84, [prop('jar', ['kind' => 'jar', 'jar' => ['height' => 0.4]], 1.2, 'rigid', ['break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 30]]]), prop('cloth', $sheet(1.0, 10), 0.5, 'cloth')]],
    '4 cloths over a ball' => [36, [$still, ...array_map(static fn (int $k): array => prop("cloth-{$k}", $sheet(1.4, 16), 0.6 + 0.02 * $k, 'cloth'), range(1, 4))]],
    '8 cloths over a ball' => [36, [$still, ...array_map(static fn (int $k): array => prop("cloth-{$k}", $sheet(1.4, 16), 0.6 + 0.02 * $k, 'cloth'), range(1, 8))]],
    'a figure at three times its speed, a ball of 9,600 vertices' => [30, [$eel, prop('ball', $ball(0.5, 40), 0.7, 'rigid', ['position' => ['x' => -0.5, 'y' => 0.7]])]],
    'cloth over a ball of 38,000 vertices' => [24, [prop('ball', $ball(0.5, 80), 0.25, 'rigid', $never), prop('cloth', $sheet(1.0, 40), 0.55, 'cloth')]],
    'a soft ball of 38,000 vertices' => [24, [prop('soft', $ball(0.5, 80), 0.6, 'soft')]],
    '2,000 flakes of a ball of 38,000 vertices' => [24, [prop('ball', $ball(0.5, 80), 0.6, 'light', ['break' => ['pattern' => 'flakes', 'flakes' => ['count' => 2000]]])]],
];
foreach ($scenes as $name => [$length, $props]) {
    if (! str_contains($name, $argv[1] ?? '')) {
        continue;
    }
    memory_reset_peak_usage();
    $pipeline = new Pipeline(new MemoryStore(), new ListedAssets(DemoShot::assets()));
    $times = [];
    $last = hrtime(true);
    foreach ($pipeline->frames(Shot::read(['version' => 2, 'frames' => $length, 'props' => $props])) as $frame) {
        $times[] = (hrtime(true) - $last) / 1e9;
        $last = hrtime(true);
    }
    $first = array_shift($times);
    echo json_encode(['bench' => 'heavy', 'scene' => $name, 'first s' => round($first, 2), 'rest s' => round(array_sum($times), 1), 'slowest s' => round(max($times), 2), 'peak MB' => round(memory_get_peak_usage() / 1e6)], JSON_THROW_ON_ERROR), "\n";
}
