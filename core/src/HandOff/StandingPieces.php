<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use Generator;
use YardBreak\Core\Bake\BadBake;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** All pieces of a shot, and its ropes and springs, at one frame, where the result is placed. */
final class StandingPieces
{
    /**
     * @return Generator<int, array{string, TriangleMesh}> what each is called, and its mesh
     *
     * @throws BadBake
     */
    public static function at(Pipeline $pipeline, Shot $shot, BakeReader $bake, int $number): Generator
    {
        if ($number < 1 || $number > $shot->frames) {
            throw new BadBake("There is no frame {$number}. Choose one from 1 to {$shot->frames}.");
        }
        $frame = $bake->frame($number) ?? throw new BadBake("Frame {$number} has not been baked.");
        $placed = static fn (TriangleMesh $mesh): TriangleMesh => $shot->placing === null ? $mesh : $mesh->transformed($shot->placing->scale, $shot->placing->rotation, $shot->placing->position);
        foreach ($shot->props as $prop) {
            $broken = $pipeline->broken($prop);
            foreach (PosedPieces::at($prop, $broken, $frame) as $p => $posed) {
                yield [Looks::pieceName($prop, $p, count($broken->pieces)), $placed($posed)];
            }
        }
        foreach (Cord::all($shot, $bake) as $cord) {
            $standing = $cord->standing($number);
            if ($standing !== null) {
                yield [$cord->name, $placed($standing)];
            }
        }
    }
}
