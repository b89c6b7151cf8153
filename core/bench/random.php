<?php

/**
 * Shots drawn at random, each computed in a process of its own: whether it ends, is refused in words, or has a fault, a number that is
 * none or memory that ends; seconds and megabytes. Prints a JSON line a shot that is not as it should be, and a sum at the end.
 * Usage: bin/php core/bench/random.php [FIRST LAST [SECONDS]], or one seed alone to see its document and what becomes of it
 */

declare(strict_types=1);

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Consistency;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\RandomShot;

require __DIR__ . '/../../vendor/autoload.php';
set_error_handler(static fn (int $level, string $what): bool => (error_reporting() & $level) === 0 ? true : throw new ErrorException($what, 0, $level));

/** Beyond this a place is of what ran away without being stopped, m. */
const FAR = 1e5;

/** @return array{string, string} what became of a shot, and why */
$compute = static function (int $seed): array {
    try {
        $shot = Shot::read(RandomShot::document($seed));
        Consistency::check($shot);
        foreach ((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot) as $number => $frame) {
            foreach ($frame->tracks as $k => $track) {
                $places = in_array($track->kind, [Track::POSE, Track::VERTICES], true);
                foreach ($track->kind === Track::LIFE ? [] : $frame->values[$k] as $value) {
                    if (! is_finite($value) || ($places && abs($value) > FAR)) {
                        return ['fault', "{$track->kind} of {$track->prop} is {$value} at frame {$number}"];
                    }
                }
            }
        }
    } catch (Refusal $error) {
        return ['refused', $error->getMessage()];
    } catch (Throwable $error) {
        return ['fault', $error::class . ": {$error->getMessage()} at " . basename($error->getFile()) . ":{$error->getLine()}"];
    }

    return ['computed', ''];
};

$seed = (int) ($argv[1] ?? 1);
if (isset($argv[1]) && ! isset($argv[2])) {
    $begin = microtime(true);
    [$what, $why] = $compute($seed);
    echo json_encode(['shot' => $seed, 'what' => $what, 'why' => $why, 'seconds' => round(microtime(true) - $begin, 1), 'peak MB' => memory_get_peak_usage() >> 20, 'document' => RandomShot::document($seed)], JSON_THROW_ON_ERROR), "\n";
    exit;
}
$patience = (int) ($argv[3] ?? 60);
$sum = ['computed' => 0, 'refused' => 0, 'fault' => 0, 'too long' => 0];
for ($last = (int) ($argv[2] ?? 50); $seed <= $last; $seed++) {
    exec("timeout {$patience} " . escapeshellarg(dirname(__DIR__, 2) . '/bin/php') . ' ' . escapeshellarg(__FILE__) . " {$seed} 2>&1", $lines, $status);
    $line = (string) end($lines);
    $said = json_decode($line, true);
    $what = $status === 124 ? 'too long' : (is_array($said) ? (string) $said['what'] : 'fault');
    $sum[$what]++;
    if ($what === 'fault' || $what === 'too long') {
        echo json_encode(['bench' => 'random', 'shot' => $seed, 'what' => $what, 'why' => is_array($said) ? $said['why'] : $line], JSON_THROW_ON_ERROR), "\n";
    }
    $lines = [];
}
echo json_encode(['bench' => 'random', ...$sum], JSON_THROW_ON_ERROR), "\n";
