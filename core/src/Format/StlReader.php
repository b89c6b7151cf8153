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

    /** Facet by facet: each has three corners, or the file is damaged there. What stands outside them says nothing. */
    private static function text(string $data): TriangleMesh
    {
        $x = $y = $z = [];
        $inside = false;
        foreach (explode("\n", $data) as $k => $line) {
            $line = trim($line);
            $word = strtolower(substr($line, 0, strcspn($line, " \t")));
            if ($word === 'facet') {
                if ($inside) {
                    throw BadFile::atLine($k + 1, 'a facet begins before the last one has ended. The file is damaged: export the mesh again.');
                }
                $inside = true;
            } elseif ($word === 'endfacet') {
                if (! $inside || count($x) % 3 !== 0) {
                    throw BadFile::atLine($k + 1, 'a facet does not have three corners. The file is damaged: export the mesh again.');
                }
                $inside = false;
            } elseif ($word === 'vertex' && $inside) {
                [$x[], $y[], $z[]] = self::corner($line, $k + 1);
                Limits::vertices(intdiv(count($x), 3));
            } elseif ($word === 'vertex' || ($inside && ! in_array($word, ['outer', 'endloop', ''], true))) {
                throw BadFile::atLine($k + 1, 'this does not belong here in a facet. The file is damaged: export the mesh again.');
            }
        }
        if ($inside) {
            throw BadFile::atLine(substr_count($data, "\n") + 1, 'the file ends in the middle of a facet. It was cut off: copy it again.');
        }

        return (new TriangleMesh($x, $y, $z, $x === [] ? [] : range(0, count($x) - 1)))->joined();
    }

    /** @return array{float, float, float} */
    private static function corner(string $line, int $number): array
    {
        $words = preg_split('/\s+/', $line) ?: [];
        $values = [0.0, 0.0, 0.0];
        foreach ([1, 2, 3] as $w) {
            if (! isset($words[$w]) || ! is_numeric($words[$w]) || ! Limits::isCoordinate((float) $words[$w])) {
                throw BadFile::atLine($number, 'a vertex needs three usable numbers. Export the mesh again.');
            }
            $values[$w - 1] = (float) $words[$w];
        }

        return $values;
    }

    private static function uint(string $data, int $offset): int
    {
        /** @var array{1: int} $value */
        $value = unpack('V', $data, $offset);

        return $value[1];
    }
}
