<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use RuntimeException;

/** The binary part of a glTF file, with the views and accessors into it. */
final class GlbBinary
{
    /** @var resource the binary part, kept outside memory when it grows */
    private $binary;

    public int $length = 0;

    /** @var list<array<string, mixed>> */
    public array $views = [];

    /** @var list<array<string, mixed>> */
    public array $accessors = [];

    public function __construct()
    {
        $this->binary = self::temporary();
    }

    /** @return resource */
    public static function temporary()
    {
        return fopen('php://temp/maxmemory:33554432', 'w+b') ?: throw new RuntimeException('No temporary file can be made.');
    }

    /** @param resource $out */
    public function copyTo($out): void
    {
        rewind($this->binary);
        stream_copy_to_stream($this->binary, $out);
    }

    public function close(): void
    {
        fclose($this->binary);
    }

    /** A view of bytes that no accessor is about. */
    public function view(string $bytes): int
    {
        $this->views[] = ['buffer' => 0, 'byteOffset' => $this->length, 'byteLength' => strlen($bytes)];
        $this->put($bytes);

        return count($this->views) - 1;
    }

    private function put(string $bytes): void
    {
        $bytes .= str_repeat("\0", (4 - strlen($bytes) % 4) % 4);
        fwrite($this->binary, $bytes);
        $this->length += strlen($bytes);
    }

    /** Singles that are packed already. */
    public function packed(string $bytes, int $count, string $type): int
    {
        $this->views[] = ['buffer' => 0, 'byteOffset' => $this->length, 'byteLength' => strlen($bytes)];
        $this->accessors[] = ['bufferView' => count($this->views) - 1, 'componentType' => 5126, 'count' => $count, 'type' => $type];
        $this->put($bytes);

        return count($this->accessors) - 1;
    }

    /** @param list<float> $values */
    public function accessor(array $values, string $type, ?int $target = null, bool $bounds = false): int
    {
        $components = ['SCALAR' => 1, 'VEC2' => 2, 'VEC3' => 3, 'VEC4' => 4][$type];
        $view = ['buffer' => 0, 'byteOffset' => $this->length, 'byteLength' => 4 * count($values)];
        if ($target !== null) {
            $view['target'] = $target;
        }
        $this->views[] = $view;
        $accessor = ['bufferView' => count($this->views) - 1, 'componentType' => 5126, 'count' => intdiv(count($values), $components), 'type' => $type];
        if ($bounds) {
            $min = $max = [];
            foreach (self::singles($values) as $k => $value) {
                $c = $k % $components;
                $min[$c] = min($min[$c] ?? INF, $value);
                $max[$c] = max($max[$c] ?? -INF, $value);
            }
            $accessor['min'] = $min;
            $accessor['max'] = $max;
        }
        $this->put(pack('g*', ...$values));
        $this->accessors[] = $accessor;

        return count($this->accessors) - 1;
    }

    /** Vectors of no length, which take no room. */
    public function nothing(int $count): int
    {
        $this->accessors[] = ['componentType' => 5126, 'count' => $count, 'type' => 'VEC3', 'min' => [0.0, 0.0, 0.0], 'max' => [0.0, 0.0, 0.0]];

        return count($this->accessors) - 1;
    }

    /** @param non-empty-list<int> $values */
    public function indices(array $values): int
    {
        $wide = max($values) > 65534;
        $bytes = pack($wide ? 'V*' : 'v*', ...$values);
        $this->views[] = ['buffer' => 0, 'byteOffset' => $this->length, 'byteLength' => strlen($bytes), 'target' => 34963];
        $this->put($bytes);
        $this->accessors[] = ['bufferView' => count($this->views) - 1, 'componentType' => $wide ? 5125 : 5123, 'count' => count($values), 'type' => 'SCALAR'];

        return count($this->accessors) - 1;
    }

    /**
     * The values as single precision will hold them, so that bounds and still poses match the data to the bit.
     *
     * @param list<float> $values
     *
     * @return list<float>
     */
    public static function singles(array $values): array
    {
        /** @var array<int, float> $singles */
        $singles = $values === [] ? [] : (unpack('g*', pack('g*', ...$values)) ?: []);

        return array_values($singles);
    }

    /**
     * To length 1, as singles.
     *
     * @param list<float> $values
     *
     * @return list<float>
     */
    public static function unitSingles(array $values): array
    {
        $length = sqrt(array_sum(array_map(static fn (float $v): float => $v * $v, $values)));

        return $length < 1e-12 ? ($values === [] ? [] : [...array_fill(0, count($values) - 1, 0.0), 1.0]) : self::singles(array_map(static fn (float $v): float => $v / $length, $values));
    }
}
