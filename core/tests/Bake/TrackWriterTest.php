<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\ChangedParts;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Bake\TrackWriter;

/** How frames of a track are written: what has come to rest is not paid for again and again. */
final class TrackWriterTest extends TestCase
{
    private const SIZE = 16;

    private const PARTS = 200;

    /** At frame n the first of the parts rest where they came to rest, four more with each frame; the others move. */
    private static function frame(int $n): string
    {
        $bytes = '';
        for ($k = 0; $k < self::PARTS; $k++) {
            $bytes .= str_pad(pack('VV', $k, min($n, intdiv($k, 4))), self::SIZE, 'x');
        }

        return $bytes;
    }

    /** Whatever is written, the frame can be read from it, its base, and the base of that. */
    public function testPartsAndBasesMakeTheFrame(): void
    {
        $writer = new TrackWriter(self::SIZE);
        $read = $depths = [];
        for ($n = 1; $n <= 70; $n++) {
            [$mode, $base, $bytes] = $writer->write(self::frame($n), $n);
            [$before, $depth] = $mode === FrameRecord::WHOLE ? ['', 0] : $read[$base];
            $frame = match ($mode) {
                FrameRecord::WHOLE => $bytes,
                FrameRecord::SAME => $before,
                default => self::put($before, $bytes),
            };
            self::assertSame(self::frame($n), $frame, "frame {$n}");
            self::assertSame($frame, $mode === FrameRecord::PARTS ? ChangedParts::onto($before, $bytes, self::SIZE) : $frame, 'and so does what reads it');
            $read[$n] = [$frame, $depth + 1];
            $depths["{$mode} {$depth}"] = true;
        }
        ksort($depths);
        self::assertSame(['0 2', '1 0', '2 1', '2 2'], array_keys($depths), 'the same as one by parts, whole, by parts of a whole one, by parts of one by parts');
    }

    /** Parts put where their gaps say, written down once more. */
    private static function put(string $whole, string $parts): string
    {
        /** @var array{1: int} $count */
        $count = unpack('V', $parts);
        $at = $k = 0;
        foreach (str_split(substr($parts, 4 + $count[1] * self::SIZE)) as $gap) {
            $at += ord($gap);
            if (ord($gap) < 255) {
                $whole = substr_replace($whole, substr($parts, 4 + self::SIZE * $k++, self::SIZE), self::SIZE * $at++, self::SIZE);
            }
        }

        return $whole;
    }

    /** Parts far apart, side by side, the first and the last. */
    public function testGapsOfAnyLength(): void
    {
        $numbers = [0, 1, 256, 257, 512, 768, 1279, 2559, 2560, 9999];
        $whole = str_repeat('.', 20000);
        $expected = $whole;
        foreach ($numbers as $number) {
            $expected = substr_replace($expected, 'ab', 2 * $number, 2);
        }
        self::assertSame($expected, ChangedParts::onto($whole, ChangedParts::encode(array_fill_keys($numbers, 'ab')), 2));
        self::assertSame($whole, ChangedParts::onto($whole, ChangedParts::encode([]), 2));
    }

    /** What moves is paid with its numbers and little more; what rests, together hardly more than writing it twice. */
    public function testRestIsPaidOnce(): void
    {
        $writer = new TrackWriter(self::SIZE);
        $writer->write(self::frame(1), 1);
        $written = $moving = 0;
        for ($n = 2; $n <= 49; $n++) {
            $written += strlen($writer->write(self::frame($n), $n)[2]);
            $moving += count(array_diff_assoc(str_split(self::frame($n), self::SIZE), str_split(self::frame($n - 1), self::SIZE)));
        }
        self::assertLessThan(1.25 * (self::SIZE + 1) * $moving, $written);
        // All rest from here on.
        $rest = array_map(static fn (int $n): int => strlen($writer->write(self::frame(50), $n)[2]), range(50, 70));
        self::assertLessThanOrEqual((int) (2.5 * self::SIZE * self::PARTS), array_sum($rest));
        self::assertSame(0, array_sum(array_slice($rest, -5)));
    }

    /** One that goes on behind any frame writes what one that never stopped would have written. */
    public function testItGoesOn(): void
    {
        $writer = new TrackWriter(self::SIZE);
        $all = [];
        for ($n = 1; $n <= 60; $n++) {
            $all[$n] = $writer->write(self::frame($n), $n);
        }
        for ($after = 1; $after < 60; $after++) {
            $base = $after;
            while ($all[$base][0] !== FrameRecord::WHOLE) {
                $base = $all[$base][1];
            }
            $again = new TrackWriter(self::SIZE);
            for ($n = $base; $n <= $after; $n++) {
                $again->write(self::frame($n), $n);
            }
            for ($n = $after + 1; $n <= 60; $n++) {
                self::assertSame($all[$n], $again->write(self::frame($n), $n), "frame {$n} behind {$after}");
            }
        }
    }
}
