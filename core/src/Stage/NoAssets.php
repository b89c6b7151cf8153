<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

/** For shots that use no files. */
final class NoAssets implements Assets
{
    public function path(string $sha256): ?string
    {
        return null;
    }
}
