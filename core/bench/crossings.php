<?php

/**
 * Where cloth and soft things go through themselves and through others: bakes demo shots and counts, frame by frame, triangles that cross
 * and have no corner in common. Prints a JSON line for each prop that bends, and one for each other prop it goes through. Frames are read
 * back from the file, where places are rounded to a 65,535th of what the prop takes up: what only just touches may cross by that much.
 * Usage: crossings.php [--every=FRAMES] [DEMO...] with the number or the file of a demo shot; without any, all of them
 */

declare(strict_types=1);

use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\HandOff\PosedPieces;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\Fastenings;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Crossings;

require __DIR__ . '/../../vendor/autoload.php';

/**
 * Without the triangles at places where a cloth is fastened to a prop: it is sewn to it there.
 *
 * @param array{list<array{float, float, float}>, list<int>} $surface
 *
 * @return array{list<array{float, float, float}>, list<int>}
 */
function beside(array $surface, Shot $shot, Pipeline $pipeline, string $prop, string $other): array
{
    $fastenings = new Fastenings($shot, $pipeline->surfaces);
    $sewn = [];
    foreach ($shot->joints as $joint) {
        $sewn += $joint->prop === $prop && $joint->other === $other ? array_flip($fastenings->vertices($joint)) : [];
    }
    $free = array_filter(array_chunk($surface[1], 3), static fn (array $corners): bool => ! isset($sewn[$corners[0]]) && ! isset($sewn[$corners[1]]) && ! isset($sewn[$corners[2]]));

    return [$surface[0], array_merge([], ...$free)];
}

/** @return array{list<array{float, float, float}>, list<int>} corners and triangles */
function surface(TriangleMesh $mesh): array
{
    return [array_map(null, array_values($mesh->x), array_values($mesh->y), array_values($mesh->z)), array_values($mesh->triangles)];
}

ini_set('memory_limit', '3G');
$every = 1;
$files = [];
foreach (array_slice($argv, 1) as $word) {
    if (preg_match('/^--every=(\d+)$/', $word, $found) === 1) {
        $every = max(1, (int) $found[1]);
    } else {
        array_push($files, ...is_file($word) ? [$word] : (glob(__DIR__ . "/../demo/{$word}-*.json") ?: []));
    }
}
$files = $files === [] ? (glob(__DIR__ . '/../demo/*.json') ?: []) : $files;
natsort($files);
$art = [];
foreach (glob(__DIR__ . '/../demo/art/*') ?: [] as $path) {
    $art[(string) hash_file('sha256', $path)] = $path;
}
foreach ($files as $file) {
    $read = json_decode((string) file_get_contents($file), true, 512, JSON_THROW_ON_ERROR);
    $shot = Shot::read(Schema::load()->complete($read['document'] ?? $read));
    $path = tempnam(sys_get_temp_dir(), 'crossings');
    $pipeline = new Pipeline(new MemoryStore(), new ListedAssets($art));
    $start = microtime(true);
    Baker::bake($pipeline, $shot, $path);
    $seconds = microtime(true) - $start;
    $bake = BakeReader::open($path);
    $names = array_column($shot->props, 'name', 'id');
    $bends = [];
    foreach ($shot->props as $prop) {
        if ($bake->manifest->track($prop->id, Track::VERTICES) !== null) {
            $bends[$prop->id] = $prop;
        }
    }
    /** @var array<string, array<int, int>> $found pairs of triangles, by frame, by what they are of */
    $found = $deepest = [];
    for ($number = 1; $bends !== [] && $number <= $shot->frames; $number += $every) {
        $frame = $bake->frame($number);
        if ($frame === null) {
            break;
        }
        $surfaces = [];
        foreach ($shot->props as $prop) {
            if ($bake->manifest->track($prop->id, Track::VERTICES) !== null || $bake->manifest->track($prop->id, Track::POSE) !== null) {
                $surfaces[$prop->id] = surface(TriangleMesh::together(iterator_to_array(PosedPieces::at($prop, $pipeline->broken($prop), $frame), false)));
            }
        }
        foreach ($bends as $prop) {
            $found[$prop->name][$number] = Crossings::within(...$surfaces[$prop->id]);
            $deepest[$prop->name] = max($deepest[$prop->name] ?? 0.0, $found[$prop->name][$number] > 0 ? Crossings::deepestWithin(...$surfaces[$prop->id]) : 0.0);
            foreach ($surfaces as $id => $other) {
                // Of two that bend once.
                if ($id !== $prop->id && ! (isset($bends[$id]) && strcmp($id, $prop->id) < 0)) {
                    $found["{$prop->name} / {$names[$id]}"][$number] = Crossings::count(...beside($surfaces[$prop->id], $shot, $pipeline, $prop->id, $id), ...$other);
                }
            }
        }
    }
    foreach ($found as $what => $frames) {
        $crossed = array_filter($frames);
        if ($crossed !== [] || ! str_contains($what, '/')) {
            echo json_encode(['bench' => 'crossings', 'shot' => basename($file, '.json'), 'what' => $what, 'pairs' => array_sum($crossed), 'most' => max([0, ...$crossed]), 'frames' => count($crossed), 'of' => count($frames), 'at' => array_slice($crossed, 0, 16, true), 'deepest_mm' => round(1e3 * ($deepest[$what] ?? 0.0), 4), 'bake_s' => round($seconds, 1)]), "\n";
        }
    }
    array_map(unlink(...), glob("{$path}*") ?: []);
}
