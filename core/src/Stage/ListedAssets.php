<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

/** Files that are known beforehand. */
final readonly class ListedAssets implements Assets
{
    /** @param array<string, string> $paths by the SHA-256 of their content */
    public function __construct(private array $paths)
    {
    }

    public function path(string $sha256): ?string
    {
        return $this->paths[$sha256] ?? null;
    }
}
