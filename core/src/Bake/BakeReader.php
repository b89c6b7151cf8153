<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Bake\Codec\Codecs;
use YardBreak\Core\Bake\Codec\TrackCodec;
use YardBreak\Core\Motion\Frame;

/**
 * Reads any frame of a bake, also while it is being written: the record, and the earlier ones from which its tracks differ.
 * A record whose checksum is wrong is never shown, nor one that is not all there.
 */
final class BakeReader
{
    public const INDEX = 'YBINDEX2';

    /** Place and length. */
    public const ENTRY = 12;

    /** Records kept, since frames share those from which their tracks differ. */
    private const KEPT = 8;

    /** @var list<array{int, int}> place and length of each record */
    private array $places = [];

    /** @var array<int, string> */
    private array $records = [];

    /** @var list<TrackCodec> */
    private array $codecs = [];

    /** @param resource $file */
    private function __construct(private readonly string $path, private $file, public readonly Manifest $manifest, private readonly int $begin)
    {
        foreach ($manifest->tracks as $track) {
            $this->codecs[] = Codecs::of($track->kind);
        }
        $this->refresh();
    }

    /** @throws BadBake */
    public static function open(string $path): self
    {
        $file = @fopen($path, 'rb');
        if ($file === false) {
            throw new BadBake('There are no frames yet.');
        }
        [$manifest, $begin] = Manifest::read($file);

        return new self($path, $file, $manifest, $begin);
    }

    public static function indexOf(string $path): string
    {
        return "{$path}.index";
    }

    /** @return string what an index of the file says: without one, whoever reads a frame looks through all of it first */
    public function index(): string
    {
        return self::INDEX . implode('', array_map(static fn (array $place): string => pack('PV', ...$place), $this->places));
    }

    /** Frames that are wholly there, counted from the first. */
    public function frames(): int
    {
        return count($this->places);
    }

    /** Looks for frames that have come since. */
    public function refresh(): void
    {
        clearstatcache(true, $this->path);
        $size = (int) @filesize($this->path);
        $bytes = (string) @file_get_contents(self::indexOf($this->path));
        $places = [];
        $at = $this->begin;
        if (str_starts_with($bytes, self::INDEX)) {
            for ($k = strlen(self::INDEX); $k + self::ENTRY <= strlen($bytes); $k += self::ENTRY) {
                /** @var array{at: int, length: int} $entry */
                $entry = unpack('Pat/Vlength', $bytes, $k);
                if ($entry['at'] !== $at || $at + $entry['length'] > $size) {
                    break;
                }
                $places[] = [$at, $entry['length']];
                $at += $entry['length'];
            }
        }
        // Without an index, or with one that lags, the records themselves say how long they are.
        while (($length = FrameRecord::length($this->bytes($at, 4))) !== null && $at + $length <= $size && FrameRecord::isSound($this->bytes($at, $length))) {
            $places[] = [$at, $length];
            $at += $length;
        }
        // The last one may be torn though the file is as long as the index says.
        while ($places !== [] && ! FrameRecord::isSound($this->bytes(...$places[count($places) - 1]))) {
            array_pop($places);
        }
        $this->places = $places;
    }

    /** @return array<string, float>|null the readout alone; null: the frame is not there, or damaged */
    public function readout(int $number): ?array
    {
        $record = $this->record($number);

        return $record === null ? null : $this->named($record);
    }

    /** Null: the frame is not there, or damaged. */
    public function frame(int $number): ?Frame
    {
        $record = $this->record($number);
        if ($record === null) {
            return null;
        }
        $values = [];
        foreach ($this->codecs as $k => $codec) {
            $bytes = $this->bytesIn($record, $k);
            if ($bytes === null) {
                return null;
            }
            $values[] = $codec->decode($bytes);
        }

        return new Frame($number, $this->manifest->tracks, $values, $this->named($record));
    }

    /** @return list<float|int>|null the values of one track alone */
    public function track(int $number, int $track): ?array
    {
        $record = $this->record($number);
        $bytes = $record === null ? null : $this->bytesIn($record, $track);

        return $bytes === null ? null : $this->codecs[$track]->decode($bytes);
    }

    /** @throws BadBake if the frame is not there, or damaged */
    public function recordBytes(int $number): string
    {
        return $this->record($number) ?? throw new BadBake("Frame {$number} is not there.");
    }

    /**
     * The frame in which a track of this frame is whole.
     *
     * @throws BadBake if the frame is not there, or damaged
     */
    public function wholeOf(int $number, int $track): int
    {
        [, $base] = FrameRecord::track($this->recordBytes($number), $track);

        return $base === $number ? $number : $this->wholeOf($base, $track);
    }

    /**
     * The frame that a track of this frame does not differ from; 0: it has bytes of its own.
     *
     * @throws BadBake if the frame is not there, or damaged
     */
    public function restsAs(int $number, int $track): int
    {
        [$mode, $base] = FrameRecord::track($this->recordBytes($number), $track);

        return $mode === FrameRecord::SAME ? $base : 0;
    }

    /**
     * All parts of a track in a frame.
     *
     * @throws BadBake if the frame is not there, or damaged
     */
    public function trackBytes(int $number, int $track): string
    {
        return $this->bytesIn($this->recordBytes($number), $track) ?? throw new BadBake("Frame {$number} is damaged.");
    }

    /** @return array{int, int} where the file and its index end behind a frame */
    public function endOf(int $number): array
    {
        $last = $number > 0 ? $this->places[$number - 1] : [$this->begin, 0];

        return [$last[0] + $last[1], strlen(self::INDEX) + self::ENTRY * $number];
    }

    /** @return array<string, float> */
    private function named(string $record): array
    {
        $values = FrameRecord::readout($record);
        $named = [];
        foreach ($this->manifest->readout as $k => $name) {
            $named[$name] = $values[$k] ?? 0.0;
        }

        return $named;
    }

    private function bytesIn(string $record, int $track): ?string
    {
        [$mode, $base, $bytes] = FrameRecord::track($record, $track);
        if ($mode === FrameRecord::WHOLE) {
            return $bytes;
        }
        // Bases lie further and further back, so that this ends.
        $before = $base < FrameRecord::number($record) ? $this->record($base) : null;
        $whole = $before === null ? null : $this->bytesIn($before, $track);

        return $mode === FrameRecord::SAME || $whole === null ? $whole : ChangedParts::onto($whole, $bytes, $this->codecs[$track]->size() ?? 0);
    }

    private function record(int $number): ?string
    {
        if (isset($this->records[$number])) {
            return $this->records[$number];
        }
        if ($number < 1 || $number > count($this->places)) {
            return null;
        }
        $record = $this->bytes(...$this->places[$number - 1]);
        if (! FrameRecord::isSound($record) || FrameRecord::number($record) !== $number) {
            return null;
        }
        if (count($this->records) >= self::KEPT) {
            unset($this->records[array_key_first($this->records)]);
        }

        return $this->records[$number] = $record;
    }

    private function bytes(int $at, int $length): string
    {
        fseek($this->file, $at);

        return $length > 0 ? (string) fread($this->file, $length) : '';
    }
}
