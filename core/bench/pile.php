<?php

/**
 * pile-N: Voronoi pieces fall on a floor. Prints one JSON line.
 *
 *     php core/bench/pile.php SCENE.json [--dump=STATE.json] [--steps=240] [--shift=SEED]
 *
 * A shift moves each start by up to 1e-7 m: how good a run is must not hang on luck.
 *
 * The scene: gravity, dt, steps, density, friction, restitution, floor, bodies: [{position, vertices, faces, volume, mass}].
 */

declare(strict_types=1);

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Rigid\HullBuilder;
use YardBreak\Core\Motion\Rigid\Inertia;
use YardBreak\Core\Motion\Rigid\RigidWorld;

require __DIR__ . '/../../vendor/autoload.php';
ini_set('memory_limit', '2G');

$options = [];
$file = null;
foreach (array_slice($argv, 1) as $argument) {
    if (preg_match('/^--(\w+)=(.*)$/', $argument, $m) === 1) {
        $options[$m[1]] = $m[2];
    } else {
        $file = $argument;
    }
}
$scene = json_decode((string) file_get_contents((string) $file), true, flags: JSON_THROW_ON_ERROR);
$begin = hrtime(true);
$world = new RigidWorld(
    array_map('floatval', $scene['gravity']),
    (float) $scene['floor']['y'],
    (float) $scene['friction'],
    (float) $scene['restitution'],
);
$bodies = [];
foreach ($scene['bodies'] as $k => $body) {
    $x = array_map(fn (array $v): float => (float) $v[0], $body['vertices']);
    $y = array_map(fn (array $v): float => (float) $v[1], $body['vertices']);
    $z = array_map(fn (array $v): float => (float) $v[2], $body['vertices']);
    $triangles = [];
    foreach ($body['faces'] as $face) {
        for ($i = 2; $i < count($face); $i++) {
            array_push($triangles, $face[0], $face[$i - 1], $face[$i]);
        }
    }
    $mass = MassProperties::of(new TriangleMesh($x, $y, $z, $triangles));
    $density = (float) $scene['density'];
    $inertia = new Inertia($mass->volume * $density, $mass->centre, array_map(fn (float $i): float => $i * $density, $mass->inertia));
    $position = array_map('floatval', $body['position']);
    $position[1] += 1e-7 * (int) ($options['shift'] ?? 0) * sin(1.7 * $k);
    $id = $world->bodies->addBody($inertia, $position, Quaternion::IDENTITY);
    $world->bodies->addShape($id, HullBuilder::of($x, $y, $z), [0.0, 0.0, 0.0], $k, (float) $scene['friction'], (float) $scene['restitution']);
    $bodies[] = $id;
}
$build = (hrtime(true) - $begin) / 1e9;
$steps = (int) ($options['steps'] ?? $scene['steps']);
$wall = 0.0;
$times = [];
for ($s = 0; $s < $steps; $s++) {
    $begin = hrtime(true);
    $world->step((float) $scene['dt']);
    $times[] = $t = (hrtime(true) - $begin) / 1e9;
    $wall += $t;
    if (isset($options['trace']) && $s % 20 === 19) {
        fprintf(STDERR, "%d %.1f ms asleep %d ke %.4f\n", $s + 1, 1000 * array_sum(array_slice($times, -20)) / 20, array_sum(array_map(fn (int $b): int => (int) $world->bodies->isAsleep($b), $bodies)), array_sum(array_map(fn (int $b): float => $world->bodies->kineticEnergy($b), $bodies)));
    }
}
$state = [];
$asleep = 0;
$below = 0;
$deepest = 0.0;
foreach ($bodies as $k => $b) {
    [$velocity, $spin] = $world->bodies->velocity($b);
    $place = $world->bodies->placeOf($b);
    $turn = $world->bodies->turnOf($b);
    $state[] = ['p' => $place, 'q' => $turn, 'v' => $velocity, 'w' => $spin, 'asleep' => $world->bodies->isAsleep($b)];
    $asleep += (int) $world->bodies->isAsleep($b);
    $high = -INF;
    foreach ($scene['bodies'][$k]['vertices'] as $v) {
        $at = Quaternion::rotate($turn, [(float) $v[0], (float) $v[1], (float) $v[2]])[1] + $place[1];
        $high = max($high, $at);
        $deepest = max($deepest, -$at);
    }
    $below += (int) ($high < 0.0);
}
sort($times);
if (isset($options['dump'])) {
    file_put_contents($options['dump'], json_encode(['scene' => realpath((string) $file), 'peer' => 'yard-break', 'steps' => $steps, 'state' => $state]));
}
echo json_encode([
    'bench' => 'pile-' . count($bodies),
    'build_s' => round($build, 3),
    'wall_s' => round($wall, 3),
    'ms_step_median' => round(1000 * $times[intdiv(count($times), 2)], 2),
    'ms_step_max' => round(1000 * end($times), 2),
    'floor_overlap_max_mm' => round(1000 * $deepest, 3),
    'below_floor' => $below,
    'asleep' => $asleep,
    'end_state_sha1' => substr(sha1((string) json_encode($state)), 0, 12),
]), "\n";
