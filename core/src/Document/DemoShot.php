<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use RuntimeException;

/** The Tidemill demos: shots about an old mill on a salt marsh. One file a shot in core/demo, named in their order. */
final class DemoShot
{
    private const FOLDER = __DIR__ . '/../../demo';

    /** @return array<string, array<mixed>> documents by the shot's name */
    public static function all(): array
    {
        $shots = [];
        $files = glob(self::FOLDER . '/*.json') ?: [];
        natsort($files);
        foreach ($files as $file) {
            $shot = json_decode((string) file_get_contents($file), true, 64, JSON_THROW_ON_ERROR);
            if (! is_array($shot) || ! is_string($shot['name'] ?? null) || ! is_array($shot['document'] ?? null)) {
                throw new RuntimeException("{$file} is not a demo shot.");
            }
            $shots[$shot['name']] = $shot['document'];
        }

        return $shots;
    }

    /** @return array<string, string> paths of the art the demos show, by the SHA-256 of each file's content */
    public static function assets(): array
    {
        $assets = [];
        foreach (glob(self::FOLDER . '/art/*') ?: [] as $file) {
            $assets[(string) hash_file('sha256', $file)] = $file;
        }

        return $assets;
    }

    /** @return array<mixed> of *Jar off the sill*: a clay grain jar tips off the sill and breaks on the stone floor */
    public static function document(): array
    {
        return self::all()['Jar off the sill'];
    }
}
