<?php

declare(strict_types=1);

namespace App\Remote;

use Illuminate\Contracts\Filesystem\Filesystem;

/**
 * What the yard and its workers elsewhere hand each other: uploaded files, frames as they are written, the last state to go on
 * from. A store of objects, each written once and whole; a file that grows is the objects of its parts, each named by the byte
 * it begins at. Results have the same bytes whichever worker computes them, so a part may be written twice.
 */
final readonly class Depot
{
    public function __construct(private Filesystem $disk)
    {
    }

    /** @param string $path of the file here */
    public function offerAsset(string $sha256, string $path): void
    {
        if (! $this->disk->exists("assets/{$sha256}")) {
            // Piece by piece: a mesh may take hundreds of megabytes.
            $file = @fopen($path, 'rb');
            if ($file !== false) {
                $this->disk->put("assets/{$sha256}", $file);
            }
        }
    }

    /** Null: it is not there. */
    public function asset(string $sha256): ?string
    {
        return $this->read("assets/{$sha256}");
    }

    /**
     * Takes out uploaded files that are not wanted any more.
     *
     * @param callable(string): bool $wanted by SHA-256
     */
    public function dropAssets(callable $wanted): void
    {
        foreach ($this->disk->files('assets') as $key) {
            if (! $wanted(basename($key))) {
                $this->disk->delete($key);
            }
        }
    }

    /** @param int $from byte of the file at which the part begins */
    public function putPart(string $bake, string $file, int $from, string $bytes): void
    {
        $this->disk->put(self::part($bake, $file, $from), $bytes);
    }

    /** Null: nothing begins there. */
    public function getPart(string $bake, string $file, int $from): ?string
    {
        return $this->read(self::part($bake, $file, $from));
    }

    /** The state to go on from takes the place of the one before. */
    public function keepState(string $bake, string $hash, string $state): void
    {
        $this->disk->put("bakes/{$bake}/state", "{$hash}\n{$state}");
    }

    /** @return array{string, string}|null hash of what acted up to it, and the state */
    public function state(string $bake): ?array
    {
        $bytes = $this->read("bakes/{$bake}/state");

        return $bytes === null ? null : [strtok($bytes, "\n") ?: '', substr($bytes, (int) strpos($bytes, "\n") + 1)];
    }

    /** All of a bake; uploaded files stay for the next, as long as the yard has them. */
    public function drop(string $bake): void
    {
        $this->disk->deleteDirectory("bakes/{$bake}");
    }

    private function read(string $key): ?string
    {
        return $this->disk->exists($key) ? $this->disk->get($key) : null;
    }

    private static function part(string $bake, string $file, int $from): string
    {
        return sprintf('bakes/%s/%s/%012d', $bake, $file, $from);
    }
}
