<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Source;

use YardBreak\Core\Art\Lettering;
use YardBreak\Core\Art\Slab;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Kind\SourceKind;
use YardBreak\Core\Stage\SourceMesh;

/** Words, drawn out to a slab. */
final class Letters implements SourceKind
{
    public static function mesh(Settings $settings, Assets $assets): SourceMesh
    {
        [$art, $em] = Lettering::of($settings->string('text'), $settings->string('font'), $settings->float('spacing'));
        [, $low, , $high] = $art->bounds();

        // As large as the size says whatever letters there are: a word without an “l” is not blown up.
        return new SourceMesh(Slab::of($art, $settings->float('size') * ($high - $low) / $em, $settings->float('slab'), $settings->float('bevel')));
    }
}
