<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Source;

use YardBreak\Core\Art\Art;
use YardBreak\Core\Art\Artwork;
use YardBreak\Core\Art\Picture;
use YardBreak\Core\Art\PngOutline;
use YardBreak\Core\Art\Slab;
use YardBreak\Core\Art\SvgReader;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Kind\SourceKind;
use YardBreak\Core\Stage\SourceMesh;

/** A drawing or picture, drawn out to a slab. */
final class FlatArt implements SourceKind
{
    public static function mesh(Settings $settings, Assets $assets): SourceMesh
    {
        return new SourceMesh(Slab::of(self::artwork($settings, $assets), $settings->float('height'), $settings->float('slab'), $settings->float('bevel')));
    }

    /** @throws BadFile */
    public static function artwork(Settings $settings, Assets $assets): Artwork
    {
        $bytes = self::bytes($settings, $assets);

        return Art::isPicture($bytes) ? PngOutline::of(Picture::read($bytes)) : SvgReader::read($bytes);
    }

    /**
     * What the slab shows on its face, as a PNG; null if it shows nothing.
     *
     * @throws BadFile
     */
    public static function face(Settings $settings, Assets $assets): ?string
    {
        return $settings->bool('painted') ? Art::face(self::bytes($settings, $assets)) : null;
    }

    private static function bytes(Settings $settings, Assets $assets): string
    {
        $asset = $settings->string('asset');
        if ($asset === '') {
            throw new BadFile('No art has been brought in yet. Choose an SVG or a PNG.');
        }
        $path = $assets->path($asset) ?? throw new BadFile("The file “{$settings->string('fileName')}” is missing from the store. Upload it again.");

        return (string) file_get_contents($path);
    }
}
