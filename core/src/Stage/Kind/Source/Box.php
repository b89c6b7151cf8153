<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Source;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Kind\SourceKind;
use YardBreak\Core\Stage\SourceMesh;

/** A box. */
final class Box implements SourceKind
{
    public static function mesh(Settings $settings, Assets $assets): SourceMesh
    {
        return new SourceMesh(Solids::box($settings->float('width'), $settings->float('height'), $settings->float('depth'), $settings->int('divisions')));
    }
}
