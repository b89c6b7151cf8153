<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Pipeline;

/** Computes a shot's frames into a file. */
final class Baker
{
    /**
     * @param (callable(Manifest): void)|null $started
     * @param (callable(Frame): void)|null $stored called after each frame
     * @param (callable(): void)|null $tick called often; what it throws ends the bake, and what has been stored stays
     *
     * @throws Refusal
     */
    public static function bake(Pipeline $pipeline, Shot $shot, string $path, ?callable $started = null, ?callable $stored = null, ?callable $tick = null): void
    {
        $motion = $pipeline->motion($shot, $tick);
        $manifest = new Manifest($shot->fps, $shot->frames, $pipeline->motionHash($shot), $motion->tracks());
        $writer = BakeWriter::create($path, $manifest);
        try {
            if ($started !== null) {
                $started($manifest);
            }
            foreach ($motion->frames() as $frame) {
                $writer->append($frame);
                if ($stored !== null) {
                    $stored($frame);
                }
            }
        } finally {
            $writer->close();
        }
    }
}
