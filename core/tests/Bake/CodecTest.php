<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Codec\Codecs;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Motion\Track;

/** How far what is read may be from what was written, as docs/frames.md says; and what never changes on the way. */
final class CodecTest extends TestCase
{
    public function testATurnIsOffByNoMoreThanItIsSaid(): void
    {
        $codec = Codecs::of(Track::POSE);
        $random = RandomStream::named(3, 'poses');
        $values = $turns = [];
        for ($k = 0; $k < 3000; $k++) {
            // Every part is the largest now and then, of either sign, and some are 0.
            $q = [];
            for ($c = 0; $c < 4; $c++) {
                $q[] = $random->float() < 0.1 ? 0.0 : $random->between(-1.0, 1.0);
            }
            $turns[] = $q === [0.0, 0.0, 0.0, 0.0] ? Quaternion::IDENTITY : Quaternion::normalized($q);
            array_push($values, $random->between(-50.0, 50.0), 0.1, -1e-9, ...$turns[$k]);
        }
        $bytes = $codec->encode($values);
        self::assertSame(16 * 3000, strlen($bytes));
        $read = $codec->decode($bytes);
        $worst = 0.0;
        foreach ($turns as $k => $turn) {
            $q = array_slice($read, 7 * $k + 3, 4);
            self::assertEqualsWithDelta(1.0, array_sum(array_map(static fn ($c): float => $c * $c, $q)), 1e-9, 'a unit still');
            // The same turn may be written with the opposite sign.
            $sign = array_sum(array_map(static fn ($a, $b): float => $a * $b, $q, $turn)) < 0.0 ? -1.0 : 1.0;
            foreach ($q as $c => $part) {
                $worst = max($worst, abs($sign * $part - $turn[$c]));
            }
            self::assertEqualsWithDelta(array_slice($values, 7 * $k, 3), array_slice($read, 7 * $k, 3), max(0.1, abs($values[7 * $k])) / 1048576.0, 'a millionth of the largest');
        }
        // Half a step of the three that are written; what is left out may be off by as much as all three.
        self::assertLessThan(8.1e-6, $worst);
        self::assertGreaterThan(1e-6, $worst, 'as bad as it may be');
    }

    /** What lies still is the same bytes again after it has been read; a turn of which two parts are the largest is within a step. */
    public function testWhatWasReadIsWrittenTheSame(): void
    {
        $random = RandomStream::named(5, 'again');
        foreach ([Track::POSE, Track::SCALE, Track::VERTICES, Track::WEIGHT, Track::LIFE, Track::FLAGS] as $kind) {
            $codec = Codecs::of($kind);
            $values = [];
            for ($k = 0; $k < 210; $k++) {
                $values[] = $kind === Track::FLAGS ? (int) $random->between(0.0, 8.0) : $random->between(0.0, 1.0);
            }
            $bytes = $codec->encode($values);
            $read = $codec->decode($bytes);
            if ($kind === Track::POSE) {
                foreach (array_chunk($codec->decode($codec->encode($read)), 7) as $k => $pose) {
                    self::assertSame(array_slice($read, 7 * $k, 3), array_slice($pose, 0, 3), 'a place to the bit');
                    self::assertEqualsWithDelta(array_slice($read, 7 * $k + 3, 4), array_slice($pose, 3), 8.1e-6);
                }
            } else {
                self::assertSame(bin2hex($bytes), bin2hex($codec->encode($read)), $kind);
            }
            self::assertSame([], $codec->decode($codec->encode([])), "{$kind}, of nothing");
            if ($codec->size() !== null) {
                self::assertSame(intdiv(210, $codec->numbers()) * $codec->size(), strlen($bytes), $kind);
            }
        }
    }

    public function testVerticesAreOffByNoMoreThanHalfAStep(): void
    {
        $codec = Codecs::of(Track::VERTICES);
        $random = RandomStream::named(4, 'vertices');
        $values = [];
        for ($k = 0; $k < 500; $k++) {
            // Flat in y: a cloth that lies on the floor.
            array_push($values, $random->between(-3.0, 5.0), 0.25, $random->between(100.0, 100.5));
        }
        $worst = [0.0, 0.0, 0.0];
        foreach ($codec->decode($codec->encode($values)) as $k => $value) {
            $worst[$k % 3] = max($worst[$k % 3], abs($value - $values[$k]));
        }
        foreach ([8.0, 0.0, 0.5] as $axis => $span) {
            // And what singles lose at that distance from 0.
            self::assertLessThan($span / 131_070.0 + 8e-6, $worst[$axis]);
        }
        self::assertLessThan(1e-7, $worst[1]);
    }

    public function testWeightsAreReadWithinHalfAStepOfABisectedByte(): void
    {
        $codec = Codecs::of(Track::WEIGHT);
        $read = $codec->decode($codec->encode([0.0, 1.0, 0.5, 1.0 / 255.0, 0.0019, 0.9981]));
        self::assertSame([0.0, 1.0], array_slice($read, 0, 2), 'nothing and all are exact');
        self::assertEqualsWithDelta([0.5, 1.0 / 255.0, 0.0019, 0.9981], array_slice($read, 2), 0.5 / 255.0);
        self::assertSame([0, 1, 3, 255], Codecs::of(Track::FLAGS)->decode(Codecs::of(Track::FLAGS)->encode([0, 1, 3, 255])));
    }

    /** Layout as docs/frames.md has it, byte by byte. */
    public function testARecordIsLaidOutAsWritten(): void
    {
        $record = FrameRecord::encode(7, [1.0, 2.0, 0.5], [[FrameRecord::WHOLE, 7, 'abcde'], [FrameRecord::SAME, 3, ''], [FrameRecord::PARTS, 3, 'xyzwxyzw']]);
        $head = unpack('Vlength/Vsum/Vnumber/Vreadouts/Vtracks/Vnothing', $record);
        self::assertIsArray($head);
        self::assertSame([strlen($record), 7, 3, 3, 0], [$head['length'], $head['number'], $head['readouts'], $head['tracks'], $head['nothing']]);
        // The checksum of PHP's own zlib over all that follows it.
        self::assertSame(hexdec(hash('crc32b', substr($record, 8))), $head['sum']);
        self::assertSame(0, strlen($record) % 8);
        self::assertSame([1.0, 2.0, 0.5], FrameRecord::readout($record));
        self::assertSame([FrameRecord::WHOLE, 7, 'abcde'], FrameRecord::track($record, 0));
        self::assertSame([FrameRecord::SAME, 3, ''], FrameRecord::track($record, 1));
        self::assertSame([FrameRecord::PARTS, 3, 'xyzwxyzw'], FrameRecord::track($record, 2));
        // Three readouts are padded to four; the table begins at 40, and each track's bytes at a multiple of eight.
        self::assertSame(40 + 3 * 16, unpack('V', $record, 40 + 8)[1] ?? null);
    }
}
