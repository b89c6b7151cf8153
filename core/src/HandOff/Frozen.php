<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Bake\BadBake;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Mesh\Subdivision;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** A prop as it is at a frame, as a mesh of its own: to be placed, broken and moved anew. */
final readonly class Frozen
{
    /** @param array{float, float, float} $middle of what it holds, in the world, m */
    private function __construct(public TriangleMesh $mesh, public array $middle)
    {
    }

    /** @throws BadBake if the frame has not been baked, or nothing of the prop is left at it */
    public static function of(Pipeline $pipeline, Prop $prop, BakeReader $bake, int $number): self
    {
        $frame = $number < 1 ? null : $bake->frame($number);
        if ($frame === null) {
            throw new BadBake("Frame {$number} has not been baked. Choose one from 1 to {$bake->frames()}.");
        }
        $broken = $pipeline->broken($prop);
        $pieces = [];
        foreach (PosedPieces::at($prop, $broken, $frame) as $piece) {
            // What is only drawn finer stays as coarse as it is computed: it can be likened to, and drawn smooth again.
            for ($k = 0; $k < $broken->finer; $k++) {
                $piece = Subdivision::coarser($piece);
            }
            $pieces[] = $piece;
        }
        $mesh = TriangleMesh::together($pieces);
        if ($mesh->isEmpty()) {
            throw new BadBake("Nothing of {$prop->name} is left at frame {$number}.");
        }
        [$low, $high] = $mesh->bounds();
        $middle = [0.5 * ($low[0] + $high[0]), 0.5 * ($low[1] + $high[1]), 0.5 * ($low[2] + $high[2])];
        // What is sewn together still is one surface.
        $whole = $broken->sewn ? $mesh->joined() : $mesh;

        return new self($whole->transformed(1.0, [0.0, 0.0, 0.0, 1.0], [-$middle[0], -$middle[1], -$middle[2]]), $middle);
    }

    /** A file that is read again with its looks. */
    public function file(string $name): string
    {
        return ObjWriter::FROZEN . (new ObjWriter())->object($name, $this->mesh);
    }
}
