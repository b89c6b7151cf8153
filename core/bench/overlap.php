<?php

/**
 * How deep the pieces stick in each other and in the floor at the end of a run: exact separating-axis test on the true
 * polyhedra (all face normals and edge pairs), independent of any engine's own shapes. Prints one JSON line.
 * Usage: bin/php core/bench/overlap.php SCENE.json STATE.json
 */

declare(strict_types=1);

use YardBreak\Core\Math\Quaternion;

require __DIR__ . '/../../vendor/autoload.php';

/**
 * @param list<array{float, float, float}> $points
 * @param array{float, float, float} $axis
 *
 * @return array{float, float}
 */
function span(array $points, array $axis): array
{
    $low = INF;
    $high = -INF;
    foreach ($points as [$x, $y, $z]) {
        $h = $axis[0] * $x + $axis[1] * $y + $axis[2] * $z;
        $low = $h < $low ? $h : $low;
        $high = $h > $high ? $h : $high;
    }

    return [$low, $high];
}

/**
 * @param array{float, float, float} $a
 * @param array{float, float, float} $b
 *
 * @return array{float, float, float}|null
 */
function unitCross(array $a, array $b, float $least): ?array
{
    $n = [$a[1] * $b[2] - $a[2] * $b[1], $a[2] * $b[0] - $a[0] * $b[2], $a[0] * $b[1] - $a[1] * $b[0]];
    $l = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);

    return $l > $least ? [$n[0] / $l, $n[1] / $l, $n[2] / $l] : null;
}

$scene = json_decode((string) file_get_contents($argv[1]), true);
$state = json_decode((string) file_get_contents($argv[2]), true)['state'];
$pieces = [];
$floor = 0.0;
foreach ($scene['bodies'] as $k => $body) {
    $points = array_map(function (array $v) use ($state, $k): array {
        $r = Quaternion::rotate(array_map('floatval', $state[$k]['q']), array_map('floatval', $v));

        return [$r[0] + $state[$k]['p'][0], $r[1] + $state[$k]['p'][1], $r[2] + $state[$k]['p'][2]];
    }, $body['vertices']);
    $normals = $edges = [];
    foreach ($body['faces'] as $face) {
        $d = static fn (int $i, int $j): array => [$points[$j][0] - $points[$i][0], $points[$j][1] - $points[$i][1], $points[$j][2] - $points[$i][2]];
        $n = unitCross($d($face[0], $face[1]), $d($face[0], $face[2]), 1e-9);
        if ($n !== null) {
            $normals[implode(',', array_map(static fn (float $v): string => sprintf('%.5f', $v), $n))] = $n;
        }
        foreach ([[0, 1], [1, 2], [2, 0]] as [$a, $b]) {
            $e = $d($face[$a], $face[$b]);
            $l = sqrt($e[0] ** 2 + $e[1] ** 2 + $e[2] ** 2);
            if ($l > 1e-6) {
                $edges[min($face[$a], $face[$b]) . ',' . max($face[$a], $face[$b])] = [$e[0] / $l, $e[1] / $l, $e[2] / $l];
            }
        }
    }
    $low = [INF, INF, INF];
    $high = [-INF, -INF, -INF];
    foreach ($points as $p) {
        foreach ([0, 1, 2] as $axis) {
            $low[$axis] = min($low[$axis], $p[$axis]);
            $high[$axis] = max($high[$axis], $p[$axis]);
        }
    }
    $floor = max($floor, -$low[1]);
    $pieces[] = [$points, array_values($normals), array_values($edges), $low, $high];
}
$depths = [];
foreach ($pieces as $i => [$pa, $na, $ea, $la, $ha]) {
    for ($j = $i + 1; $j < count($pieces); $j++) {
        [$pb, $nb, $eb, $lb, $hb] = $pieces[$j];
        if ($la[0] > $hb[0] || $lb[0] > $ha[0] || $la[1] > $hb[1] || $lb[1] > $ha[1] || $la[2] > $hb[2] || $lb[2] > $ha[2]) {
            continue;
        }
        $axes = [...$na, ...$nb];
        foreach ($ea as $e) {
            foreach ($eb as $f) {
                $axes[] = unitCross($e, $f, 1e-6);
            }
        }
        $least = INF;
        foreach ($axes as $axis) {
            if ($axis === null) {
                continue;
            }
            [$a0, $a1] = span($pa, $axis);
            [$b0, $b1] = span($pb, $axis);
            $least = min($least, $a1 - $b0, $b1 - $a0);
            if ($least <= 0.0) {
                break;
            }
        }
        if ($least > 0.0) {
            $depths[] = $least;
        }
    }
}
sort($depths);
echo json_encode([
    'overlapping_pairs' => count($depths),
    'median_mm' => round(1000 * ($depths[intdiv(count($depths), 2)] ?? 0), 3),
    'largest_mm' => round(1000 * ($depths[count($depths) - 1] ?? 0), 3),
    'floor_mm' => round(1000 * $floor, 3),
]), "\n";
