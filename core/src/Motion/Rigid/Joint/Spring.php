<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid\Joint;

use YardBreak\Core\Math\Vector;

/** Draws or pushes two places to its length, by Hooke's law. */
final class Spring extends Joint
{
    /** @var array{float, float, float} from the first end to the second, unit */
    private array $way = [0.0, 1.0, 0.0];

    private float $far = 0.0;

    /** N s */
    private float $given = 0.0;

    /**
     * @param float $length at rest, m
     * @param float $stiffness N/m
     * @param float $damping ratio: 1 comes to rest without swinging past
     */
    public function __construct(JointEnd $a, JointEnd $b, float $strength, bool $touch, private readonly float $length, private readonly float $stiffness, private readonly float $damping)
    {
        parent::__construct($a, $b, $strength, $touch);
    }

    protected function ready(): void
    {
        $apart = Vector::minus($this->b->place, $this->a->place);
        $this->far = sqrt(Vector::dot($apart, $apart));
        $this->way = Vector::unit($apart) ?? $this->way;
    }

    protected function again(array &$v, array $im, array $ii): void
    {
        $this->give($v, $im, $ii, $this->along($this->given));
    }

    protected function act(array &$v, array $im, array $ii, float $h, bool $push): void
    {
        if (! $push) {
            // What it gives is meant: nothing is to be taken out.
            return;
        }
        $mass = 1.0 / $this->gives($im, $ii, $this->way);
        [$rate, $apply, $drop] = self::softness(sqrt($this->stiffness / $mass) / (2.0 * M_PI), $this->damping, $h);
        $impulse = -$mass * $apply * (Vector::dot($this->way, $this->parting($v)) + $rate * ($this->far - $this->length)) - $drop * $this->given;
        $this->given += $impulse;
        $this->give($v, $im, $ii, $this->along($impulse));
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

    /** @return array{float, float, float} */
    private function along(float $impulse): array
    {
        return [$impulse * $this->way[0], $impulse * $this->way[1], $impulse * $this->way[2]];
    }
}
