<?php

declare(strict_types=1);

namespace App\Console\Commands;

use YardBreak\Core\Bake\Assets;
use YardBreak\Core\Shot\Shot;

/** Mesh files in a plain folder, found by their SHA-256 or by the name the shot gives them, if the content matches. */
final readonly class FolderAssets implements Assets
{
    public function __construct(private string $folder, private Shot $shot)
    {
    }

    public function path(string $sha256): ?string
    {
        $names = [$sha256];
        foreach ($this->shot->props as $prop) {
            if ($prop->source->asset === $sha256) {
                $names[] = basename($prop->source->fileName);
            }
        }
        foreach ($names as $name) {
            $path = "{$this->folder}/{$name}";
            if (is_file($path) && hash_file('sha256', $path) === $sha256) {
                return $path;
            }
        }

        return null;
    }
}
