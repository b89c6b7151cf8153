<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\FrameMover;
use YardBreak\Core\Motion\Steps;
use YardBreak\Core\Motion\Track;

/** Staged motion of a shot's props: where each piece is depends on the frame alone, so that any frame can be had at once. */
final class StagedMover extends FrameMover
{
    /** A piece has left when it has got this far. */
    private const LEFT = 1e-9;

    /** What goes less than this part of its way in a frame stands still: a spring never quite does. */
    private const STILL = 1e-4;

    /** @var list<StagedProp> */
    private array $props = [];

    /**
     * @param list<Prop> $own the props it moves
     * @param list<BrokenProp> $broken their pieces
     */
    public function __construct(private readonly array $own, private readonly array $broken, Surfaces $others)
    {
        foreach ($own as $k => $prop) {
            $this->props[] = new StagedProp($prop, $broken[$k], $k, $others);
        }
    }

    public function tracks(): array
    {
        $tracks = [];
        foreach ($this->own as $k => $prop) {
            $count = count($this->broken[$k]->pieces);
            foreach ([Track::POSE, Track::SCALE, Track::WEIGHT, Track::FLAGS] as $kind) {
                $tracks[] = new Track($prop->id, $kind, $count);
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

    public function drive(float $from, float $to, float $dt): void
    {
        foreach ($this->props as $prop) {
            $prop->setOut($from, $to);
        }
    }

    public function substep(int $number): void
    {
        foreach ($this->props as $prop) {
            $prop->goOn(($number + 1) / Steps::SUBSTEPS);
        }
    }

    public function colliders(): array
    {
        return array_merge(...array_map(static fn (StagedProp $prop): array => $prop->colliders(), $this->props));
    }
}
