<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\UsdText;
use YardBreak\Core\Format\ZipStream;
use YardBreak\Core\Stage\Pipeline;

/** A file a frame, numbered as the shot's frames are called, together in a ZIP: what programs read that know no motion. */
final readonly class EveryFrame implements Exporter
{
    /** Pieces and vertices, times frames, that are written in a second. */
    private const QUICK = 5000;

    /** @param class-string<MeshFile> $file */
    public function __construct(private Pipeline $pipeline, private string $file)
    {
    }

    public function format(): array
    {
        return ['extension' => $this->file::extension() . '.zip', 'type' => 'application/zip', 'ofOneFrame' => false];
    }

    public function isQuick(Manifest $manifest): bool
    {
        return $manifest->parts() * $manifest->frames <= self::QUICK;
    }

    public function write(Shot $shot, BakeReader $bake, $out, string $name, array $options, callable $progress): void
    {
        $zip = new ZipStream($out);
        for ($number = 1; $number <= $shot->frames; $number++) {
            $content = '';
            foreach ($this->file::parts(StandingPieces::at($this->pipeline, $shot, $bake, $number)) as $part) {
                $content .= $part;
            }
            $zip->add(sprintf('%s.%04d.%s', UsdText::name($name), $shot->called($number), $this->file::extension()), $content);
            $progress($number, $shot->frames);
        }
        $zip->close();
    }
}
