<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Source;

use YardBreak\Core\Art\Lettering;
use YardBreak\Core\Art\Slab;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Kind\SourceKind;
use YardBreak\Core\Stage\SourceMesh;

/** Words, drawn out to a slab. */
final class Letters implements SourceKind
{
    public static function mesh(Settings $settings, Assets $assets): SourceMesh
    {
        [$art, $em] = Lettering::of($settings->string('text'), self::font($settings, $assets), $settings->float('spacing'));
        [, $low, , $high] = $art->bounds();

        // As large as the size says whatever letters there are: a word without an “l” is not blown up.
        return new SourceMesh(Slab::of($art, $settings->float('size') * ($high - $low) / $em, $settings->float('slab'), $settings->float('bevel')));
    }

    /** @throws BadFile if its own font is not there */
    private static function font(Settings $settings, Assets $assets): string
    {
        if ($settings->string('font') !== 'own') {
            return Lettering::shipped($settings->string('font'));
        }
        $asset = $settings->string('asset');
        if ($asset === '') {
            throw new BadFile('No font has been brought in yet. Choose a TTF, an OTF or a WOFF.');
        }

        return $assets->path($asset) ?? throw new BadFile("The font “{$settings->string('fileName')}” is missing from the store. Upload it again.");
    }
}
