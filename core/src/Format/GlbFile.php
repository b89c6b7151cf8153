<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

/**
 * A glTF 2.0 document in one binary file (ISO/IEC 12113): its JSON, and the numbers in its own binary chunk. References to anything
 * outside are refused.
 *
 * @phpstan-type Json array<mixed>
 */
final readonly class GlbFile
{
    private const COMPONENTS = ['SCALAR' => 1, 'VEC2' => 2, 'VEC3' => 3, 'VEC4' => 4, 'MAT4' => 16];

    /** By the format's code: how `unpack` reads a number, its bytes, and what 1 is where it is normalized. */
    private const NUMBERS = [5126 => ['g', 4, 1.0], 5125 => ['V', 4, 4294967295.0], 5123 => ['v', 2, 65535.0], 5122 => ['v', 2, 32767.0], 5121 => ['C', 1, 255.0], 5120 => ['c', 1, 127.0]];

    /** @param Json $json */
    private function __construct(public array $json, private string $binary)
    {
    }

    /** @throws BadFile */
    public static function open(string $data): self
    {
        $length = strlen($data);
        if ($length < 20 || ! str_starts_with($data, 'glTF')) {
            throw new BadFile('This is not a GLB file: it does not start with “glTF”.');
        }
        /** @var array{v: int, l: int, j: int, t: int} $header */
        $header = unpack('Vv/Vl/Vj/Vt', $data, 4);
        if ($header['v'] !== 2) {
            throw BadFile::atByte(4, "only glTF version 2 can be read; this is version {$header['v']}.");
        }
        if ($header['l'] > $length || $header['j'] > $length - 20 || $header['t'] !== 0x4E4F534A) {
            throw BadFile::atByte($length, 'the file is shorter than its header says. It was cut off: copy it again.');
        }
        $json = json_decode(substr($data, 20, $header['j']), true, 64);
        if (! is_array($json)) {
            throw BadFile::atByte(20, 'the JSON part is damaged.');
        }
        $at = 20 + $header['j'];
        if ($at + 8 > $length) {
            return new self($json, '');
        }
        /** @var array{l: int, t: int} $chunk */
        $chunk = unpack('Vl/Vt', $data, $at);
        if ($chunk['l'] > $length - $at - 8) {
            throw BadFile::atByte($at, 'the binary part is shorter than its header says. It was cut off: copy it again.');
        }

        return new self($json, substr($data, $at + 8, $chunk['l']));
    }

    /** @return array<mixed> of the document itself */
    public function all(string $key): array
    {
        return self::list($this->json, $key);
    }

    /** @return Json an entry of a list of the document; none: empty */
    public function entry(string $key, int $index): array
    {
        return self::list($this->all($key), $index);
    }

    /**
     * @param Json $from
     *
     * @return array<mixed>
     */
    public static function list(array $from, string|int $key): array
    {
        $value = $from[$key] ?? [];

        return is_array($value) ? $value : [];
    }

    /** @param Json $from */
    public static function int(array $from, string $key, int $default): int
    {
        $value = $from[$key] ?? $default;

        return is_int($value) ? $value : $default;
    }

    /** @param Json $from */
    public static function text(array $from, string $key): string
    {
        $value = $from[$key] ?? '';

        return is_string($value) ? $value : '';
    }

    /**
     * @param Json $from
     *
     * @return array<int, float>|null
     */
    public static function numbers(array $from, string $key, int $count): ?array
    {
        $values = $from[$key] ?? null;
        if (! is_array($values) || count($values) !== $count) {
            return null;
        }

        return array_map(self::number(...), array_values($values));
    }

    public static function number(mixed $value): float
    {
        return is_int($value) || is_float($value) ? (float) $value : 0.0;
    }

    /**
     * @return list<float> of each entry its components
     *
     * @throws BadFile
     */
    public function accessor(int $index, int $components): array
    {
        $accessor = $this->all('accessors')[$index] ?? null;
        if (! is_array($accessor)) {
            throw new BadFile("Accessor {$index} does not exist.");
        }
        $count = self::int($accessor, 'count', 0);
        Limits::vertices(intdiv($count, 3));
        if ((self::COMPONENTS[self::text($accessor, 'type')] ?? 0) !== $components || $count < 0) {
            throw new BadFile("Accessor {$index} has the wrong shape.");
        }
        $one = ($accessor['normalized'] ?? false) === true;
        $sparse = self::list($accessor, 'sparse');
        // Without data of its own it is nothing but what the sparse part says.
        if ($sparse !== [] && ! isset($accessor['bufferView'])) {
            Limits::vertices($count);
            $values = array_fill(0, $components * $count, 0.0);
        } else {
            $values = $this->stretch($index, $accessor, $accessor, $count, $components, $one);
        }

        return $sparse === [] ? $values : $this->replaced($index, $accessor, $sparse, $values, $components, $one);
    }

    /**
     * @param Json $accessor
     * @param Json $sparse
     * @param list<float> $values
     *
     * @return list<float>
     */
    private function replaced(int $index, array $accessor, array $sparse, array $values, int $components, bool $one): array
    {
        $count = self::int($sparse, 'count', 0);
        $all = intdiv(count($values), $components);
        if ($count < 0 || $count > $all) {
            throw new BadFile("Accessor {$index} replaces {$count} entries of {$all}. Export the mesh again.");
        }
        $indices = self::list($sparse, 'indices');
        $places = $this->stretch($index, $indices, $indices, $count, 1, false);
        $by = $this->stretch($index, self::list($sparse, 'values'), $accessor, $count, $components, $one);
        foreach ($places as $k => $place) {
            if ($place < 0.0 || $place >= $all) {
                throw new BadFile("Accessor {$index} replaces entry {$place}, but there are only {$all}.");
            }
            for ($c = 0; $c < $components; $c++) {
                $values[$components * (int) $place + $c] = $by[$components * $k + $c];
            }
        }

        return array_values($values);
    }

    /**
     * @param Json $where says which view, and from which byte of it on
     * @param Json $type says what kind of numbers
     *
     * @return list<float>
     */
    private function stretch(int $index, array $where, array $type, int $count, int $components, bool $one): array
    {
        $kind = self::int($type, 'componentType', 0);
        [$code, $size, $whole] = self::NUMBERS[$kind] ?? throw new BadFile("Accessor {$index} has a number type that cannot be read.");
        $view = $this->all('bufferViews')[self::int($where, 'bufferView', -1)] ?? null;
        if (! is_array($view) || self::int($view, 'buffer', 0) !== 0 || isset($this->entry('buffers', 0)['uri'])) {
            throw new BadFile('The mesh keeps its data outside the file. Export it as one GLB with everything inside.');
        }
        $stride = self::int($view, 'byteStride', 0) ?: $size * $components;
        if ($stride < $size * $components) {
            throw new BadFile("Accessor {$index} steps through its data by {$stride} bytes, less than one entry has. Export the mesh again.");
        }
        $start = self::int($view, 'byteOffset', 0) + self::int($where, 'byteOffset', 0);
        if ($count > 0 && ($start < 0 || $start + $stride * ($count - 1) + $size * $components > strlen($this->binary))) {
            throw new BadFile("Accessor {$index} reaches beyond the end of the file. It was cut off: copy it again.");
        }
        $values = [];
        for ($i = 0; $i < $count; $i++) {
            foreach (unpack("{$code}{$components}", $this->binary, $start + $stride * $i) ?: [] as $value) {
                $number = self::number($value);
                // `unpack` knows no signed numbers of two bytes in this order.
                $number = $kind === 5122 && $number > 32767.0 ? $number - 65536.0 : $number;
                $values[] = $one && $kind !== 5126 ? max(-1.0, $number / $whole) : $number;
            }
        }

        return $values;
    }
}
