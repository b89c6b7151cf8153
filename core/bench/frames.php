<?php

/**
 * What frames cost on disk: bytes a frame of 500 hard pieces, of 10,000 flakes and of a cloth's 10,000 vertices; and how long it
 * takes to read any frame of a large file. Prints JSON lines. Usage: frames.php [megabytes of the large file]
 */

declare(strict_types=1);

use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\BakeWriter;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

require __DIR__ . '/../../vendor/autoload.php';

$megabytes = (int) ($argv[1] ?? 1024);
$path = sys_get_temp_dir() . '/yard-bench-frames-' . getmypid();
register_shutdown_function(static fn () => array_map(unlink(...), array_filter([$path, BakeReader::indexOf($path)], is_file(...))));

/** Bytes of each frame, and how many of its pieces are elsewhere than in the frame before. */
function bytesAFrame(string $path, string $bench): void
{
    $reader = BakeReader::open($path);
    $sum = $moving = $still = $stillBytes = 0;
    $before = null;
    for ($n = 2; $n <= $reader->frames(); $n++) {
        [$from] = $reader->endOf($n - 1);
        [$to] = $reader->endOf($n);
        $before ??= $reader->frame($n - 1)?->poses();
        $poses = $reader->frame($n)?->poses() ?? [];
        $moved = 0;
        for ($k = 0, $end = count($poses); $k < $end; $k += 7) {
            $moved += array_slice($poses, $k, 7) !== array_slice($before ?? [], $k, 7) ? 1 : 0;
        }
        $before = $poses;
        if ($moved === 0) {
            $still++;
            $stillBytes += $to - $from;
        } else {
            $sum += $to - $from;
            $moving += $moved;
        }
    }
    clearstatcache();
    echo json_encode([
        'bench' => $bench, 'bytes' => filesize($path), 'frames' => $reader->frames(), 'bytes a moving piece and frame' => round($sum / max(1, $moving), 2),
        'bytes a frame at rest' => $still === 0 ? null : round($stillBytes / $still, 1),
    ], JSON_THROW_ON_ERROR), "\n";
}

$fall = ['position' => ['y' => 1.0], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 5]]];
$pipeline = new Pipeline(new MemoryStore(), new NoAssets());
$hard = Shot::read(['version' => 2, 'frames' => 120, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['kind' => 'ball'], 'break' => ['cellular' => ['pieces' => 500]], ...$fall]]]);
Baker::bake($pipeline, $hard, $path);
bytesAFrame($path, 'frames-500-hard');
$light = Shot::read(['version' => 2, 'frames' => 120, 'forces' => [['id' => 'g', 'name' => 'G'], ['id' => 'w', 'name' => 'W', 'force' => 'wind']], 'props' => [[
    'id' => 'a', 'name' => 'A', 'source' => ['kind' => 'ball'], 'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 10000]], ...$fall, 'motion' => ['mover' => 'light'],
]]]);
$begin = microtime(true);
$pipeline->broken($light->props[0]);
$broken = microtime(true);
Baker::bake($pipeline, $light, $path);
echo json_encode(['bench' => 'bake-10000-light', 'break s' => round($broken - $begin, 2), 'bake s' => round(microtime(true) - $broken, 2)], JSON_THROW_ON_ERROR), "\n";
bytesAFrame($path, 'frames-10000-light');

$random = RandomStream::named(1, 'vertices');
$vertices = [];
for ($i = 0; $i < 30000; $i++) {
    $vertices[] = $random->between(-1.0, 1.0);
}
$tracks = [new Track('cloth', Track::VERTICES, 10000)];
$writer = BakeWriter::create($path, new Manifest(24.0, 12, 'bench', $tracks));
for ($n = 1; $n <= 12; $n++) {
    $writer->append(new Frame($n, $tracks, [array_map(static fn (float $v): float => $v + 0.01 * $n, $vertices)], ['released' => 0.0, 'moving' => 0.0, 'kinetic' => 0.0]));
}
$writer->close();
clearstatcache();
echo json_encode(['bench' => 'frames-10000-vertices', 'bytes a vertex and frame' => round(filesize($path) / 12 / 10000, 2)], JSON_THROW_ON_ERROR), "\n";

// All of it moves in every frame, so every record is as large as can be.
$tracks = [new Track('a', Track::POSE, 10000)];
$frames = (int) ceil($megabytes * 1e6 / 200000);
$writer = BakeWriter::create($path, new Manifest(24.0, $frames, 'bench', $tracks));
$poses = [];
for ($k = 0; $k < 10000; $k++) {
    array_push($poses, $random->between(-1.0, 1.0), $random->between(-1.0, 1.0), $random->between(-1.0, 1.0), 0.0, 0.0, 0.6, 0.8);
}
for ($n = 1; $n <= $frames; $n++) {
    for ($k = 0; $k < 70000; $k += 7) {
        $poses[$k] += 0.001;
    }
    $writer->append(new Frame($n, $tracks, [$poses], ['released' => 0.0, 'moving' => 0.0, 'kinetic' => 0.0]));
}
$writer->close();
clearstatcache();
$times = [];
for ($k = 0; $k < 200; $k++) {
    $number = 1 + (int) ($random->float() * $frames);
    $begin = hrtime(true);
    BakeReader::open($path)->track($number, 0);
    $times[] = (hrtime(true) - $begin) / 1e6;
}
sort($times);
echo json_encode(['bench' => 'read-any-frame', 'megabytes' => round(filesize($path) / 1e6), 'pieces' => 10000, 'median ms' => round($times[100], 2), 'worst ms' => round($times[199], 2)], JSON_THROW_ON_ERROR), "\n";
