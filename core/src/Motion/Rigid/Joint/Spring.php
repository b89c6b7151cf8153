<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid\Joint;

use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\Rigid\SoftConstraint;

/** Draws or pushes two places to its length, by Hooke's law. */
final class Spring extends Straight
{
    /**
     * @param float $length at rest, m
     * @param float $stiffness N/m
     * @param float $damping ratio: 1 comes to rest without swinging past
     */
    public function __construct(JointEnd $a, JointEnd $b, float $strength, bool $touch, float $length, private readonly float $stiffness, private readonly float $damping)
    {
        parent::__construct($a, $b, $strength, $touch, $length);
    }

    protected function act(array &$v, array $im, array $ii, float $h, bool $push): void
    {
        if (! $push) {
            // What it gives is meant: nothing is to be taken out.
            return;
        }
        $mass = 1.0 / $this->gives($im, $ii, $this->way);
        [$rate, $apply, $drop] = SoftConstraint::of(sqrt($this->stiffness / $mass) / (2.0 * M_PI), $this->damping, $h);
        $impulse = -$mass * $apply * (Vector::dot($this->way, $this->parting($v)) + $rate * ($this->far - $this->length)) - $drop * $this->given;
        $this->given += $impulse;
        $this->giveAlong($v, $im, $ii, $impulse);
    }
}
