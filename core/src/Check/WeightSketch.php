<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Weight\Samples;

/** Some places of a prop and some frames, enough to say what its weight does without computing all of it. */
final readonly class WeightSketch
{
    private const PLACES = 150;

    private const FRAMES = 24;

    /** @param non-empty-list<float> $frames */
    private function __construct(public Samples $places, public array $frames)
    {
    }

    public static function of(Prop $prop, Shot $shot, TriangleMesh $mesh): self
    {
        $every = max(1, intdiv($mesh->vertexCount(), self::PLACES));
        $places = [];
        for ($v = 0, $end = $mesh->vertexCount(); $v < $end; $v += $every) {
            $places[] = [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]];
        }
        [$low, $high] = $mesh->bounds();
        $places[] = [0.5 * ($low[0] + $high[0]), 0.5 * ($low[1] + $high[1]), 0.5 * ($low[2] + $high[2])];
        $frames = [1.0];
        for ($n = 1; $n < self::FRAMES; $n++) {
            $frames[] = round(1.0 + $n * ($shot->frames - 1) / (self::FRAMES - 1));
        }
        // Where things stand for a moment only, they stand at their keys.
        foreach ([$prop, ...array_values($prop->others)] as $each) {
            array_push($frames, ...array_filter($each->transform->frames(), static fn (float $frame): bool => $frame >= 1.0 && $frame <= $shot->frames));
        }
        $frames = array_values(array_unique($frames));
        sort($frames);

        return new self(Samples::of($places), $frames);
    }
}
