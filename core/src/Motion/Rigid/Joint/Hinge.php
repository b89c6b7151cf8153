<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid\Joint;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\Rigid\RigidBodies;

/** Keeps two places together; turned is freely, or only about an axis, and as far as its stops let it. */
final class Hinge extends Joint
{
    /** @var array{float, float, float} N s, on the second end */
    private array $given = [0.0, 0.0, 0.0];

    /** @var list<float> N m s, about two ways across the axis */
    private array $across = [0.0, 0.0];

    /** N m s about the axis, at a stop. */
    private float $stopped = 0.0;

    /** @var array{float, float, float, float} turn of the second body in the first one's axes, to begin with */
    private readonly array $was;

    /** @var array{float, float, float}|null the axis in the first body's axes; null: any turn is free */
    private readonly ?array $axisA;

    /** @var array{float, float, float} in the second body's */
    private readonly array $axisB;

    /** @var array{float, float, float} in the first body's axes, across the axis */
    private readonly array $acrossA;

    /**
     * @param array{float, float, float}|null $axis in the world, where the bodies are now, unit; null: it turns any way
     * @param float $damping rate at which it loses its spin, 1/s
     * @param array{float, float}|null $stops how far the second may turn against the first, rad; null: all round
     */
    public function __construct(JointEnd $a, JointEnd $b, float $strength, bool $touch, RigidBodies $bodies, ?array $axis, private readonly float $damping, private readonly ?array $stops)
    {
        parent::__construct($a, $b, $strength, $touch);
        $this->follow($bodies, []);
        $backA = Quaternion::conjugate($a->turn);
        $this->was = Quaternion::multiply($backA, $b->turn);
        $this->axisA = $axis === null ? null : Quaternion::rotate($backA, $axis);
        $this->axisB = Quaternion::rotate(Quaternion::conjugate($b->turn), $axis ?? [0.0, 1.0, 0.0]);
        $along = $this->axisA ?? [0.0, 1.0, 0.0];
        $this->acrossA = Vector::unit(Vector::cross($along, abs($along[0]) < 0.8 ? [1.0, 0.0, 0.0] : [0.0, 1.0, 0.0])) ?? [1.0, 0.0, 0.0];
    }

    protected function ready(): void
    {
    }

    protected function again(array &$v, array $im, array $ii): void
    {
        $this->give($v, $im, $ii, $this->given);
        if ($this->axisA !== null) {
            [$first, $second] = $this->ways();
            $along = Quaternion::rotate($this->a->turn, $this->axisA);
            $this->twist($v, $ii, [
                $this->across[0] * $first[0] + $this->across[1] * $second[0] + $this->stopped * $along[0],
                $this->across[0] * $first[1] + $this->across[1] * $second[1] + $this->stopped * $along[1],
                $this->across[0] * $first[2] + $this->across[1] * $second[2] + $this->stopped * $along[2],
            ]);
        }
    }

    protected function act(array &$v, array $im, array $ii, float $h, bool $push): void
    {
        if ($this->axisA !== null) {
            $this->keepAxis($v, $ii, $h, $push);
            $this->keepStops($v, $ii, $h, $push);
        }
        // Before the places are brought together exactly: what is taken from one body's spin is made up for by how all of it swings.
        if (! $push && $this->damping > 0.0) {
            $this->slow($v, $im, $ii, $h);
        }
        $this->keepPlace($v, $im, $ii, $h, $push);
    }

    protected function impulse(): float
    {
        return sqrt(Vector::dot($this->given, $this->given));
    }

    public function save(): array
    {
        return [...$this->given, ...$this->across, $this->stopped];
    }

    public function restore(array $saved): void
    {
        $this->given = [$saved[0], $saved[1], $saved[2]];
        $this->across = [$saved[3], $saved[4]];
        $this->stopped = $saved[5];
    }

