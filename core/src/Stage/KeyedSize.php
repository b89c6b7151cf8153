<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Transform;
use YardBreak\Core\Weight\WeightSource;

/**
 * How large what bends wants to be: as its prop's keys say, as long as any of it is held; what has all let go keeps the size that
 * it had then. It is made, and weighed, at the largest size that its keys give it until it begins to let go; what is in part loose
 * from the beginning, at the largest of all.
 */
final class KeyedSize
{
    /** The last frame at which any of it was held. */
    private float $until = 1.0;

    /** @param array{float, float, float} $made scale of its prop at which it is made */
    private function __construct(private readonly Transform $transform, public readonly array $made, private readonly bool $changes)
    {
    }

    /** @param WeightSource $holding how far its hold says */
    public static function of(Prop $prop, BrokenProp $broken, PieceTiming $timing, WeightSource $holding): self
    {
        $transform = $prop->transform;
        $made = $transform->scaleAt(1.0);
        $keys = $transform->sizeFrames();
        if ($keys === []) {
            return new self($transform, $made, false);
        }
        // What goes by where things are is not known beforehand.
        $held = Weighing::goesByMotion($prop) ? null : self::held($prop, $broken, $timing, $holding);
        $waits = $held !== null && $held->holdsAllAt(1.0);
        foreach ($keys as $frame) {
            if ($waits && ! $held->holdsAllAt($frame)) {
                break;
            }
            $scale = $transform->scaleAt(max(1.0, $frame));
            $made = array_product($scale) > array_product($made) ? $scale : $made;
        }

        return new self($transform, $made, true);
    }

    private static function held(Prop $prop, BrokenProp $broken, PieceTiming $timing, WeightSource $holding): HeldParts
    {
        $places = Weighing::vertices($broken->coarse());

        return new HeldParts($timing, $places, $holding, static fn (float $frame): array => $timing->at($places, $frame), 0, $prop->startsFree());
    }

    public function changes(): bool
    {
        return $this->changes;
    }

    /** @param bool $held whether any of it is held at that frame */
    public function follow(float $frame, bool $held): void
    {
        $this->until = $held ? $frame : $this->until;
    }

    /** @return array{float, float, float} how many times as large as made its prop is, along its axes */
    public function keyed(float $frame): array
    {
        [$x, $y, $z] = $this->transform->scaleAt($frame);

        return [$x / $this->made[0], $y / $this->made[1], $z / $this->made[2]];
    }

    /** @return array{float, float, float} and how many times as large it wants to be itself */
    public function wanted(): array
    {
        return $this->keyed($this->until);
    }

    /** @return array{until: float} */
    public function save(): array
    {
        return ['until' => $this->until];
    }

    public function restore(float $until): void
    {
        $this->until = $until;
    }
}
