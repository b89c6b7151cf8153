<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Stage\Pipeline;

/** Every format there is, by how its files end: the one place that names them. */
final class Exporters
{
    /** @throws BadFile if there is no such format */
    public static function of(string $ending, Pipeline $pipeline): Exporter
    {
        return self::all($pipeline)[$ending] ?? throw new BadFile('Write to a file that ends in .' . implode(', .', array_keys(self::all($pipeline))) . '.');
    }

    /** What a file's name ends in, if that is a format; else its last part. */
    public static function ending(string $file, Pipeline $pipeline): string
    {
        foreach (array_keys(self::all($pipeline)) as $ending) {
            // The only ones that end in another's are longer, and come first.
            if (str_ends_with(strtolower($file), ".{$ending}")) {
                return $ending;
            }
        }

        return strtolower(pathinfo($file, PATHINFO_EXTENSION));
    }

    /** @return array<string, Exporter> */
    private static function all(Pipeline $pipeline): array
    {
        $all = ['glb' => new AnimatedGlb($pipeline), 'usda' => new AnimatedUsd($pipeline), 'usdz' => new PackedUsd($pipeline), 'csv' => new PieceTable($pipeline)];
        foreach ([ObjFile::class, PlyFile::class, StlFile::class] as $file) {
            $all[$file::extension() . '.zip'] = new EveryFrame($pipeline, $file);
            $all[$file::extension()] = new OneFrame($pipeline, $file);
        }

        return $all;
    }
}
