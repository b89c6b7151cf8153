<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Mesh\TriangleMesh;

/** STL, text and binary; corners at the same place become one vertex. */
final class StlReader
{
    private const HEADER = 84;

    private const RECORD = 50;

    /** @throws BadFile */
    public static function read(string $data): TriangleMesh
    {
        $length = strlen($data);
        $claimed = $length >= self::HEADER ? self::uint($data, 80) : -1;
        $binary = $claimed >= 0 && $length === self::HEADER + self::RECORD * $claimed;
        if (! $binary && preg_match('/^\s*solid\b/i', substr($data, 0, 200)) === 1 && stripos($data, 'facet') !== false) {
            return self::text($data);
        }
        if ($claimed < 0) {
            throw new BadFile('This is not an STL file: it is shorter than the header of 84 bytes.');
        }
        Limits::triangles($claimed);
        if (! $binary) {
            throw BadFile::atByte($length, sprintf(
                'the header promises %s triangles (%s bytes), but the file has %s bytes. It was cut off or damaged: copy it again.',
                number_format($claimed),
                number_format(self::HEADER + self::RECORD * $claimed),
                number_format($length),
            ));
        }
        $x = $y = $z = [];
        for ($t = 0; $t < $claimed; $t++) {
            $offset = self::HEADER + self::RECORD * $t + 12;
            /** @var array<int, float> $values */
            $values = unpack('g9', $data, $offset) ?: [];
            foreach ($values as $k => $value) {
                if (! Limits::isCoordinate($value)) {
                    throw BadFile::atByte($offset + 4 * ($k - 1), 'the coordinate of triangle ' . ($t + 1) . ' is not a usable number. Export the mesh again.');
                }
            }
            array_push($x, $values[1], $values[4], $values[7]);
            array_push($y, $values[2], $values[5], $values[8]);
            array_push($z, $values[3], $values[6], $values[9]);
        }

        return (new TriangleMesh($x, $y, $z, $x === [] ? [] : range(0, count($x) - 1)))->joined();
    }

    private static function text(string $data): TriangleMesh
    {
        $x = $y = $z = [];
        foreach (explode("\n", $data) as $k => $line) {
            $line = trim($line);
            if (! str_starts_with(strtolower($line), 'vertex')) {
                continue;
            }
            $words = preg_split('/\s+/', $line) ?: [];
            $values = [0.0, 0.0, 0.0];
            foreach ([1, 2, 3] as $w) {
                if (! isset($words[$w]) || ! is_numeric($words[$w]) || ! Limits::isCoordinate((float) $words[$w])) {
                    throw BadFile::atLine($k + 1, 'a vertex needs three usable numbers. Export the mesh again.');
                }
                $values[$w - 1] = (float) $words[$w];
            }
            $x[] = $values[0];
            $y[] = $values[1];
            $z[] = $values[2];
            Limits::vertices(intdiv(count($x), 3));
        }
        if (count($x) % 3 !== 0 || stripos(substr($data, -200), 'endsolid') === false) {
            throw BadFile::atLine(substr_count($data, "\n") + 1, 'the file ends in the middle of a facet. It was cut off: copy it again.');
        }

        return (new TriangleMesh($x, $y, $z, $x === [] ? [] : range(0, count($x) - 1)))->joined();
    }

    private static function uint(string $data, int $offset): int
    {
        /** @var array{1: int} $value */
        $value = unpack('V', $data, $offset);

        return $value[1];
    }
}
