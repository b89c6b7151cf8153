<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Motion\Trigger;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightStack;

/** How far the change has got at each piece of a prop, and which pieces let go when. */
final class PieceTiming
{
    /** Frames whose weights are remembered: the one that is written, and the one before it. */
    private const REMEMBERED = 2;

    public readonly Trigger $trigger;

    private readonly WeightStack $weight;

    /** Where each piece's weight is read, in the prop's space. */
    private readonly Samples $places;

    /** @var list<array{float, list<float>}> frame and weights, the newest first */
    private array $known = [];

    public function __construct(Prop $prop, BrokenProp $broken, Surfaces $others)
    {
        $this->trigger = Kinds::trigger($prop->trigger->kind)::make($prop->trigger->settings);
        $this->weight = Weighing::of($prop, PropShape::ofPieces($broken, $others));
        $this->places = Weighing::places($prop, $broken);
    }

    /** The weight of the prop, wherever it is read. */
    public function weight(): WeightStack
    {
        return $this->weight;
    }

    /** @return list<float> of each piece, 0 to 1 */
    public function weights(float $frame): array
    {
        foreach ($this->known as [$at, $weights]) {
            if ($at === $frame) {
                return $weights;
            }
        }
        $weights = $this->weight->evaluate($this->places, $frame);
        $this->known = array_slice([[$frame, $weights], ...$this->known], 0, self::REMEMBERED);

        return $weights;
    }

    /**
     * What a weight track says: without a weight of its own a piece has changed as far as it has let go.
     *
     * @param list<float> $progress of each piece
     *
     * @return list<float>
     */
    public function shown(float $frame, array $progress): array
    {
        return $this->weight->isEmpty() ? $progress : $this->weights($frame);
    }

    /**
     * @param list<int> $held pieces
     *
     * @return list<int> those of them that are due by a frame
     */
    public function due(float $frame, array $held): array
    {
        $weights = $this->weights($frame);
        $due = $this->trigger->due($frame, array_map(static fn (int $piece): float => $weights[$piece], $held));

        return array_values(array_filter($held, static fn (int $piece, int $k): bool => $due[$k], ARRAY_FILTER_USE_BOTH));
    }
}
