<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

/**
 * One frame's bytes: length, checksum, number, the readout, a table of the tracks, the tracks. A track is written whole, or
 * as the parts that differ from an earlier frame, its base, or not at all if nothing does.
 */
final readonly class FrameRecord
{
    /** Nothing differs from the base. */
    public const SAME = 0;

    public const WHOLE = 1;

    /** The parts that differ from the base (`ChangedParts`). */
    public const PARTS = 2;

    /** Length, checksum, frame, number of readouts, number of tracks, nothing. */
    public const HEAD = 24;

    /** Mode, base frame, place in the record, bytes. */
    private const ENTRY = 16;

    /** No record is longer; a length beyond it is damage. */
    private const LONGEST = 1 << 30;

    /**
     * @param list<float> $readout
     * @param list<array{int, int, string}> $tracks mode, base frame, bytes
     */
    public static function encode(int $number, array $readout, array $tracks): string
    {
        $head = pack('V4', $number, count($readout), count($tracks), 0) . ($readout === [] ? '' : pack('g*', ...$readout)) . str_repeat("\0", count($readout) % 2 * 4);
        $table = $data = '';
        // Counted from the record's beginning, with length and checksum.
        $at = 8 + strlen($head) + self::ENTRY * count($tracks);
        foreach ($tracks as [$mode, $base, $bytes]) {
            $table .= pack('V4', $mode, $base, $at + strlen($data), strlen($bytes));
            $data .= $bytes . str_repeat("\0", (8 - strlen($bytes) % 8) % 8);
        }
        $body = $head . $table . $data;

        return pack('VV', 8 + strlen($body), crc32($body)) . $body;
    }

    /** Length that a record's first bytes say, if it can be one. */
    public static function length(string $head): ?int
    {
        if (strlen($head) < 4) {
            return null;
        }
        /** @var array{1: int} $length */
        $length = unpack('V', $head);

        return $length[1] >= self::HEAD && $length[1] % 8 === 0 && $length[1] <= self::LONGEST ? $length[1] : null;
    }

    public static function isSound(string $record): bool
    {
        if (self::length($record) !== strlen($record)) {
            return false;
        }
        /** @var array{1: int} $sum */
        $sum = unpack('V', $record, 4);

        return $sum[1] === crc32(substr($record, 8));
    }

    public static function number(string $record): int
    {
        /** @var array{1: int} $number */
        $number = unpack('V', $record, 8);

        return $number[1];
    }

    /** @return list<float> */
    public static function readout(string $record): array
    {
        /** @var array{1: int} $count */
        $count = unpack('V', $record, 12);
        /** @var array<int, float> $values */
        $values = $count[1] === 0 ? [] : unpack("g{$count[1]}", $record, self::HEAD);

        return array_values($values);
    }

    /** @return array{int, int, string} mode, base frame, bytes of a track */
    public static function track(string $record, int $track): array
    {
        /** @var array{readouts: int, tracks: int} $counts */
        $counts = unpack('Vreadouts/Vtracks', $record, 12);
        /** @var array{mode: int, base: int, at: int, bytes: int} $entry */
        $entry = unpack('Vmode/Vbase/Vat/Vbytes', $record, self::HEAD + 4 * ($counts['readouts'] + $counts['readouts'] % 2) + self::ENTRY * $track);

        return [$entry['mode'], $entry['base'], substr($record, $entry['at'], $entry['bytes'])];
    }
}
