<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid\Joint;

use YardBreak\Core\Math\Vector;

/** A joint that pulls, or pushes, along the straight line between its ends. */
abstract class Straight extends Joint
{
    /** @var array{float, float, float} from the first end to the second, unit */
    protected array $way = [0.0, 1.0, 0.0];

    /** How far apart the ends are, m. */
    protected float $far = 0.0;

    /** N s on the second end along the way; the first gets its opposite. */
    protected float $given = 0.0;

    /** @param float $length its own, m */
    public function __construct(JointEnd $a, JointEnd $b, float $strength, bool $touch, protected readonly float $length)
    {
        parent::__construct($a, $b, $strength, $touch);
    }

    protected function ready(): void
    {
        $apart = Vector::minus($this->b->place, $this->a->place);
        $this->far = sqrt(Vector::dot($apart, $apart));
        // Where both are at one place it keeps the way it had.
        $this->way = Vector::unit($apart) ?? $this->way;
    }

    protected function again(array &$v, array $im, array $ii): void
    {
        $this->giveAlong($v, $im, $ii, $this->given);
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $im
     * @param array<int, float> $ii
     */
    protected function giveAlong(array &$v, array $im, array $ii, float $impulse): void
    {
        if ($impulse !== 0.0) {
            $this->give($v, $im, $ii, [$impulse * $this->way[0], $impulse * $this->way[1], $impulse * $this->way[2]]);
        }
    }

    protected function impulse(): float
    {
        return abs($this->given);
    }

    public function save(): array
    {
        return [$this->given];
    }

    public function restore(array $saved): void
    {
        $this->given = $saved[0];
    }
}
