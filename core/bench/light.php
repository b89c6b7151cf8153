<?php

/**
 * A step of light pieces in gusts (eddies, drag, tumbling, a floor they land flat on), and the same work in node and, where
 * there is a compiler, in C, in the same run. Prints JSON lines. Usage: light.php [pieces]
 */

declare(strict_types=1);

use YardBreak\Core\Force\Eddies;
use YardBreak\Core\Force\EvenAirflow;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Force\Gravity;
use YardBreak\Core\Force\Wind;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Motion\Light\LightPiece;
use YardBreak\Core\Motion\Light\LightWorld;

require __DIR__ . '/../../vendor/autoload.php';

const STEPS = 24;
$count = (int) ($argv[1] ?? 100_000);
$still = Animated::constant(0.0);
$forces = new Forces([
    [new Gravity(Animated::constant(9.80665)), null, false],
    [new Wind(new EvenAirflow([Animated::constant(1.5), $still, $still]), Animated::constant(0.8), 0.5, 0, 1), null, false],
]);
$random = RandomStream::named(1, 'bench');
$world = new LightWorld(0.05);
$world->addPlane([0.0, 1.0, 0.0], 0.0, 0.6);
$numbers = [];
for ($k = 0; $k < $count; $k++) {
    $place = [$random->between(-3.0, 3.0), $random->between(0.02, 3.0), $random->between(-3.0, 3.0)];
    [$fall, $tumble, $spin] = [$random->between(0.8, 1.6), $random->between(2.0, 8.0), $random->direction()];
    $world->add(new LightPiece(0.02, 0.001, [0.0, 1.0, 0.0], $fall, $tumble, $spin, 0.5));
    $world->place($k, $place, Quaternion::IDENTITY);
    $world->letGo($k, [0.0, 0.0, 0.0]);
    array_push($numbers, ...$place, ...[$fall, $tumble], ...$spin);
}
$path = sys_get_temp_dir() . '/yard-bench-light-' . getmypid();
register_shutdown_function(static fn () => array_map(unlink(...), array_filter(glob("{$path}*") ?: [], is_file(...))));
file_put_contents($path, pack('d*', $count, STEPS, ...array_merge(...Eddies::seeded(1, 'eddies')->field), ...$numbers));
unset($numbers);

$group = array_fill(0, $count, 0);
$times = [];
for ($s = 0; $s < STEPS; $s++) {
    $begin = hrtime(true);
    $world->step($forces, $group, static fn (): array => [], 1.0, 1.0 / 24.0);
    $times[] = (hrtime(true) - $begin) / 1e6;
}
sort($times);
$sum = 0.0;
for ($k = 0; $k < $count; $k++) {
    $pose = $world->pose($k);
    $sum += $pose[0] + $pose[1] + $pose[2] + $pose[3];
}
$ours = ['best ms' => round($times[0], 1), 'median ms' => round($times[STEPS >> 1], 1), 'sum' => round($sum, 6)];
/** @return array<string, float> what a reference printed */
$run = static function (string $command): array {
    $seen = json_decode((string) shell_exec($command), true);

    return is_array($seen) ? $seen : [];
};
$node = $run('node ' . __DIR__ . '/light.mjs ' . escapeshellarg($path));
$c = trim((string) shell_exec('command -v cc')) === '' ? [] : $run('cc -O2 -o ' . escapeshellarg("{$path}.c") . ' ' . __DIR__ . '/light.c -lm && ' . escapeshellarg("{$path}.c") . ' ' . escapeshellarg($path));
$times = static fn (array $other): ?array => $other === [] ? null : [...$other, 'ours is' => round($ours['median ms'] / $other['median ms'], 2)];
echo json_encode(['bench' => "light-{$count}", ...$ours, 'node' => $times($node), 'c' => $times($c), 'peak MB' => round(memory_get_peak_usage() / 1e6)], JSON_THROW_ON_ERROR), "\n";
