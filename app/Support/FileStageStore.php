<?php

declare(strict_types=1);

namespace App\Support;

use YardBreak\Core\Bake\StageStore;

/** Stage results as files named by their hash. A file appears whole or not at all, so several workers may share the folder. */
final readonly class FileStageStore implements StageStore
{
    public function __construct(private string $folder)
    {
    }

    public function get(string $hash): ?string
    {
        $bytes = @file_get_contents($this->path($hash));

        return $bytes === false ? null : $bytes;
    }

    public function put(string $hash, string $bytes): void
    {
        AtomicFile::write($this->path($hash), $bytes);
    }

    private function path(string $hash): string
    {
        return "{$this->folder}/" . substr($hash, 0, 2) . "/{$hash}";
    }
}
