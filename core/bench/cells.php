<?php

/** Voronoi cells of random sites, ours beside voro++ in the same run. Usage: bin/php core/bench/cells.php [1000 10000] */

declare(strict_types=1);

use YardBreak\Core\Break\CellComplex;
use YardBreak\Core\Break\CellDiagramBuilder;
use YardBreak\Core\Math\RandomStream;

require __DIR__ . '/../../vendor/autoload.php';

$binary = sys_get_temp_dir() . '/yard-voro-' . getmypid();
exec('g++ -O2 -o ' . escapeshellarg($binary) . ' ' . escapeshellarg(__DIR__ . '/voro.cc') . ' -lvoro++ 2>&1', $lines, $failed);
if ($failed !== 0) {
    fwrite(STDERR, "voro++-dev and g++ are needed (bin/test installs them).\n" . implode("\n", $lines) . "\n");
    exit(1);
}
foreach (array_slice($argv, 1) ?: ['1000', '10000'] as $word) {
    $n = (int) $word;
    $stream = RandomStream::named($n, 'bench cells');
    $x = $y = $z = [];
    $input = "{$n}\n";
    for ($i = 0; $i < $n; $i++) {
        [$x[], $y[], $z[]] = [$stream->float(), $stream->float(), $stream->float()];
        $input .= sprintf("%.17g %.17g %.17g\n", $x[$i], $y[$i], $z[$i]);
    }
    file_put_contents("{$binary}.txt", $input);
    // In turns, so that a slow moment of the machine falls on both.
    $times = $theirs = [];
    $facets = 0;
    for ($r = 0; $r < 9; $r++) {
        $begin = hrtime(true);
        $diagram = CellDiagramBuilder::voronoi($x, $y, $z, CellComplex::voronoi($x, $y, $z, [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]));
        $times[] = (hrtime(true) - $begin) / 1e9;
        $facets = count($diagram->low);
        unset($diagram);
        $theirs[] = (float) exec(escapeshellarg($binary) . ' 1 < ' . escapeshellarg("{$binary}.txt"));
    }
    sort($times);
    sort($theirs);
    echo json_encode([
        'bench' => "cells-{$n}", 'facets' => $facets, 'median_s' => round($times[4], 3), 'best_s' => round($times[0], 3),
        'voro++_median_s' => round($theirs[4], 4), 'voro++_best_s' => round($theirs[0], 4),
        'ratio' => round($times[4] / $theirs[4], 1), 'ratio_of_best' => round($times[0] / $theirs[0], 1),
    ]), "\n";
}
array_map(unlink(...), [$binary, "{$binary}.txt"]);
