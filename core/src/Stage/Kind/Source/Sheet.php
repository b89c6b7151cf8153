<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Source;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Kind\SourceKind;
use YardBreak\Core\Stage\SourceMesh;

/** A flat sheet. */
final class Sheet implements SourceKind
{
    public static function mesh(Settings $settings, Assets $assets): SourceMesh
    {
        [$width, $depth, $divisions] = [$settings->float('width'), $settings->float('depth'), $settings->int('divisions')];
        $cell = max($width, $depth) / $divisions;
        $along = static fn (float $side): int => $settings->bool('square') ? max(1, (int) round($side / $cell)) : $divisions;

        return new SourceMesh(Solids::sheet($width, $depth, $along($width), $along($depth)));
    }
}
