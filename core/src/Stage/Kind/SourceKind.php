<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\SourceMesh;

/** A way to come by a mesh. */
interface SourceKind
{
    /**
     * The mesh in metres, y up, about its own origin.
     *
     * @throws BadFile
     */
    public static function mesh(Settings $settings, Assets $assets): SourceMesh;
}
