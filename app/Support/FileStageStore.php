<?php

declare(strict_types=1);

namespace App\Support;

use YardBreak\Core\Stage\StageStore;

/** Stage results as files named by their hash. A file appears whole or not at all, so several workers may share the folder. */
final readonly class FileStageStore implements StageStore
{
    /** How long after its last use a file counts as just used, s: noted seldom, as it is asked for often. */
    private const USED = 300;

    private Computing $computing;

    /** @param Computing|null $computing null: everybody may compute at once */
    public function __construct(private string $folder, ?Computing $computing = null)
    {
        $this->computing = $computing ?? new Computing($folder, 0);
    }

    public function get(string $hash): ?string
    {
        $path = $this->path($hash);
        $bytes = @file_get_contents($path);
        if ($bytes !== false && time() - (int) @filemtime($path) > self::USED) {
            // It shall outlive what nobody asks for.
            @touch($path);
        }

        return $bytes === false ? null : $bytes;
    }

    public function put(string $hash, string ...$parts): void
    {
        AtomicFile::write($this->path($hash), ...$parts);
    }

    public function alone(string $hash, callable $work): mixed
    {
        $path = $this->path($hash) . '.lock';
        if (! is_dir(dirname($path))) {
            @mkdir(dirname($path), 0o775, true);
        }

        return $this->computing->alone($path, $work);
    }

    private function path(string $hash): string
    {
        return "{$this->folder}/" . substr($hash, 0, 2) . "/{$hash}";
    }
}
