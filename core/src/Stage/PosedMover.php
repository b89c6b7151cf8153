<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\FrameMover;
use YardBreak\Core\Motion\Track;

/**
 * Writes the pieces of props that are where they are by the frame alone.
 *
 * @template P of PosedParts
 */
abstract class PosedMover extends FrameMover
{
    /** A piece has left when it has got this far. */
    private const LEFT = 1e-9;

    /** What goes less than this part of its way in a frame stands still: a spring never quite does. */
    public const STILL = 1e-4;

    /** @param list<array{string, int, P}> $props id, number of pieces and the prop itself */
    protected function __construct(protected readonly array $props)
    {
    }

    public function tracks(): array
    {
        $tracks = [];
        foreach ($this->props as [$id, $count]) {
            foreach ([Track::POSE, Track::SCALE, Track::WEIGHT, Track::FLAGS] as $kind) {
                $tracks[] = new Track($id, $kind, $count);
            }
        }

        return $tracks;
    }

    public function write(float $frame): array
    {
        $values = [];
        $released = $moving = 0;
        foreach ($this->props as [, , $prop]) {
            $progress = $prop->progress($frame);
            $before = $frame > 1.0 ? $prop->progress($frame - 1.0) : $progress;
            $flags = [];
            foreach ($progress as $piece => $share) {
                $left = $share > self::LEFT;
                $moves = abs($share - $before[$piece]) > self::STILL;
                $flags[] = ($left ? Frame::RELEASED : 0) | ($left && ! $moves ? Frame::ASLEEP : 0);
                $released += $left ? 1 : 0;
                $moving += $moves ? 1 : 0;
            }
            [$poses, $scales] = $prop->place($frame, $progress);
            array_push($values, $poses, $scales, $prop->weights($frame, $progress), $flags);
        }

        return [$values, ['released' => (float) $released, 'moving' => (float) $moving, 'kinetic' => 0.0]];
    }
}
