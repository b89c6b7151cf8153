<?php

declare(strict_types=1);

namespace App\Support;

use YardBreak\Core\Bake\Checkpoints;

/** States as files named by their hash; the oldest go when they take too much room. */
final readonly class FileCheckpoints implements Checkpoints
{
    /** Room for all of them, bytes. */
    private const ROOM = 400_000_000;

    public function __construct(private string $folder)
    {
    }

    public function find(string $hash): ?array
    {
        $bytes = @file_get_contents("{$this->folder}/{$hash}");
        if ($bytes === false) {
            return null;
        }
        // Used: it shall outlive those that are not.
        @touch("{$this->folder}/{$hash}");
        [$path, $packed] = [...explode("\n", $bytes, 2), ''];
        $state = @gzuncompress($packed);

        // Damaged: as if it had not been kept.
        return $state === false ? null : [$state, $path];
    }

    public function keep(string $hash, string $state, string $path): void
    {
        AtomicFile::write("{$this->folder}/{$hash}", "{$path}\n", (string) gzcompress($state, 1));
        $this->makeRoom();
    }

    private function makeRoom(): void
    {
        $files = [];
        $sum = 0;
        foreach (glob("{$this->folder}/*") ?: [] as $file) {
            $size = (int) @filesize($file);
            $files[$file] = [(int) @filemtime($file), $size];
            $sum += $size;
        }
        if ($sum <= self::ROOM) {
            return;
        }
        asort($files);
        foreach ($files as $file => [, $size]) {
            @unlink($file);
            $sum -= $size;
            if ($sum <= 0.8 * self::ROOM) {
                return;
            }
        }
    }
}
