<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

/** Uploaded files by the SHA-256 of their content. */
interface Assets
{
    /** Path of a readable copy, or null if there is no such file. */
    public function path(string $sha256): ?string;
}
