<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use WeakMap;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Trigger;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** How far the change has got at each piece of a prop, and which pieces let go when. */
final class PieceTiming
{
    /** Frames whose weights are remembered: the one that is written, and the one before it. */
    private const REMEMBERED = 2;

    public readonly Trigger $trigger;

    private readonly WeightSource $weight;

    private readonly bool $isEmpty;

    /** @var list<int> number of places each piece is read at; none: one each */
    private readonly array $each;

    /** Where the weight of a piece is read: centre, mean or largest. */
    public readonly string $reads;

    /** Where each piece's weight is read, in the prop's space. */
    private readonly Samples $places;

    /** @var WeakMap<Samples, list<array{float, list<float>}>> frame and weights of the places asked about, the newest first */
    private WeakMap $known;

    /** The last frame that had been seen when they were asked for. */
    private int $seen = 0;

    public function __construct(private readonly Prop $prop, BrokenProp $broken, private readonly Surfaces $others)
    {
        $this->known = new WeakMap();
        $broken = $broken->coarse();
        $this->weight = Weighing::of($prop, PropShape::ofPieces($broken, $others));
        $this->isEmpty = $prop->weight->isEmpty();
        $this->reads = $prop->weight->shape?->string('pieces') ?? 'centre';
        $this->each = $this->reads === 'centre' || $prop->mover->has('vertices') ? [] : self::counts($broken->pieces);
        $this->trigger = $this->triggerAt(Weighing::places($prop, $broken));
        $this->places = $this->each === [] ? Weighing::places($prop, $broken) : Weighing::vertices($broken);
    }

    /** What lets go of parts that stand at some places, in the prop's space. */
    public function triggerAt(Samples $places): Trigger
    {
        return Kinds::trigger($this->prop->trigger->kind)::make($this->prop->trigger->settings, array_map(static fn (float $x, float $y, float $z): array => [$x, $y, $z], $places->x, $places->y, $places->z));
    }

    /** The weight of the prop, wherever it is read. */
    public function weight(): WeightSource
    {
        return $this->weight;
    }

    /** @return list<float> of each piece, 0 to 1 */
    public function weights(float $frame): array
    {
        return $this->ofPieces($this->at($this->places, $frame));
    }

    /**
     * Several ask for the same in a step.
     *
     * @return list<float> at each of some places of the prop, 0 to 1
     */
    public function at(Samples $places, float $frame): array
    {
        $seen = $this->others->seen?->sightings->last() ?? 0;
        if ($seen !== $this->seen) {
            $this->known = new WeakMap();
            $this->seen = $seen;
        }
        foreach ($this->known[$places] ?? [] as [$when, $weights]) {
            if ($when === $frame) {
                return $weights;
            }
        }
        $weights = $this->weight->evaluate($places, $frame);
        $this->known[$places] = array_slice([[$frame, $weights], ...$this->known[$places] ?? []], 0, self::REMEMBERED);

        return $weights;
    }

    /** @return list<float>|null weight above which each of so many parts lets go; null: they do not go by the weight */
    public function thresholds(int $count): ?array
    {
        $thresholds = [];
        for ($part = 0; $part < $count; $part++) {
            $threshold = $this->trigger->threshold($part);
            if ($threshold === null) {
                return null;
            }
            $thresholds[] = $threshold;
        }

        return $thresholds;
    }

    /** @return list<float> how far each of so many parts has got that goes by the moment, 0 to 1 and beyond, before any ease */
    public static function elapsed(Trigger $trigger, int $count, ?int $moment, float $takes, float $frame): array
    {
        $shares = [];
        for ($part = 0; $part < $count; $part++) {
            $shares[] = $moment === null ? 0.0 : ($frame - $moment - $trigger->delay($part)) / max(1e-9, $takes);
        }

        return $shares;
    }

    /**
     * @param iterable<TriangleMesh> $pieces
     *
     * @return list<int>
     */
    private static function counts(iterable $pieces): array
    {
        $counts = [];
        foreach ($pieces as $mesh) {
            $counts[] = $mesh->vertexCount();
        }

        return $counts;
    }

    /**
     * @param list<float> $weights at the places
     *
     * @return list<float>
     */
    private function ofPieces(array $weights): array
    {
        if ($this->each === []) {
            return $weights;
        }
        $pieces = [];
        $first = 0;
        foreach ($this->each as $count) {
            $own = array_slice($weights, $first, $count);
            $pieces[] = $own === [] ? 0.0 : match ($this->reads) {
                'largest' => max($own),
                'smallest' => min($own),
                default => array_sum($own) / $count,
            };
            $first += $count;
        }

        return $pieces;
    }

    /** @return list<float> how far what goes by the weight acts on each piece; without a weight of its own wholly */
    public function felt(float $frame): array
    {
        $weights = $this->weights($frame);

        return $this->isEmpty ? array_fill(0, count($weights), 1.0) : $weights;
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
        return $this->isEmpty ? $progress : $this->weights($frame);
    }

    /**
     * @param list<int> $held pieces
     *
     * @return list<int> those of them that are due by a frame
     */
    public function due(float $frame, array $held): array
    {
        $weights = $this->weights($frame);
        $own = [];
        foreach ($held as $piece) {
            $own[$piece] = $weights[$piece];
        }

        return array_keys(array_filter($this->trigger->due($frame, $own)));
    }
}
