<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

/** What an uploaded mesh may hold at most, so that no file can exhaust the machine. */
final class Limits
{
    public const BYTES = 256 * 1024 * 1024;

    public const VERTICES = 2_000_000;

    public const TRIANGLES = 2_000_000;

    /** Coordinates beyond this are no prop, m or whatever unit the file has. */
    public const COORDINATE = 1e9;

    /** @throws BadFile */
    public static function vertices(int $count): void
    {
        if ($count > self::VERTICES) {
            throw new BadFile(sprintf('The file claims %s vertices; at most %s can be read. Reduce the mesh first.', number_format($count), number_format(self::VERTICES)));
        }
    }

    /** @throws BadFile */
    public static function triangles(int $count): void
    {
        if ($count > self::TRIANGLES) {
            throw new BadFile(sprintf('The file claims %s triangles; at most %s can be read. Reduce the mesh first.', number_format($count), number_format(self::TRIANGLES)));
        }
    }

    public static function isCoordinate(float $value): bool
    {
        return is_finite($value) && abs($value) <= self::COORDINATE;
    }
}
