<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture\Dummy;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Kind\SourceKind;
use YardBreak\Core\Stage\SourceMesh;

/** A source: a board of some length. */
final class Plank implements SourceKind
{
    public static function mesh(Settings $settings, Assets $assets): SourceMesh
    {
        return new SourceMesh(Solids::box($settings->float('length'), 0.1, 0.1, 1));
    }
}
