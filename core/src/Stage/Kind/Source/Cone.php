<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Source;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Kind\SourceKind;
use YardBreak\Core\Stage\SourceMesh;

/** A cone. */
final class Cone implements SourceKind
{
    public static function mesh(Settings $settings, Assets $assets): SourceMesh
    {
        return new SourceMesh(Solids::cone(0.5 * $settings->float('width'), $settings->float('height'), max(6, 6 * $settings->int('divisions')), $settings->int('divisions')));
    }
}
