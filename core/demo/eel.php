<?php

declare(strict_types=1);

// Makes art/eel.glb, what swims in *The eel goes through*: an eel of 2.6 m on a chain of bones that a wave runs along.
// php core/demo/eel.php

const RINGS = 52;
const ROUND = 14;
const BONES = 13;
const LONG = 2.6;
const SECONDS = 4.0;
const A_SECOND = 12;

/** Half its height and half its width, so far from its nose, as shares of its length. */
$girth = static function (float $s): array {
    $head = sqrt(max(0.0, 1.0 - (1.0 - min(1.0, $s / 0.09)) ** 2));
    $body = 0.062 * $head * (1.0 - 0.72 * max(0.0, ($s - 0.25) / 0.75) ** 1.4);
    $fin = 0.034 * exp(-(($s - 0.93) / 0.07) ** 2) + 0.012 * max(0.0, min(1.0, ($s - 0.3) / 0.2)) * (1.0 - $s);
    $end = sqrt(max(0.0, 1.0 - max(0.0, ($s - 0.95) / 0.05) ** 2));

    return [LONG * ($body + $fin) * $end, LONG * 0.78 * $body * $end];
};

// Its skin: rings from the nose (at x = 0) to the tail (at x = -LONG), with a point at each end.
$positions = $joints = $weights = $triangles = [];
$vertex = static function (float $s, float $y, float $z) use (&$positions, &$joints, &$weights): int {
    array_push($positions, -LONG * $s, $y, $z);
    $at = $s * (BONES - 1);
    $bone = min(BONES - 2, (int) floor($at));
    array_push($joints, $bone, $bone + 1, 0, 0);
    array_push($weights, 1.0 - ($at - $bone), $at - $bone, 0.0, 0.0);

    return intdiv(count($positions), 3) - 1;
};
$rings = [];
for ($k = 0; $k < RINGS; $k++) {
    $s = ($k + 0.5) / RINGS;
    [$high, $wide] = $girth($s);
    for ($j = 0; $j < ROUND; $j++) {
        $angle = 2.0 * M_PI * ($j + 0.5 * ($k % 2)) / ROUND;
        $rings[$k][] = $vertex($s, $high * sin($angle), $wide * cos($angle));
    }
}
$nose = $vertex(0.0, 0.0, 0.0);
$tail = $vertex(1.0, 0.0, 0.0);
for ($j = 0; $j < ROUND; $j++) {
    $next = ($j + 1) % ROUND;
    array_push($triangles, $nose, $rings[0][$next], $rings[0][$j]);
    array_push($triangles, $tail, $rings[RINGS - 1][$j], $rings[RINGS - 1][$next]);
    for ($k = 0; $k + 1 < RINGS; $k++) {
        [$a, $b, $c, $d] = [$rings[$k][$j], $rings[$k][$next], $rings[$k + 1][$j], $rings[$k + 1][$next]];
        // Rings stand half a step against each other.
        $k % 2 === 0 ? array_push($triangles, $a, $b, $c, $b, $d, $c) : array_push($triangles, $a, $d, $c, $a, $b, $d);
    }
}

// A wave of the heading runs from nose to tail, wider towards the tail; it swims on by 1.55 m a second and rises a little.
$times = [];
$places = [];
$turns = array_fill(0, BONES, []);
for ($k = 0; $k <= SECONDS * A_SECOND; $k++) {
    $t = $k / A_SECOND;
    $times[] = $t;
    array_push($places, 1.55 * $t, 0.1 * sin(1.7 * $t), 0.1 * sin(2.0 * M_PI * $t / 1.15));
    for ($b = 0; $b < BONES; $b++) {
        $wave = static fn (float $s): float => (0.1 + 0.5 * $s) * sin(2.0 * M_PI * ($t / 1.15 - 1.15 * $s));
        $angle = $b === 0 ? $wave(0.0) : $wave($b / (BONES - 1)) - $wave(($b - 1) / (BONES - 1));
        array_push($turns[$b], 0.0, sin(0.5 * $angle), 0.0, cos(0.5 * $angle));
    }
}

