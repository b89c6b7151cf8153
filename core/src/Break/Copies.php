<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/** No break: the same mesh many times, for something to be done with each. */
final readonly class Copies
{
    /** More could neither be drawn nor kept. */
    private const TRIANGLES = 2_000_000;

    public function __construct(public int $count)
    {
    }

    /** @throws BreakFailed if that would be too much */
    public function limit(TriangleMesh $mesh): void
    {
        if ($this->count * $mesh->triangleCount() > self::TRIANGLES) {
            throw new BreakFailed(sprintf('%s copies of %s triangles are more than %s in all. Take fewer, or a simpler mesh.', number_format($this->count), number_format($mesh->triangleCount()), number_format(self::TRIANGLES)));
        }
    }
}
