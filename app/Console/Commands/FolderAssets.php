<?php

declare(strict_types=1);

namespace App\Console\Commands;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Stage\Assets;

/** Files in a plain folder, found by their SHA-256: first by the names one would give them, then any of that content. */
final readonly class FolderAssets implements Assets
{
    public function __construct(private string $folder, private Shot $shot)
    {
    }

    /** @throws BadFile if no file there has that content */
    public function path(string $sha256): string
    {
        $names = [$sha256];
        foreach ($this->shot->props as $prop) {
            $settings = $prop->source->settings;
            if ($settings->has('asset') && $settings->string('asset') === $sha256) {
                $names[] = basename($settings->string('fileName'));
            }
        }
        // Pictures of patterns are known by their content only.
        foreach ([...array_map(fn (string $name): string => "{$this->folder}/{$name}", $names), ...(glob("{$this->folder}/*") ?: [])] as $path) {
            if (is_file($path) && hash_file('sha256', $path) === $sha256) {
                return $path;
            }
        }

        $name = isset($names[1]) ? "“{$names[1]}”" : 'a picture of the break (SHA-256 ' . substr($sha256, 0, 12) . '…)';
        throw new BadFile("The shot needs {$name}, but no file in “{$this->folder}” has its content. Put it there, or name its folder with --assets.");
    }
}
