<?php

/**
 * So many damaged files of each format, read, prepared, repaired, made flakes of and broken: how many are refused, whether any is a fault
 * of ours, the longest and the largest. One JSON line a format. Usage: bin/php core/bench/fuzz.php [10000] [format, part of its name]
 */

declare(strict_types=1);

use YardBreak\Core\Art\Artwork;
use YardBreak\Core\Art\Picture;
use YardBreak\Core\Art\PngOutline;
use YardBreak\Core\Art\Slab;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\FlakesPattern;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Parting;
use YardBreak\Core\Mesh\Repair;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Refusal;
use YardBreak\Core\Tests\Format\DamageTest;

require __DIR__ . '/../../vendor/autoload.php';
ini_set('memory_limit', '2G');
// What is asked for in silence may warn.
set_error_handler(static fn (int $level, string $what): bool => (error_reporting() & $level) === 0 ? true : throw new ErrorException($what, 0, $level));

/** A disc with a hole on a clear ground. */
$png = static function (): string {
    $image = imagecreatetruecolor(64, 48) ?: throw new RuntimeException('No picture could be made.');
    imagesavealpha($image, true);
    imagealphablending($image, false);
    imagefill($image, 0, 0, (int) imagecolorallocatealpha($image, 0, 0, 0, 127));
    imagefilledellipse($image, 30, 24, 44, 40, (int) imagecolorallocate($image, 40, 120, 160));
    imagefilledellipse($image, 30, 24, 18, 14, (int) imagecolorallocatealpha($image, 0, 0, 0, 127));
    ob_start();
    imagepng($image);

    return (string) ob_get_clean();
};

/** Seconds of processor time, whatever else the machine does. */
$busy = static function (): float {
    $use = getrusage() ?: [];

    return ($use['ru_utime.tv_sec'] ?? 0) + ($use['ru_stime.tv_sec'] ?? 0) + (($use['ru_utime.tv_usec'] ?? 0) + ($use['ru_stime.tv_usec'] ?? 0)) / 1e6;
};

$tries = (int) ($argv[1] ?? 10_000);
$only = $argv[2] ?? '';
$files = [...iterator_to_array(DamageTest::files()), 'PNG' => [$png(), static fn (string $bytes): Artwork => PngOutline::of(Picture::read($bytes))]];
foreach ($files as $format => [$bytes, $read]) {
    if (! str_contains($format, $only)) {
        continue;
    }
    $count = ['read' => 0, 'refused' => 0, 'broken' => 0, 'not broken' => 0, 'faults' => 0];
    $longest = 0.0;
    $largest = 0;
    $fault = null;
    $slowest = 0;
    for ($try = 0; $try < $tries; $try++) {
        $damaged = DamageTest::damaged($bytes, RandomStream::named($try, 'fuzz'));
        memory_reset_peak_usage();
        $before = memory_get_usage();
        $begin = $busy();
        try {
            $mesh = $read($damaged);
            $mesh = $mesh instanceof Artwork ? Slab::of($mesh, 1.0, 0.1, 0.01) : $mesh;
            $count['read']++;
            $mesh = Normals::computed(Parting::whereCrowded($mesh));
            iterator_count((new FlakesPattern(12, 1, 0.3, 0.01, 0.0))->flakes($mesh, new Progress()));
            $mended = Normals::computed(Repair::of($mesh)->mesh);
            try {
                $pieces = (new Breaker())->break($mended, new CellularPattern(8, 1, 0.3))->pieces;
                foreach ($pieces as $piece) {
                    if (! Topology::of($piece->mesh)->isWatertight() || $piece->mass->volume <= 0.0) {
                        throw new LogicException('A piece is open or inside out.');
                    }
                }
                $count['broken']++;
            } catch (Refusal) {
                $count['not broken']++;
            }
        } catch (Refusal) {
            $count['refused']++;
        } catch (Throwable $thrown) {
            $count['faults']++;
            $fault ??= "{$try}: " . $thrown::class . ': ' . $thrown->getMessage() . ' at ' . basename($thrown->getFile()) . ':' . $thrown->getLine();
        }
        $took = $busy() - $begin;
        [$longest, $slowest] = $took > $longest ? [$took, $try] : [$longest, $slowest];
        $largest = max($largest, memory_get_peak_usage() - $before);
    }
    echo json_encode(['format' => $format, ...$count, 'longest_s' => round($longest, 2), 'of' => $slowest, 'largest_mb' => (int) ($largest / 1e6), 'first fault' => $fault]), "\n";
}
