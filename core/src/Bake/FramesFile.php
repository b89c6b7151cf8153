<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use RuntimeException;
use YardBreak\Core\Motion\Frame;

/**
 * The stored frames of a bake: a header and records of equal length, appended one by one, so any frame can be read by its
 * place in the file while the rest is still being written. Every record carries a checksum; a torn last record is dropped.
 * Described byte for byte in docs/frames.md.
 */
final class FramesFile
{
    public const MAGIC = 'YBFRAMES';

    public const VERSION = 1;

    public const HEADER = 64;

    public const RECORD_HEADER = 24;

    public const PIECE = 36;

    public static function recordBytes(int $pieces): int
    {
        return self::RECORD_HEADER + self::PIECE * $pieces;
    }

    /** @param string $hash SHA-256 of what made the frames, as hex */
    public static function header(int $pieces, float $fps, int $frames, string $hash): string
    {
        return self::MAGIC . pack('VVVVgV', self::VERSION, self::HEADER, $pieces, self::recordBytes($pieces), $fps, $frames) . hex2bin($hash);
    }

    public static function record(Frame $frame): string
    {
        $pieces = '';
        foreach ($frame->flags as $k => $flags) {
            $pieces .= pack(
                'g8V',
                $frame->poses[7 * $k],
                $frame->poses[7 * $k + 1],
                $frame->poses[7 * $k + 2],
                $frame->poses[7 * $k + 3],
                $frame->poses[7 * $k + 4],
                $frame->poses[7 * $k + 5],
                $frame->poses[7 * $k + 6],
                $frame->weights[$k],
                $flags,
            );
        }
        $body = pack('VVVgV', $frame->number, $frame->released, $frame->moving, $frame->kinetic, 0) . $pieces;

        return pack('V', crc32($body)) . $body;
    }

    /**
     * @return array{pieces: int, record: int, fps: float, frames: int, hash: string}
     *
     * @throws RuntimeException if the file is not a frames file
     */
    public static function readHeader(string $path): array
    {
        $bytes = @file_get_contents($path, false, null, 0, self::HEADER);
        if ($bytes === false || strlen($bytes) < self::HEADER || ! str_starts_with($bytes, self::MAGIC)) {
            throw new RuntimeException("“{$path}” is not a frames file.");
        }
        /** @var array{version: int, header: int, pieces: int, record: int, fps: float, frames: int} $fields */
        $fields = unpack('Vversion/Vheader/Vpieces/Vrecord/gfps/Vframes', $bytes, 8);
        if ($fields['version'] !== self::VERSION || $fields['record'] !== self::recordBytes($fields['pieces'])) {
            throw new RuntimeException("“{$path}” is a frames file of another version ({$fields['version']}).");
        }

        return [
            'pieces' => $fields['pieces'],
            'record' => $fields['record'],
            'fps' => $fields['fps'],
            'frames' => $fields['frames'],
            'hash' => bin2hex(substr($bytes, 32, 32)),
        ];
    }

    /** How many records are whole and undamaged, counted from the start. */
    public static function soundRecords(string $path): int
    {
        $header = self::readHeader($path);
        $file = fopen($path, 'rb');
        if ($file === false) {
            return 0;
        }
        fseek($file, self::HEADER);
        $count = 0;
        while (strlen($record = (string) fread($file, max(1, $header['record']))) === $header['record'] && self::isSound($record)) {
            $count++;
        }
        fclose($file);

        return $count;
    }

    /** Cuts off a torn tail; returns how many records are left. */
    public static function mend(string $path): int
    {
        $header = self::readHeader($path);
        $count = self::soundRecords($path);
        $length = self::HEADER + $count * $header['record'];
        if (filesize($path) !== $length) {
            $file = fopen($path, 'r+b');
            if ($file !== false) {
                ftruncate($file, max(0, $length));
                fclose($file);
            }
            clearstatcache(true, $path);
        }

        return $count;
    }

    public static function readFrame(string $path, int $number): ?Frame
    {
        $header = self::readHeader($path);
        $record = @file_get_contents($path, false, null, self::HEADER + ($number - 1) * $header['record'], max(0, $header['record']));
        if ($number < 1 || $record === false || strlen($record) !== $header['record'] || ! self::isSound($record)) {
            return null;
        }
        /** @var array{number: int, released: int, moving: int, kinetic: float} $fields */
        $fields = unpack('Vnumber/Vreleased/Vmoving/gkinetic', $record, 4);
        $poses = $weights = $flags = [];
        for ($k = 0; $k < $header['pieces']; $k++) {
            /** @var array<int, float> $values */
            $values = unpack('g8', $record, self::RECORD_HEADER + self::PIECE * $k);
            array_push($poses, ...array_slice(array_values($values), 0, 7));
            $weights[] = $values[8];
            /** @var array{1: int} $flag */
            $flag = unpack('V', $record, self::RECORD_HEADER + self::PIECE * $k + 32);
            $flags[] = $flag[1];
        }

        return new Frame($fields['number'], $poses, $weights, $flags, $fields['released'], $fields['moving'], $fields['kinetic']);
    }

    /** @return array{number: int, released: int, moving: int, kinetic: float}|null the readout alone */
    public static function readout(string $path, int $number): ?array
    {
        $header = self::readHeader($path);
        $bytes = @file_get_contents($path, false, null, self::HEADER + ($number - 1) * $header['record'] + 4, 16);
        if ($bytes === false || strlen($bytes) < 16) {
            return null;
        }
        /** @var array{number: int, released: int, moving: int, kinetic: float} $fields */
        $fields = unpack('Vnumber/Vreleased/Vmoving/gkinetic', $bytes);

        return $fields;
    }

    private static function isSound(string $record): bool
    {
        /** @var array{1: int} $sum */
        $sum = unpack('V', $record);

        return $sum[1] === crc32(substr($record, 4));
    }
}
