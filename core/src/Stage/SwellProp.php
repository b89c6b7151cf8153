<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Weight\Samples;

/** A prop whose surface changes. Where several pieces meet they change alike. */
final class SwellProp
{
    private readonly PieceTiming $timing;

    private readonly Swelling $swelling;

    private readonly int $count;

    /** @throws BreakFailed if it cannot change so */
    public function __construct(Prop $prop, BrokenProp $broken, Surfaces $others)
    {
        $this->timing = new PieceTiming($prop, $broken, $others);
        $at = Weighing::vertices($broken);
        $this->count = count($at->x);
        $this->swelling = new Swelling($prop, $at, ...[...SurfaceChange::ways($prop, $at, $others), $this->timing->thresholds($this->count), $this->timing->weights(...)]);
    }

    /** Where places of such a prop are in the world at a frame: what is set on it goes with them. */
    public static function carries(Prop $prop, Samples $at, Surfaces $others): Swelling
    {
        $weight = Weighing::of($prop, PropShape::ofProp($prop, $others->ownMesh($prop), $others));
        $trigger = Kinds::trigger($prop->trigger->kind)::make($prop->trigger->settings);
        $thresholds = [];
        foreach (array_keys($at->x) as $k) {
            $threshold = $trigger->threshold($k);
            if ($threshold === null) {
                $thresholds = null;
                break;
            }
            $thresholds[] = $threshold;
        }

        return new Swelling($prop, $at, ...[...SurfaceChange::ways($prop, $at, $others), $thresholds, static fn (float $frame): array => $weight->evaluate($at, $frame)]);
    }

    public function count(): int
    {
        return $this->count;
    }

    /** @return list<float> how far each vertex has got, 0 to 1, past it where a weight springs */
    public function progress(float $frame): array
    {
        return $this->swelling->progress($frame);
    }

    /**
     * @param list<float> $progress
     *
     * @return list<float> of the weight track
     */
    public function weights(float $frame, array $progress): array
    {
        return $this->timing->shown($frame, $progress);
    }

    /**
     * @param list<float> $progress
     *
     * @return list<float> places of the vertices in the world, m
     */
    public function places(float $frame, array $progress): array
    {
        return $this->swelling->places($frame, $progress);
    }
}
