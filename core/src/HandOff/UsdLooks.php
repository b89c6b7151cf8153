<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Format\UsdText;
use YardBreak\Core\Mesh\TriangleMesh;

/** What faces look like, as USD has it: preview surfaces (UsdShade), one a look. */
final class UsdLooks
{
    /**
     * @param string $of path of whose they are
     * @param list<array{string, array{float, float, float}, float, string|null}> $looks as {@see Looks::of()} has them; pictures as seen from the file
     * @param bool $changes whether the outside turns to another colour
     */
    public static function write(UsdText $usd, string $of, array $looks, bool $changes): void
    {
        $usd->open('Scope', 'looks');
        foreach ($looks as $look => [$name, $colour, $roughness, $face]) {
            $path = self::path($of, $look);
            // A picture stays, as in the other formats: it cannot turn into a colour.
            $from = match (true) {
                $face !== null => "{$path}/picture.outputs:rgb",
                $look === TriangleMesh::LOOK_OUTER && $changes => "{$path}/colour.outputs:result",
                default => null,
            };
            $usd->open('Material', self::name($look), ['displayName = ' . UsdText::text($name)]);
            $usd->line("token outputs:surface.connect = <{$path}/surface.outputs:surface>");
            self::shader($usd, 'surface', 'UsdPreviewSurface', [
                'color3f inputs:diffuseColor' . ($from === null ? ' = ' . UsdText::vector($colour, UsdSamples::PARTS) : ".connect = <{$from}>"),
                "float inputs:roughness = {$roughness}",
                'token outputs:surface',
            ]);
            if ($face !== null) {
                self::shader($usd, 'picture', 'UsdUVTexture', ["asset inputs:file = @{$face}@", 'token inputs:sourceColorSpace = "sRGB"', 'token inputs:wrapS = "clamp"', 'token inputs:wrapT = "clamp"', "float2 inputs:st.connect = <{$path}/place.outputs:result>", 'float3 outputs:rgb']);
                self::shader($usd, 'place', 'UsdPrimvarReader_float2', ['string inputs:varname = "st"', 'float2 outputs:result']);
            } elseif ($from !== null) {
                self::shader($usd, 'colour', 'UsdPrimvarReader_float3', ['string inputs:varname = "displayColor"', 'float3 outputs:result']);
            }
            $usd->close();
        }
        $usd->close();
    }

    /** @param string $of path of whose look it is */
    public static function path(string $of, int $look): string
    {
        return "{$of}/looks/" . self::name($look);
    }

    /** @param int $look of faces, see TriangleMesh */
    public static function name(int $look): string
    {
        return ['outside', 'fresh_faces', 'sides'][$look] ?? 'layer_' . ($look - TriangleMesh::LOOK_LAYER + 1);
    }

    /** @param list<string> $lines */
    private static function shader(UsdText $usd, string $name, string $id, array $lines): void
    {
        $usd->open('Shader', $name);
        $usd->line("uniform token info:id = \"{$id}\"");
        foreach ($lines as $line) {
            $usd->line($line);
        }
        $usd->close();
    }
}
