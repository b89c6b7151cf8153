<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake\Codec;

/** One byte a part: a number from 0 to 1 in 255 steps, or a whole number as it is. */
final readonly class ByteCodec implements TrackCodec
{
    use Linear {
        between as private straight;
    }

    public function __construct(private bool $share)
    {
    }

    public function size(): int
    {
        return 1;
    }

    public function numbers(): int
    {
        return 1;
    }

    public function encode(array $values): string
    {
        if ($values === []) {
            return '';
        }
        $bytes = [];
        foreach ($values as $value) {
            $bytes[] = $this->share ? (int) (255.0 * ($value < 0.0 ? 0.0 : ($value > 1.0 ? 1.0 : $value)) + 0.5) : (int) $value;
        }

        return pack('C*', ...$bytes);
    }

    public function decode(string $bytes): array
    {
        /** @var array<int, int> $values */
        $values = $bytes === '' ? [] : unpack('C*', $bytes);

        return array_values($this->share ? array_map(static fn (int $value): float => $value / 255.0, $values) : $values);
    }

    public function between(array $a, array $b, float $share): array
    {
        // There is nothing between bits.
        return $this->share ? $this->straight($a, $b, $share) : array_values($a);
    }
}
