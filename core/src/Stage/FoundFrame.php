<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

/** How a frame that was found is kept. */
trait FoundFrame
{
    public function encode(mixed $result): array
    {
        return [$result === null ? '' : pack('e', $result)];
    }

    public function decode(string $bytes): ?float
    {
        $values = $bytes === '' ? false : unpack('e', $bytes);

        return $values !== false && is_float($values[1] ?? null) ? $values[1] : null;
    }
}
