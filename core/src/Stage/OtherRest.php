<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Weight\Samples;

/** Places of a prop on the way into the shape of another one of the same triangles: of its vertices, or of what carries them. */
final class OtherRest
{
    /** @var array{float, list<float>} frame asked about last, and how far each vertex had come then */
    private array $known = [-INF, []];

    /**
     * @param list<list<float>> $own places by axis, in the prop's axes at the size it has at first, m
     * @param list<list<float>> $ways the whole way of each
     * @param Animated $amount how much of it each goes, %
     */
    private function __construct(private readonly array $own, private readonly array $ways, private readonly Animated $amount)
    {
    }

    /**
     * @param array{float, float, float} $scale of the prop at the first frame
     *
     * @throws BreakFailed if there is no other shape, or none of the same triangles
     */
    public static function of(Prop $prop, Samples $at, array $scale, Surfaces $others): self
    {
        [$ways, $amount] = SurfaceChange::ways($prop, $at, $others);

        return self::along($at, $ways, $scale, $amount);
    }

    /**
     * @param list<array{float, float, float}> $ways of the places, in the prop's axes
     * @param array{float, float, float} $scale of the prop at the first frame
     * @param Animated $amount how much of it each goes, %
     */
    public static function along(Samples $at, array $ways, array $scale, Animated $amount): self
    {
        $byAxis = [];
        foreach ($scale as $axis => $times) {
            $byAxis[] = array_map(static fn (array $way): float => $times * $way[$axis], $ways);
        }

        return new self(array_map(static fn (array $places, float $times): array => array_map(static fn (float $place): float => $times * $place, $places), [$at->x, $at->y, $at->z], $scale), $byAxis, $amount);
    }

    /**
     * @param Closure(float): list<float> $felt how far the weight has come at each vertex at a frame
     *
     * @return array{list<float>, list<float>, list<float>} places by axis
     */
    public function at(float $frame, Closure $felt): array
    {
        if ($this->known[0] !== $frame) {
            $amount = 0.01 * $this->amount->at($frame);
            $this->known = [$frame, array_map(static fn (float $share): float => $amount * $share, $felt($frame))];
        }

        return $this->places($this->known[1]);
    }

    /** @return list<float> how far each had come where it was asked for last, 1: all the way */
    public function shares(): array
    {
        return $this->known[1];
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return ['drawn' => $this->known[1]];
    }

    /** @return array{list<float>, list<float>, list<float>} places by axis as they were */
    public function restore(State $saved): array
    {
        $this->known = [-INF, $saved->floats('drawn')];

        return $this->places($this->known[1]);
    }

    /**
     * @param list<float> $shares
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    private function places(array $shares): array
    {
        $along = fn (int $axis): array => array_map(static fn (float $from, float $way, float $share): float => $from + $share * $way, $this->own[$axis], $this->ways[$axis], $shares);

        return [$along(0), $along(1), $along(2)];
    }
}
