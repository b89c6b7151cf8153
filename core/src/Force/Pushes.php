<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

/**
 * What forces do at many places: they accelerate, move the air, and slow. The parts are lists of the same length, open to the
 * fields that add to them.
 */
final class Pushes
{
    /** @var array<int, float> acceleration, m/s2 */
    public array $ax;

    /** @var array<int, float> */
    public array $ay;

    /** @var array<int, float> */
    public array $az;

    /** @var array<int, float> velocity of the air, m/s */
    public array $u;

    /** @var array<int, float> */
    public array $v;

    /** @var array<int, float> */
    public array $w;

    /** @var array<int, float> share of the speed through the air that is lost in a second, 1/s */
    public array $linear;

    /** @var array<int, float> the same for each m/s of that speed, 1/m */
    public array $square;

    /** Whether anything slows at all. */
    public bool $slows = false;

    public function __construct(int $count)
    {
        $this->ax = $this->ay = $this->az = $this->u = $this->v = $this->w = $this->linear = $this->square = array_fill(0, $count, 0.0);
    }

    /**
     * Adds what was found of some of the places, by a share each.
     *
     * @param list<int> $at where each of them is here
     * @param list<float>|null $shares null: wholly
     */
    public function add(self $some, array $at, ?array $shares = null): void
    {
        foreach (['ax', 'ay', 'az', 'u', 'v', 'w', 'linear', 'square'] as $part) {
            $all = $this->{$part};
            $this->{$part} = [];
            foreach ($some->{$part} as $k => $value) {
                $all[$at[$k]] += $shares === null ? $value : $shares[$k] * $value;
            }
            $this->{$part} = $all;
        }
        $this->slows = $this->slows || $some->slows;
    }
}
