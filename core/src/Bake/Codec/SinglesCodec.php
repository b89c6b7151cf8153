<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake\Codec;

/** Numbers as singles. */
final readonly class SinglesCodec implements TrackCodec
{
    use Linear;

    public function __construct(private int $numbers)
    {
    }

    public function size(): int
    {
        return 4 * $this->numbers;
    }

    public function numbers(): int
    {
        return $this->numbers;
    }

    public function encode(array $values): string
    {
        return $values === [] ? '' : pack('g*', ...$values);
    }

    public function decode(string $bytes): array
    {
        /** @var array<int, float> $values */
        $values = $bytes === '' ? [] : unpack('g*', $bytes);

        return array_values($values);
    }
}
