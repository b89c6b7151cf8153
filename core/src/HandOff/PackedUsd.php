<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\UsdText;
use YardBreak\Core\Format\ZipStream;
use YardBreak\Core\Stage\Pipeline;

/**
 * The same USD text with the pictures on its faces, in one file (OpenUSD, USDZ specification 1.3: a ZIP in which nothing is compressed,
 * what each file holds begins at a multiple of 64 bytes, and the first file is the scene).
 */
final readonly class PackedUsd implements Exporter
{
    private const ALIGNED = 64;

    private AnimatedUsd $usd;

    public function __construct(private Pipeline $pipeline)
    {
        $this->usd = new AnimatedUsd($pipeline);
    }

    public function format(): array
    {
        return ['extension' => 'usdz', 'type' => 'model/vnd.usdz+zip', 'ofOneFrame' => false];
    }

    public function isQuick(Manifest $manifest): bool
    {
        return $this->usd->isQuick($manifest);
    }

    public function write(Shot $shot, BakeReader $bake, $out, string $name, array $options, callable $progress): void
    {
        $pictures = $paths = [];
        foreach ($shot->props as $prop) {
            $picture = $this->pipeline->facePicture($prop);
            if ($picture !== null) {
                $paths[$prop->id] = $path = 'pictures/' . UsdText::name($prop->id) . '.png';
                $pictures[$path] = $picture;
            }
        }
        // What comes first in the ZIP has its length before it: the text waits in a file until it is whole.
        $scene = tmpfile();
        if ($scene === false) {
            throw new BadFile('There is no room for a temporary file. Make room on the disk that holds them.');
        }
        $this->usd->scene($shot, $bake, $scene, $name, $paths, $progress);
        $zip = new ZipStream($out);
        $zip->store('scene.usda', $scene, self::ALIGNED);
        fclose($scene);
        foreach ($pictures as $path => $picture) {
            $file = fopen('php://memory', 'w+b');
            if ($file !== false) {
                fwrite($file, $picture);
                $zip->store($path, $file, self::ALIGNED);
                fclose($file);
            }
        }
        $zip->close();
    }
}
