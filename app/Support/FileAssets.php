<?php

declare(strict_types=1);

namespace App\Support;

use YardBreak\Core\Stage\Assets;

/** Uploaded files, each under the SHA-256 of its content. */
final readonly class FileAssets implements Assets
{
    public function __construct(private string $folder)
    {
    }

    public function path(string $sha256): ?string
    {
        $path = $this->pathFor($sha256);

        return is_file($path) ? $path : null;
    }

    public function keep(string $bytes): string
    {
        $sha = hash('sha256', $bytes);
        if (! is_file($this->pathFor($sha))) {
            AtomicFile::write($this->pathFor($sha), $bytes);
        } else {
            // Brought in again it is as new as any, see StoreKeeper.
            @touch($this->pathFor($sha));
        }

        return $sha;
    }

    private function pathFor(string $sha256): string
    {
        return "{$this->folder}/" . basename($sha256);
    }
}
