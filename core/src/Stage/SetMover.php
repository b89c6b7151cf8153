<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\FrameMover;
use YardBreak\Core\Motion\Track;

/** Props that are set on others: where each piece stands, and how large it is, depends on the frame alone. Nothing touches them, and they touch nothing. */
final class SetMover extends FrameMover
{
    /** A piece is there when it has grown this far. */
    private const THERE = 1e-9;

    /** What grows less than this in a frame stands still. */
    private const STILL = 1e-4;

    /** @var list<SetProp> */
    private array $props = [];

    /**
     * @param list<Prop> $own the props it moves
     * @param list<BrokenProp> $broken their pieces
     */
    public function __construct(Shot $shot, private readonly array $own, private readonly array $broken, Surfaces $others)
    {
        foreach ($own as $k => $prop) {
            $this->props[] = new SetProp($prop, $shot, $broken[$k], $others);
        }
    }

    public function tracks(): array
    {
        $tracks = [];
        foreach ($this->own as $k => $prop) {
            foreach ([Track::POSE, Track::SCALE, Track::WEIGHT, Track::FLAGS] as $kind) {
                $tracks[] = new Track($prop->id, $kind, count($this->broken[$k]->pieces));
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
                $there = $share > self::THERE;
                $grows = abs($share - $before[$piece]) > self::STILL;
                $flags[] = ($there ? Frame::RELEASED : 0) | ($there && ! $grows ? Frame::ASLEEP : 0);
                $released += $there ? 1 : 0;
                $moving += $grows ? 1 : 0;
            }
            [$poses, $scales] = $prop->place($frame, $progress);
            array_push($values, $poses, $scales, $progress, $flags);
        }

        return [$values, ['released' => (float) $released, 'moving' => (float) $moving, 'kinetic' => 0.0]];
    }
}
