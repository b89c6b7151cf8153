<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Mesh\TriangleMesh;

/** Stanford's PLY, text and binary of both byte orders: vertex positions and faces; all else is passed over. */
final class PlyReader
{
    private const SIZES = [
        'char' => 1, 'int8' => 1, 'uchar' => 1, 'uint8' => 1, 'short' => 2, 'int16' => 2, 'ushort' => 2, 'uint16' => 2,
        'int' => 4, 'int32' => 4, 'uint' => 4, 'uint32' => 4, 'float' => 4, 'float32' => 4, 'double' => 8, 'float64' => 8,
    ];

    /** @var list<string> remaining words, for text files */
    private array $words = [];

    private int $word = 0;

    private int $offset = 0;

    private string $order = 'ascii';

    private function __construct(private readonly string $data)
    {
    }

    /** @throws BadFile */
    public static function read(string $data): TriangleMesh
    {
        return (new self($data))->mesh();
    }

    private function mesh(): TriangleMesh
    {
        $elements = $this->header();
        $x = $y = $z = $triangles = [];
        foreach ($elements as [$name, $count, $properties]) {
            for ($i = 0; $i < $count; $i++) {
                $row = [];
                foreach ($properties as [$type, $property, $countType]) {
                    if ($countType === null) {
                        $row[$property] = $this->value($type);
                        continue;
                    }
                    $items = (int) $this->value($countType);
                    if ($items < 0 || $items > 10000) {
                        throw $this->here("a list of {$items} entries in {$name} " . ($i + 1) . ' makes no sense.');
                    }
                    $list = [];
                    for ($k = 0; $k < $items; $k++) {
                        $list[] = (int) $this->value($type);
                    }
                    $row[$property] = $list;
                }
                if ($name === 'vertex') {
                    $x[] = $this->coordinate($row['x'] ?? null, 'x', $i);
                    $y[] = $this->coordinate($row['y'] ?? null, 'y', $i);
                    $z[] = $this->coordinate($row['z'] ?? null, 'z', $i);
                } elseif ($name === 'face') {
                    $corners = $row['vertex_indices'] ?? $row['vertex_index'] ?? null;
                    if (! is_array($corners) || count($corners) < 3) {
                        throw $this->here('face ' . ($i + 1) . ' has fewer than three corners.');
                    }
                    foreach ($corners as $corner) {
                        if ($corner < 0 || $corner >= count($x)) {
                            throw $this->here('face ' . ($i + 1) . " refers to vertex {$corner}, but there are only " . count($x) . '.');
                        }
                    }
                    for ($k = 2, $n = count($corners); $k < $n; $k++) {
                        array_push($triangles, $corners[0], $corners[$k - 1], $corners[$k]);
                    }
                }
            }
        }

        return (new TriangleMesh($x, $y, $z, $triangles))->joined();
    }

    /** @param float|list<int>|null $value */
    private function coordinate(float|array|null $value, string $axis, int $vertex): float
    {
        if (! is_float($value) || ! Limits::isCoordinate($value)) {
            throw $this->here('vertex ' . ($vertex + 1) . " has no usable {$axis} coordinate. Export the mesh again.");
        }

        return $value;
    }

    /** @return list<array{string, int, list<array{string, string, string|null}>}> name, count, properties (type, name, type of the count of a list) */
    private function header(): array
    {
        $end = strpos(substr($this->data, 0, 65536), 'end_header');
        if (! str_starts_with($this->data, 'ply') || $end === false) {
            throw new BadFile('This is not a PLY file: the header from “ply” to “end_header” is missing.');
        }
        $names = $counts = [];
        /** @var array<int, list<array{string, string, string|null}>> $properties */
        $properties = [];
        foreach (preg_split('/\r\n|\r|\n/', substr($this->data, 0, $end)) ?: [] as $k => $line) {
            $words = preg_split('/\s+/', trim($line)) ?: [];
            if ($words[0] === 'format') {
                $this->order = match ($words[1] ?? '') {
                    'ascii' => 'ascii',
                    'binary_little_endian' => 'little',
                    'binary_big_endian' => 'big',
                    default => throw BadFile::atLine($k + 1, 'unknown PLY format “' . ($words[1] ?? '') . '”.'),
                };
            } elseif ($words[0] === 'element') {
                $count = filter_var($words[2] ?? '', FILTER_VALIDATE_INT);
                if ($count === false || $count < 0) {
                    throw BadFile::atLine($k + 1, 'the element has no count.');
                }
                ($words[1] ?? '') === 'vertex' ? Limits::vertices($count) : Limits::triangles($count);
                $names[] = $words[1] ?? '';
                $counts[] = $count;
            } elseif ($words[0] === 'property' && $names !== []) {
                $list = ($words[1] ?? '') === 'list';
                $type = $words[$list ? 3 : 1] ?? '';
                $countType = $list ? ($words[2] ?? '') : null;
                if (! isset(self::SIZES[$type]) || ($countType !== null && ! isset(self::SIZES[$countType]))) {
                    throw BadFile::atLine($k + 1, 'unknown property type.');
                }
                $properties[count($names) - 1][] = [$type, $words[$list ? 4 : 2] ?? '', $countType];
            }
        }
        $newline = strpos($this->data, "\n", $end);
        $this->offset = $newline === false ? strlen($this->data) : $newline + 1;
        if ($this->order === 'ascii') {
            $this->words = preg_split('/\s+/', trim(substr($this->data, $this->offset))) ?: [];
        }

        $elements = [];
        foreach ($names as $k => $name) {
            $elements[] = [$name, $counts[$k], $properties[$k] ?? []];
        }

        return $elements;
    }

    private function value(string $type): float
    {
        if ($this->order === 'ascii') {
            $word = $this->words[$this->word++] ?? throw $this->here('the file ends too early. It was cut off: copy it again.');
            if (! is_numeric($word)) {
                throw $this->here('“' . substr($word, 0, 20) . '” is not a number.');
            }

            return (float) $word;
        }
        $size = self::SIZES[$type];
        if ($this->offset + $size > strlen($this->data)) {
            throw $this->here('the file ends too early. It was cut off: copy it again.');
        }
        $little = $this->order === 'little';
        $code = match ($type) {
            'char', 'int8' => 'c',
            'uchar', 'uint8' => 'C',
            'short', 'int16', 'ushort', 'uint16' => $little ? 'v' : 'n',
            'float', 'float32' => $little ? 'g' : 'G',
            'double', 'float64' => $little ? 'e' : 'E',
            default => $little ? 'V' : 'N',
        };
        /** @var array{1: int|float} $value */
        $value = unpack($code, $this->data, $this->offset);
        $this->offset += $size;
        $number = $value[1];
        if (($type === 'int' || $type === 'int32') && $number > 0x7FFFFFFF) {
            $number -= 0x100000000;
        } elseif (($type === 'short' || $type === 'int16') && $number > 0x7FFF) {
            $number -= 0x10000;
        }

        return (float) $number;
    }

    private function here(string $what): BadFile
    {
        return $this->order === 'ascii' ? new BadFile(ucfirst($what)) : BadFile::atByte($this->offset, $what);
    }
}
