<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Source;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Kind\SourceKind;
use YardBreak\Core\Stage\SourceMesh;

/** A ring. */
final class Torus implements SourceKind
{
    /** A tube as wide as the ring would leave no hole. */
    private const WIDEST = 0.49;

    public static function mesh(Settings $settings, Assets $assets): SourceMesh
    {
        $width = $settings->float('width');
        $tube = min($settings->float('tube'), self::WIDEST * $width);
        $divisions = $settings->int('divisions');

        return new SourceMesh(Solids::torus(0.5 * ($width - $tube), 0.5 * $tube, max(6, 6 * $divisions), max(6, 3 * $divisions)));
    }
}
