<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\BadBake;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\BakeWriter;
use YardBreak\Core\Bake\Codec\Codecs;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;

/** The frames file: what is written is read, whole or not at all. */
final class FramesTest extends TestCase
{
    private const FRAMES = 40;

    private string $path;

    protected function setUp(): void
    {
        $this->path = sys_get_temp_dir() . '/yard-frames2-' . getmypid();
    }

    protected function tearDown(): void
    {
        @unlink($this->path);
        @unlink(BakeReader::indexOf($this->path));
    }

    /** @return list<Track> one of every kind */
    private static function tracks(): array
    {
        return [
            new Track('a', Track::POSE, 50), new Track('a', Track::WEIGHT, 50), new Track('a', Track::FLAGS, 50),
            new Track('b', Track::VERTICES, 30), new Track('c', Track::LIFE, 20), new Track('c', Track::SCALE, 20), new Track('still', Track::POSE, 3),
        ];
    }

    /** Some parts move at some frames, later fewer; some tracks never change. */
    private static function frame(int $number): Frame
    {
        $values = [];
        foreach (self::tracks() as $t => $track) {
            $numbers = [];
            for ($k = 0; $k < $track->count; $k++) {
                $moves = $track->prop !== 'still' && ($k % 3 === 0 || $number < 12);
                $stream = RandomStream::named($moves ? $number : 0, "track {$t}", $k);
                switch ($track->kind) {
                    case Track::POSE:
                        $q = [$stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0)];
                        $l = sqrt(array_sum(array_map(static fn (float $v): float => $v * $v, $q)));
                        array_push($numbers, $stream->between(-9.0, 9.0), $stream->between(-9.0, 9.0), $stream->between(-9.0, 9.0), ...array_map(static fn (float $v): float => $v / $l, $q));
                        break;
                    case Track::VERTICES:
                    case Track::SCALE:
                        array_push($numbers, $stream->between(0.5, 2.0), $stream->between(-3.0, 2.0), $stream->between(7.0, 8.0));
                        break;
                    default:
                        $numbers[] = $track->kind === Track::FLAGS ? (int) $stream->between(0.0, 4.0) : $stream->float();
                }
            }
            $values[] = $numbers;
        }

