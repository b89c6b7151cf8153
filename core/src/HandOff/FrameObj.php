<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Bake\BadBake;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Stage\Pipeline;

/** All pieces at one frame ("frame"), where the result is placed, as OBJ. */
final readonly class FrameObj implements Exporter
{
    /** Pieces and vertices that are written in a second. */
    private const QUICK = 5000;

    public function __construct(private Pipeline $pipeline)
    {
    }

    public function format(): array
    {
        return ['extension' => 'obj', 'type' => 'model/obj'];
    }

    public function isQuick(Manifest $manifest): bool
    {
        return $manifest->parts() <= self::QUICK;
    }

    public function write(Shot $shot, BakeReader $bake, $out, string $name, array $options, callable $progress): void
    {
        $number = $options['frame'] ?? 1;
        if ($number < 1 || $number > $shot->frames) {
            throw new BadBake("There is no frame {$number}. Choose one from 1 to {$shot->frames}.");
        }
        $frame = $bake->frame($number) ?? throw new BadBake("Frame {$number} has not been baked.");
        $done = 0;
        fwrite($out, ObjWriter::HEAD);
        $writer = new ObjWriter();
        foreach ($shot->props as $prop) {
            $broken = $this->pipeline->broken($prop);
            foreach (PosedPieces::at($prop, $broken, $frame) as $p => $posed) {
                $placed = $shot->placing === null ? $posed : $posed->transformed($shot->placing->scale, $shot->placing->rotation, $shot->placing->position);
                fwrite($out, $writer->object(Looks::pieceName($prop, $p, count($broken->pieces)), $placed));
                $progress(++$done, $bake->manifest->parts());
            }
        }
    }
}