$binary = '';
$views = $accessors = [];
$add = static function (array $values, string $type, string $code, array $more = []) use (&$binary, &$views, &$accessors): int {
    $bytes = pack("{$code}*", ...$values);
    $views[] = ['buffer' => 0, 'byteOffset' => strlen($binary), 'byteLength' => strlen($bytes)];
    $binary .= $bytes . str_repeat("\0", -strlen($bytes) & 3);
    $accessors[] = ['bufferView' => count($views) - 1, 'componentType' => ['g' => 5126, 'v' => 5123, 'C' => 5121][$code], 'count' => intdiv(count($values), ['SCALAR' => 1, 'VEC3' => 3, 'VEC4' => 4, 'MAT4' => 16][$type]), 'type' => $type] + $more;

    return count($accessors) - 1;
};
$singles = static fn (array $values): array => array_values(unpack('g*', pack('g*', ...$values)));
$bounds = static function (array $values) use ($singles): array {
    $axes = array_map(static fn (int $axis): array => array_values(array_filter($singles($values), static fn (int $k): bool => $k % 3 === $axis, ARRAY_FILTER_USE_KEY)), [0, 1, 2]);

    return ['min' => array_map(min(...), $axes), 'max' => array_map(max(...), $axes)];
};
$step = LONG / (BONES - 1);
$nodes = [['name' => 'eel', 'mesh' => 0, 'skin' => 0]];
$bind = $samplers = $channels = [];
$input = $add($times, 'SCALAR', 'g', ['min' => [0.0], 'max' => $singles([end($times)])]);
for ($b = 0; $b < BONES; $b++) {
    $nodes[] = ['name' => "bone {$b}", 'translation' => $b === 0 ? [0.0, 0.0, 0.0] : [-$step, 0.0, 0.0]] + ($b + 1 < BONES ? ['children' => [$b + 2]] : []);
    array_push($bind, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, $b * $step, 0, 0, 1);
    $samplers[] = ['input' => $input, 'output' => $add($turns[$b], 'VEC4', 'g')];
    $channels[] = ['sampler' => count($samplers) - 1, 'target' => ['node' => $b + 1, 'path' => 'rotation']];
}
$samplers[] = ['input' => $input, 'output' => $add($places, 'VEC3', 'g')];
$channels[] = ['sampler' => count($samplers) - 1, 'target' => ['node' => 1, 'path' => 'translation']];
$json = [
    'asset' => ['version' => '2.0'], 'scene' => 0, 'scenes' => [['nodes' => [0, 1]]], 'nodes' => $nodes,
    'meshes' => [['primitives' => [['attributes' => ['POSITION' => $add($positions, 'VEC3', 'g', $bounds($positions)), 'JOINTS_0' => $add($joints, 'VEC4', 'C'), 'WEIGHTS_0' => $add($weights, 'VEC4', 'g')], 'indices' => $add($triangles, 'SCALAR', 'v')]]]],
    'skins' => [['joints' => range(1, BONES), 'inverseBindMatrices' => $add($bind, 'MAT4', 'g')]],
    'animations' => [['name' => 'swims', 'samplers' => $samplers, 'channels' => $channels]],
];
$text = json_encode($json + ['buffers' => [['byteLength' => strlen($binary)]], 'bufferViews' => $views, 'accessors' => $accessors], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
$text .= str_repeat(' ', -strlen($text) & 3);
file_put_contents(__DIR__ . '/art/eel.glb', 'glTF' . pack('VV', 2, 28 + strlen($text) + strlen($binary)) . pack('VV', strlen($text), 0x4E4F534A) . $text . pack('VV', strlen($binary), 0x004E4942) . $binary);
printf("%d vertices, %d triangles, %d kB\n", intdiv(count($positions), 3), intdiv(count($triangles), 3), intdiv(filesize(__DIR__ . '/art/eel.glb'), 1024));
