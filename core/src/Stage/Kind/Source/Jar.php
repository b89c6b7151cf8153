<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Source;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Mesh\Primitive\GrainJar;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Kind\SourceKind;
use YardBreak\Core\Stage\SourceMesh;

/** The clay grain jar of the Tidemill. */
final class Jar implements SourceKind
{
    public static function mesh(Settings $settings, Assets $assets): SourceMesh
    {
        return new SourceMesh(GrainJar::mesh($settings->float('height'), min($settings->float('wall'), 0.08 * $settings->float('height'))));
    }
}
