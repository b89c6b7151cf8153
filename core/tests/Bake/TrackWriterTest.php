<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Bake\TrackWriter;

/** How frames of a track are written: what has come to rest is not paid for again and again. */
final class TrackWriterTest extends TestCase
{
    private const SIZE = 20;

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

    /** Whatever is written, the frame can be read from it and its base. */
    public function testPartsAndBaseMakeTheFrame(): void
    {
        $writer = new TrackWriter(self::SIZE);
        $whole = [];
        $modes = [];
        for ($n = 1; $n <= 70; $n++) {
            [$mode, $base, $bytes] = $writer->write(self::frame($n), $n);
            $modes[$mode] = ($modes[$mode] ?? 0) + 1;
            if ($mode === FrameRecord::WHOLE) {
                $whole[$n] = $bytes;
            }
            $read = $whole[$base];
            if ($mode === FrameRecord::PARTS) {
                /** @var array<int, int> $unpacked */
                $unpacked = unpack('V*', $bytes);
                $count = $unpacked[1];
                for ($k = 0; $k < $count; $k++) {
                    $read = substr_replace($read, substr($bytes, 4 + 4 * $count + self::SIZE * $k, self::SIZE), self::SIZE * $unpacked[2 + $k], self::SIZE);
                }
            }
            self::assertSame(self::frame($n), $read, "frame {$n}");
        }
        self::assertCount(3, $modes, 'whole, by parts and not at all');
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
        self::assertLessThan(1.35 * (self::SIZE + 4) * $moving, $written);
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
            $base = $all[$after][1];
            $numbers = range($base, min($after, $base + TrackWriter::FRESH));
            $again = new TrackWriter(self::SIZE);
            $again->resume(array_combine($numbers, array_map(self::frame(...), $numbers)));
            for ($n = $after + 1; $n <= 60; $n++) {
                self::assertSame($all[$n], $again->write(self::frame($n), $n), "frame {$n} behind {$after}");
            }
        }
    }
}
