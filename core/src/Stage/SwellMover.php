<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Motion\FrameMover;
use YardBreak\Core\Motion\Track;

/** Surfaces of a shot's props that rise: where each vertex is depends on the frame alone. Nothing touches them, and they touch nothing. */
final class SwellMover extends FrameMover
{
    /** A vertex has left when it has got this far. */
    private const LEFT = 1e-9;

    /** What goes less than this part of its way in a frame stands still: a spring never quite does. */
    private const STILL = 1e-4;

    /** @var list<SwellProp> */
    private array $props = [];

    /**
     * @param list<Prop> $own the props it moves
     * @param list<BrokenProp> $broken their pieces
     */
    public function __construct(private readonly array $own, array $broken, Surfaces $others)
    {
        foreach ($own as $k => $prop) {
            $this->props[] = new SwellProp($prop, $broken[$k], $others);
        }
    }

    public function tracks(): array
    {
        $tracks = [];
        foreach ($this->own as $k => $prop) {
            foreach ([Track::VERTICES, Track::WEIGHT] as $kind) {
                $tracks[] = new Track($prop->id, $kind, $this->props[$k]->count());
            }
        }

        return $tracks;
    }

    public function write(float $frame): array
    {
        $values = [];
        $released = $moving = 0;
        foreach ($this->props as $prop) {
            $progress = $prop->progress($frame);
            $before = $frame > 1.0 ? $prop->progress($frame - 1.0) : $progress;
            foreach ($progress as $v => $share) {
                $released += $share > self::LEFT ? 1 : 0;
                $moving += abs($share - $before[$v]) > self::STILL ? 1 : 0;
            }
            array_push($values, $prop->places($frame, $progress), $prop->weights($frame, $progress));
        }

        return [$values, ['released' => (float) $released, 'moving' => (float) $moving, 'kinetic' => 0.0]];
    }
}
