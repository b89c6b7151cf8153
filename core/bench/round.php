<?php

/**
 * Coarse cloth and soft things on what is round or comes to a point, and hard things thrown into a held sheet: how many triangles cross
 * at each sixth frame, by exact tests. Prints a JSON line for each thing and fineness.
 * Usage: round.php [part of a name]
 */

declare(strict_types=1);

use YardBreak\Core\Document\Shot;
use YardBreak\Core\HandOff\PosedPieces;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Crossings;

require __DIR__ . '/../../vendor/autoload.php';
ini_set('memory_limit', '2G');

$lying = ['rotation' => ['z' => 90]];
$things = [
    'ball of 60 cm' => [['kind' => 'ball', 'ball' => ['width' => 0.6]], 0.3, []],
    'finely divided ball of 60 cm' => [['kind' => 'ball', 'ball' => ['width' => 0.6, 'divisions' => 48]], 0.3, []],
    'ball of 15 cm' => [['kind' => 'ball', 'ball' => ['width' => 0.15]], 0.5, []],
    'ball of 4 cm' => [['kind' => 'ball', 'ball' => ['width' => 0.04]], 0.5, []],
    'drum' => [['kind' => 'cylinder', 'cylinder' => ['width' => 1.0, 'height' => 1.0]], 0.3, $lying],
    'pole of 15 cm' => [['kind' => 'cylinder', 'cylinder' => ['width' => 0.15, 'height' => 1.5]], 0.5, $lying],
    'pole of 4 cm' => [['kind' => 'cylinder', 'cylinder' => ['width' => 0.04, 'height' => 1.5]], 0.5, $lying],
    'ring' => [['kind' => 'torus', 'torus' => ['width' => 1.0]], 0.2, []],
    'jar' => [['kind' => 'jar', 'jar' => ['height' => 0.6]], 0.3, []],
    'cone' => [['kind' => 'cone', 'cone' => ['width' => 0.6, 'height' => 0.6]], 0.3, []],
    'spike' => [['kind' => 'cone', 'cone' => ['width' => 0.3, 'height' => 0.8]], 0.4, []],
    'pyramid' => [['kind' => 'pyramid', 'pyramid' => ['width' => 0.6, 'height' => 0.6]], 0.3, []],
];
$bends = [
    'sheet' => [[14, 20, 30], static fn (int $n): array => ['source' => ['kind' => 'sheet', 'sheet' => ['width' => 1.8, 'depth' => 1.8, 'divisions' => $n]], 'motion' => ['mover' => 'cloth']]],
    'cushion' => [[1200, 3000], static fn (int $n): array => ['source' => ['kind' => 'box', 'box' => ['width' => 1.0, 'height' => 0.3, 'depth' => 1.0]], 'prepare' => ['even' => $n], 'motion' => ['mover' => 'soft']]],
];
$whole = ['break' => ['pattern' => 'whole']];
$still = ['release' => ['trigger' => 'never']];
$atOnce = ['release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]]];
/** @var array<string, list<array<string, mixed>>> $scenes */
$scenes = [];
foreach ($things as $name => [$source, $height, $more]) {
    foreach ($bends as $what => [$fineness, $made]) {
        foreach ($fineness as $n) {
            $scenes["{$what} of {$n} on a {$name}"] = [['id' => 'thing', 'source' => $source, 'position' => ['y' => $height]] + $still + $more, ['id' => 'bends', 'position' => ['y' => 1.2]] + $atOnce + $made($n)];
        }
    }
}
foreach (['ball' => [['kind' => 'ball', 'ball' => ['width' => 0.5]], 0], 'cone' => [['kind' => 'cone', 'cone' => ['width' => 0.4, 'height' => 0.4]], 180], 'drum' => [['kind' => 'cylinder', 'cylinder' => ['width' => 0.3, 'height' => 0.8]], 80]] as $name => [$source, $turn]) {
    foreach ([14, 20, 30] as $n) {
        $sheet = $bends['sheet'][1]($n);
        $sheet['motion']['cloth'] = ['hold' => [['source' => 'rim', 'rim' => ['within' => 0.05]]]];
        $scenes["{$name} dropped on a held sheet of {$n}"] = [['id' => 'thing', 'source' => $source, 'position' => ['y' => 1.7], 'rotation' => ['z' => $turn], 'motion' => ['mover' => 'rigid']] + $atOnce, ['id' => 'bends', 'position' => ['y' => 1.2]] + $still + $sheet];
    }
}
foreach ($scenes as $name => $props) {
    if (! str_contains($name, $argv[1] ?? '')) {
        continue;
    }
    $shot = Shot::read(['version' => 2, 'frames' => 48, 'props' => array_map(static fn (array $prop): array => $prop + ['name' => $prop['id']] + $whole, $props)]);
    $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
    $counts = [];
    $began = microtime(true);
    foreach ($pipeline->frames($shot) as $k => $frame) {
        if ($k % 6 === 5) {
            $surfaces = [];
            foreach ($shot->props as $prop) {
                $mesh = TriangleMesh::together(iterator_to_array(PosedPieces::at($prop, $pipeline->broken($prop), $frame), false));
                array_push($surfaces, array_map(null, array_values($mesh->x), array_values($mesh->y), array_values($mesh->z)), array_values($mesh->triangles));
            }
            $counts[] = Crossings::count(...$surfaces);
        }
    }
    echo json_encode(['bench' => 'round', 'scene' => $name, 'most' => max($counts), 'crossed' => $counts, 'seconds' => round(microtime(true) - $began, 1)], JSON_THROW_ON_ERROR), "\n";
}
