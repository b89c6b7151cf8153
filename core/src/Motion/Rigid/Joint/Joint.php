<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid\Joint;

use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\Rigid\RigidBodies;
use YardBreak\Core\Motion\Rigid\RigidTuning;
use YardBreak\Core\Motion\Rigid\SoftConstraint;

/**
 * What joins two ends. It is solved with the contacts, in the same substeps: a soft push against what has come apart, then a pass
 * that takes out the speed this gave (Catto 2011, "Soft Constraints"; 2024, "Solver2D").
 */
abstract class Joint
{
    public bool $holds = true;

    /** How hard it was pulled in the last step, N. */
    public float $force = 0.0;

    /** Sum over the substeps so far, N s. */
    private float $pulled = 0.0;

    /**
     * @param float $strength above which it breaks, N; INF: never
     * @param bool $touch whether the two that it joins touch each other
     */
    public function __construct(public readonly JointEnd $a, public readonly JointEnd $b, public readonly float $strength, public readonly bool $touch)
    {
    }

    /** Readies it for a step of which the ends have been found. */
    abstract protected function ready(): void;

    /**
     * Gives again what was given in the substep before.
     *
     * @param array<int, float> $v
     * @param array<int, float> $im
     * @param array<int, float> $ii
     */
    abstract protected function again(array &$v, array $im, array $ii): void;

    /**
     * @param array<int, float> $v
     * @param array<int, float> $im
     * @param array<int, float> $ii
     * @param float $h substep, s
     * @param bool $push whether what has come apart is drawn together (else: the relaxing pass)
     */
    abstract protected function act(array &$v, array $im, array $ii, float $h, bool $push): void;

    /** Impulse of the substep, N s. */
    abstract protected function impulse(): float;

    /** @return list<float> what it gave last */
    abstract public function save(): array;

    /** @param list<float> $saved */
    abstract public function restore(array $saved): void;

    /** Whether one end feels what the other does. */
    public function isTaut(): bool
    {
        return true;
    }

    public function begin(RigidBodies $bodies): void
    {
        $this->follow($bodies, []);
        $this->pulled = 0.0;
    }

    /** @param array<int, float> $moved */
    public function follow(RigidBodies $bodies, array $moved): void
    {
        $this->a->follow($bodies, $moved);
        $this->b->follow($bodies, $moved);
        $this->ready();
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $im
     * @param array<int, float> $ii
     */
    final public function warmStart(array &$v, array $im, array $ii): void
    {
        if ($this->joins($im)) {
            $this->again($v, $im, $ii);
        }
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $im
     * @param array<int, float> $ii
     */
    final public function solve(array &$v, array $im, array $ii, float $h, bool $push): void
    {
        if ($this->joins($im)) {
            $this->act($v, $im, $ii, $h, $push);
        }
        if (! $push) {
            $this->pulled += $this->impulse();
        }
    }

    /** @param float $dt of the step that ends, s */
    public function end(float $dt): void
    {
        $this->force = $this->pulled / $dt;
    }

    /**
     * Whether there is anything that it can move.
     *
     * @param array<int, float> $im
     */
    private function joins(array $im): bool
    {
        return $this->a->body !== $this->b->body && ($im[$this->a->body] > 0.0 || $im[$this->b->body] > 0.0);
    }

    /**
     * Inverse of the mass that is felt along a direction.
     *
     * @param array<int, float> $im
     * @param array<int, float> $ii
     * @param array{float, float, float} $n unit
     */
    protected function gives(array $im, array $ii, array $n): float
    {
        $sum = $im[$this->a->body] + $im[$this->b->body];
        foreach ([$this->a, $this->b] as $end) {
            $moment = Vector::cross($end->arm, $n);
            $sum += Vector::dot($moment, $end->gives($ii, $moment));
        }

        return $sum;
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $im
     * @param array<int, float> $ii
     * @param array{float, float, float} $impulse on the second end; the first gets its opposite
     */
    protected function give(array &$v, array $im, array $ii, array $impulse): void
    {
        $this->a->push($v, $im, $ii, [-$impulse[0], -$impulse[1], -$impulse[2]]);
        $this->b->push($v, $im, $ii, $impulse);
    }

    /**
     * @param array<int, float> $v
     *
     * @return array{float, float, float} how fast the second end moves away from the first, m/s
     */
    protected function parting(array $v): array
    {
        return Vector::minus($this->b->speed($v), $this->a->speed($v));
    }

    /** @return array{float, float, float} as stiff as the substep bears, see {@see SoftConstraint} */
    protected static function stiff(float $h): array
    {
        return SoftConstraint::of(min(RigidTuning::JOINT_HERTZ, RigidTuning::CONTACT_STIFFNESS / $h), RigidTuning::JOINT_DAMPING, $h);
    }
}