        return new Frame($number, self::tracks(), $values, ['released' => (float) $number, 'moving' => 2.0, 'kinetic' => 0.5 * $number]);
    }

    private function write(int $frames = self::FRAMES): void
    {
        $writer = BakeWriter::create($this->path, new Manifest(24.0, self::FRAMES, str_repeat('ab', 32), self::tracks()));
        for ($n = 1; $n <= $frames; $n++) {
            $writer->append(self::frame($n));
        }
        $writer->close();
    }

    private static function assertNear(Frame $expected, ?Frame $read): void
    {
        self::assertNotNull($read);
        self::assertSame($expected->number, $read->number);
        self::assertSame([$expected->released(), $expected->moving(), $expected->kinetic()], [$read->released(), $read->moving(), $read->kinetic()]);
        // A place in steps of 2^-16 m where its largest coordinate is below 16 m.
        $tolerance = [Track::POSE => 0.5 / 65536.0 + 1e-9, Track::WEIGHT => 0.002, Track::LIFE => 0.002, Track::FLAGS => 0.0, Track::VERTICES => 5.0 / 131070.0 + 1e-6, Track::SCALE => 1e-6];
        foreach (self::tracks() as $t => $track) {
            self::assertCount(count($expected->values[$t]), $read->values[$t]);
            $per = Codecs::of($track->kind)->numbers();
            for ($k = 0; $k < $track->count; $k++) {
                $a = array_slice($expected->values[$t], $per * $k, $per);
                $b = array_slice($read->values[$t], $per * $k, $per);
                if ($track->kind === Track::POSE) {
                    // A turn and its opposite are the same turn.
                    $dot = $a[3] * $b[3] + $a[4] * $b[4] + $a[5] * $b[5] + $a[6] * $b[6];
                    self::assertEqualsWithDelta(1.0, abs($dot), 1e-10);
                    [$a, $b] = [array_slice($a, 0, 3), array_slice($b, 0, 3)];
                }
                self::assertEqualsWithDelta($a, $b, $tolerance[$track->kind], "{$track->kind} of part {$k}, frame {$expected->number}");
            }
        }
    }

    public function testWhatIsWrittenIsReadInAnyOrder(): void
    {
        $this->write();
        $reader = BakeReader::open($this->path);
        self::assertSame(self::FRAMES, $reader->frames());
        self::assertSame([24.0, self::FRAMES, str_repeat('ab', 32), 53], [$reader->manifest->fps, $reader->manifest->frames, $reader->manifest->hash, $reader->manifest->pieces()]);
        self::assertEquals(self::tracks(), $reader->manifest->tracks);
        foreach ([17, 1, 40, 3, 25, 24, 39, 12, 13] as $n) {
            self::assertNear(self::frame($n), $reader->frame($n));
            self::assertSame(['released' => (float) $n, 'moving' => 2.0, 'kinetic' => 0.5 * $n, 'speed' => 0.0, 'impulse' => 0.0], $reader->readout($n));
        }
        self::assertNull($reader->frame(0));
        self::assertNull($reader->frame(41));
        // Without its index the file says the same.
        unlink(BakeReader::indexOf($this->path));
        $again = BakeReader::open($this->path);
        self::assertSame(self::FRAMES, $again->frames());
        self::assertEquals($reader->frame(31), $again->frame(31));
    }

    public function testWhatRestsCostsNothing(): void
    {
        $tracks = [new Track('a', Track::POSE, 500), new Track('a', Track::FLAGS, 500)];
        $writer = BakeWriter::create($this->path, new Manifest(24.0, 50, str_repeat('ab', 32), $tracks));
        $poses = [];
        for ($k = 0; $k < 500; $k++) {
            array_push($poses, 0.1 * $k, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0);
        }
        $sizes = [];
        for ($n = 1; $n <= 50; $n++) {
            // From frame 20 on only one in ten moves, from 40 on nothing.
            for ($k = 0; $k < ($n < 20 ? 500 : ($n < 40 ? 50 : 0)); $k++) {
                $poses[7 * $k + 1] -= 0.01;
            }
            $before = (int) @filesize($this->path);
            $writer->append(new Frame($n, $tracks, [$poses, array_fill(0, 500, 1)], ['released' => 500.0]));
            clearstatcache();
            $sizes[$n] = (int) filesize($this->path) - $before;
        }
        $writer->close();
        $head = 88;
        self::assertLessThan(16 * 500 + $head, $sizes[10], '16 bytes a moving piece');
        self::assertLessThan(17 * 50 + $head + 16 * 500 / 24, array_sum(array_slice($sizes, 29, 10)) / 10);
        self::assertLessThan($head, $sizes[50], 'nothing for what rests');
    }

    /** A file cut at every byte of its last record never shows a torn frame, with an index or without. */
    #[Group('thorough')]
    public function testATornTailIsNeverShown(): void
    {
        $this->write(6);
        $whole = (string) file_get_contents($this->path);
        $index = (string) file_get_contents(BakeReader::indexOf($this->path));
        [$from] = BakeReader::open($this->path)->endOf(5);
        $expected = BakeReader::open($this->path)->frame(5);
        for ($cut = $from; $cut < strlen($whole); $cut++) {
            file_put_contents($this->path, substr($whole, 0, $cut));
            foreach ([$index, substr($index, 0, -5), ''] as $k => $has) {
                if ($cut % 7 !== 0 && $k > 0) {
                    continue;
                }
                file_put_contents(BakeReader::indexOf($this->path), $has);
                $reader = BakeReader::open($this->path);
                self::assertSame(5, $reader->frames(), "cut at {$cut}");
                self::assertNull($reader->frame(6));
            }
        }
        self::assertEquals($expected, BakeReader::open($this->path)->frame(5));
    }

    public function testADamagedRecordIsNotShown(): void
    {
        $this->write();
        $reader = BakeReader::open($this->path);
        [$from] = $reader->endOf(9);
        [$to] = $reader->endOf(10);
        $bytes = (string) file_get_contents($this->path);
        for ($at = $from + 4; $at < $to; $at += 97) {
            $damaged = $bytes;
            $damaged[$at] = chr(ord($damaged[$at]) ^ 16);
            file_put_contents($this->path, $damaged);
            $reader = BakeReader::open($this->path);
            self::assertNull($reader->frame(10), "byte {$at}");
            self::assertNear(self::frame(9), $reader->frame(9));
        }
    }

    /** A writer that goes on behind a frame writes what one that never stopped would have written. */
    public function testAWriterGoesOnWithTheSameBytes(): void
    {
        $this->write();
        $expected = (string) file_get_contents($this->path);
        $index = (string) file_get_contents(BakeReader::indexOf($this->path));
        foreach ([0, 1, 13, 26, 39, 40] as $after) {
            $this->write(min(self::FRAMES, $after + 3));
            // As a worker that was killed leaves it.
            file_put_contents($this->path, 'half a record', FILE_APPEND);
            $writer = BakeWriter::adopt($this->path, new Manifest(24.0, self::FRAMES, str_repeat('ab', 32), self::tracks()), $this->path, $after);
            for ($n = $after + 1; $n <= self::FRAMES; $n++) {
                $writer->append(self::frame($n));
            }
            $writer->close();
            self::assertSame(hash('sha256', $expected), hash_file('sha256', $this->path), "behind {$after}");
            self::assertSame($index, file_get_contents(BakeReader::indexOf($this->path)));
        }
        $this->expectException(BadBake::class);
        BakeWriter::adopt($this->path, new Manifest(24.0, self::FRAMES, str_repeat('ab', 32), self::tracks()), $this->path, 41);
    }

    public function testOldAndForeignFilesAreRefusedInWords(): void
    {
        foreach (['YBFRAMES' . pack('VV', 2, 64) . str_repeat('x', 100) => 'Bake again', 'something else entirely' => 'no frames file', 'YBFRAMES' . pack('VV', 3, 8) . '{broken}' => 'damaged'] as $bytes => $words) {
            file_put_contents($this->path, $bytes);
            try {
                BakeReader::open($this->path);
                self::fail('It was read.');
            } catch (BadBake $refused) {
                self::assertStringContainsString($words, $refused->getMessage());
            }
        }
    }

    /** Places of any size come back within a millionth of their largest coordinate, and powers of two exactly. */
    public function testPlacesKeepTheirSize(): void
    {
        $codec = Codecs::of(Track::POSE);
        $stream = RandomStream::named(4, 'places');
        for ($k = 0; $k < 2000; $k++) {
            $size = 10.0 ** $stream->between(-9.0, 9.0);
            $place = [$size * $stream->between(-1.0, 1.0), $size * $stream->between(-1.0, 1.0), $k % 5 === 0 ? 0.0 : $size * $stream->between(-1.0, 1.0)];
            $back = array_slice($codec->decode($codec->encode([...$place, 0.0, 0.0, 0.0, 1.0])), 0, 3);
            self::assertEqualsWithDelta($place, $back, max(array_map(abs(...), $place)) / 1048576.0);
        }
        // Just below where steps become coarser.
        foreach ([-1.0, 1.0] as $sign) {
            foreach ([1.0, 1.0 - 1e-9, 1.0 - 2e-7, 1.0 - 1e-6, 0.0] as $x) {
                self::assertEqualsWithDelta([$sign * $x, 0.25, -$sign * $x], array_slice($codec->decode($codec->encode([$sign * $x, 0.25, -$sign * $x, 0.0, 0.0, 0.0, 1.0])), 0, 3), 1e-6);
            }
        }
    }

    /** Any turn comes back within half a thousandth of a degree, and no turn exactly. */
    public function testTurnsKeepTheirPlace(): void
    {
        $codec = Codecs::of(Track::POSE);
        self::assertSame([1.0, 2.0, 3.0, 0.0, 0.0, 0.0, 1.0], $codec->decode($codec->encode([1.0, 2.0, 3.0, 0.0, 0.0, 0.0, 1.0])));
        $stream = RandomStream::named(3, 'turns');
        for ($k = 0; $k < 2000; $k++) {
            $q = [$stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0)];
            $l = sqrt(array_sum(array_map(static fn (float $v): float => $v * $v, $q)));
            $back = array_slice($codec->decode($codec->encode([0.0, 0.0, 0.0, ...$q])), 3);
            $dot = ($q[0] * $back[0] + $q[1] * $back[1] + $q[2] * $back[2] + $q[3] * $back[3]) / $l;
            $sine = sqrt(max(0.0, 1.0 - $dot * $dot));
            self::assertLessThan(8e-6, min($sine, 1.0));
            self::assertEqualsWithDelta(1.0, array_sum(array_map(static fn ($v): float => $v * $v, $back)), 1e-12);
        }
    }
}
