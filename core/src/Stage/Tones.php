<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Art\Picture;
use YardBreak\Core\Break\ToneMap;
use YardBreak\Core\Format\BadFile;

/** A picture that was brought in, as tones. */
final class Tones
{
    /** @throws BadFile if there is none, or it cannot be read */
    public static function of(Assets $assets, string $asset): ToneMap
    {
        $path = $asset === '' ? null : $assets->path($asset);
        if ($path === null) {
            throw new BadFile($asset === '' ? 'No picture has been brought in yet. Choose a PNG or JPEG.' : 'The picture is missing from the store. Bring it in again.');
        }
        $picture = Picture::read((string) file_get_contents($path));
        $tones = [];
        for ($y = 0; $y < $picture->height; $y++) {
            for ($x = 0; $x < $picture->width; $x++) {
                // What is clear counts as white.
                $alpha = $picture->alpha($x, $y);
                $tones[] = $alpha * $picture->tone($x, $y) + 1.0 - $alpha;
            }
        }

        return new ToneMap($asset, $picture->width, $picture->height, $tones);
    }
}