    /** How far the second has turned about the axis against the first, rad, from -pi to pi. */
    public function angle(): float
    {
        if ($this->axisA === null) {
            return 0.0;
        }
        $now = Quaternion::multiply(Quaternion::multiply(Quaternion::conjugate($this->a->turn), $this->b->turn), Quaternion::conjugate($this->was));
        $sine = $now[0] * $this->axisA[0] + $now[1] * $this->axisA[1] + $now[2] * $this->axisA[2];
        $angle = 2.0 * atan2($sine, $now[3]);

        return $angle > M_PI ? $angle - 2.0 * M_PI : ($angle < -M_PI ? $angle + 2.0 * M_PI : $angle);
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $im
     * @param array<int, float> $ii
     */
    private function keepPlace(array &$v, array $im, array $ii, float $h, bool $push): void
    {
        [$px, $py, $pz] = $this->parting($v);
        [$rate, $apply, $drop] = $push ? self::stiff($h) : [0.0, 1.0, 0.0];
        [$x, $y, $z] = Vector::minus($this->b->place, $this->a->place);
        $want = [-$px - $rate * $x, -$py - $rate * $y, -$pz - $rate * $z];
        // What a push along each axis gives, and the push that gives what is wanted.
        $m = $im[$this->a->body] + $im[$this->b->body];
        $columns = [];
        foreach ([[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]] as $n) {
            $column = [$m * $n[0], $m * $n[1], $m * $n[2]];
            foreach ([$this->a, $this->b] as $end) {
                $column = Vector::plus($column, Vector::cross($end->gives($ii, Vector::cross($end->arm, $n)), $end->arm));
            }
            $columns[] = $column;
        }
        [$cx, $cy, $cz] = $columns;
        $volume = Vector::dot($cx, Vector::cross($cy, $cz));
        $impulse = [
            $apply * Vector::dot($want, Vector::cross($cy, $cz)) / $volume - $drop * $this->given[0],
            $apply * Vector::dot($cx, Vector::cross($want, $cz)) / $volume - $drop * $this->given[1],
            $apply * Vector::dot($cx, Vector::cross($cy, $want)) / $volume - $drop * $this->given[2],
        ];
        $this->given = Vector::plus($this->given, $impulse);
        $this->give($v, $im, $ii, $impulse);
    }

    /**
     * Two axes of the second body stay across the first one's.
     *
     * @param array<int, float> $v
     * @param array<int, float> $ii
     */
    private function keepAxis(array &$v, array $ii, float $h, bool $push): void
    {
        $axis = Quaternion::rotate($this->b->turn, $this->axisB);
        [$rate, $apply, $drop] = $push ? self::stiff($h) : [0.0, 1.0, 0.0];
        $given = [];
        foreach ($this->ways() as $k => $way) {
            // Of the axis's lean against the other body's: how it changes with the spins.
            $off = Vector::dot($this->leans($k), $axis);
            $mass = $this->turned($ii, $way);
            if ($mass <= 0.0) {
                return;
            }
            $speed = Vector::dot($way, Vector::minus($this->b->spin($v), $this->a->spin($v)));
            $moment = -$apply * ($speed + $rate * $off) / $mass - $drop * $this->across[$k];
            $given[] = $this->across[$k] + $moment;
            $this->twist($v, $ii, [$moment * $way[0], $moment * $way[1], $moment * $way[2]]);
        }
        $this->across = $given;
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $ii
     */
    private function keepStops(array &$v, array $ii, float $h, bool $push): void
    {
        if ($this->stops === null || $this->axisA === null) {
            return;
        }
        $along = Quaternion::rotate($this->a->turn, $this->axisA);
        $mass = $this->turned($ii, $along);
        if ($mass <= 0.0) {
            return;
        }
        $angle = $this->angle();
        $speed = Vector::dot($along, Vector::minus($this->b->spin($v), $this->a->spin($v)));
        [$low, $high] = $this->stops;
        // The stop that is nearer; a moment of one sign only.
        $side = $angle - $low < $high - $angle ? 1.0 : -1.0;
        $gap = $side > 0.0 ? $angle - $low : $high - $angle;
        $closing = $side * $speed;
        if ($gap > 0.0) {
            $moment = -($closing + $gap / $h) / $mass;
        } elseif ($push) {
            [$rate, $apply, $drop] = self::stiff($h);
            $moment = -$apply * ($closing + $rate * $gap) / $mass - $drop * $side * $this->stopped;
        } else {
            $moment = -$closing / $mass;
        }
        $now = $side * max(0.0, $side * $this->stopped + $moment);
        $change = $now - $this->stopped;
        $this->stopped = $now;
        $this->twist($v, $ii, [$change * $along[0], $change * $along[1], $change * $along[2]]);
    }

    /**
     * Takes from the spin; what hangs on the hinge turns about it, not about its own centre.
     *
     * @param array<int, float> $v
     * @param array<int, float> $im
     * @param array<int, float> $ii
     */
    private function slow(array &$v, array $im, array $ii, float $h): void
    {
        $spin = Vector::minus($this->b->spin($v), $this->a->spin($v));
        $rate = sqrt(Vector::dot($spin, $spin));
        if ($rate < 1e-9) {
            return;
        }
        $way = [$spin[0] / $rate, $spin[1] / $rate, $spin[2] / $rate];
        $gives = 0.0;
        foreach ([$this->a, $this->b] as $end) {
            if ($im[$end->body] > 0.0) {
                $off = Vector::cross($way, $end->arm);
                $gives += 1.0 / (1.0 / Vector::dot($way, $end->gives($ii, $way)) + Vector::dot($off, $off) / $im[$end->body]);
            }
        }
        if ($gives > 0.0) {
            $moment = -$rate * (1.0 - exp(-$this->damping * $h)) / $gives;
            $this->twist($v, $ii, [$moment * $way[0], $moment * $way[1], $moment * $way[2]]);
        }
    }

    /** @return array{float, float, float} a way of the first body across its axis, in the world */
    private function leans(int $k): array
    {
        $way = $k === 0 ? $this->acrossA : Vector::cross($this->axisA ?? [0.0, 1.0, 0.0], $this->acrossA);

        return Quaternion::rotate($this->a->turn, $way);
    }

    /** @return list<array{float, float, float}> about which the second body must not turn against the first */
    private function ways(): array
    {
        $axis = Quaternion::rotate($this->b->turn, $this->axisB);

        return [Vector::cross($axis, $this->leans(0)), Vector::cross($axis, $this->leans(1))];
    }

    /**
     * @param array<int, float> $ii
     * @param array{float, float, float} $way
     *
     * @return float inverse of the inertia that is felt
     */
    private function turned(array $ii, array $way): float
    {
        return Vector::dot($way, $this->a->gives($ii, $way)) + Vector::dot($way, $this->b->gives($ii, $way));
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $ii
     * @param array{float, float, float} $moment on the second; the first gets its opposite
     */
    private function twist(array &$v, array $ii, array $moment): void
    {
        $this->a->turn($v, $ii, [-$moment[0], -$moment[1], -$moment[2]]);
        $this->b->turn($v, $ii, $moment);
    }
}
