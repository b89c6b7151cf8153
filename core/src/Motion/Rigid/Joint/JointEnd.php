<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid\Joint;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\Rigid\RigidBodies;

/** Where a joint holds on: to a shape, whatever body carries it, or to a place of the world. */
final class JointEnd
{
    /** Body that carries the shape now. */
    public int $body = RigidBodies::FLOOR;

    /** @var array{float, float, float} from the body's centre, along the world's axes, m */
    public array $arm = [0.0, 0.0, 0.0];

    /** @var array{float, float, float} m */
    public array $place = [0.0, 0.0, 0.0];

    /** @var array{float, float, float, float} of the body */
    public array $turn = [0.0, 0.0, 0.0, 1.0];

    /**
     * @param int|null $shape null: it is fixed in the world
     * @param array{float, float, float} $local from the shape's centre, in its body's axes; in the world: the place itself, m
     */
    private function __construct(public readonly ?int $shape, private readonly array $local)
    {
    }

    /** @param array{float, float, float} $place in the world, where the shape is now, m */
    public static function on(RigidBodies $bodies, int $shape, array $place): self
    {
        $body = $bodies->bodyOf($shape);
        [$x, $y, $z] = Quaternion::rotate(Quaternion::conjugate($bodies->turnOf($body)), Vector::minus($place, $bodies->placeOf($body)));

        return new self($shape, [$x - $bodies->offset[3 * $shape], $y - $bodies->offset[3 * $shape + 1], $z - $bodies->offset[3 * $shape + 2]]);
    }

    /** @param array{float, float, float} $place m */
    public static function fixed(array $place): self
    {
        return new self(null, $place);
    }

    /**
     * Where it is now.
     *
     * @param array<int, float> $moved way and turn of each body since the step began, as far as what is driven has come
     */
    public function follow(RigidBodies $bodies, array $moved): void
    {
        if ($this->shape === null) {
            $this->place = $this->arm = $this->local;

            return;
        }
        $b = $this->body = $bodies->shapeBody[$this->shape];
        $centre = $bodies->placeOf($b);
        $this->turn = $bodies->turnOf($b);
        if (! $bodies->free[$b] && $moved !== []) {
            // What is driven is moved on only at the end of the step.
            $o = 6 * $b;
            $centre = [$centre[0] + $moved[$o], $centre[1] + $moved[$o + 1], $centre[2] + $moved[$o + 2]];
            $angle = sqrt($moved[$o + 3] ** 2 + $moved[$o + 4] ** 2 + $moved[$o + 5] ** 2);
            if ($angle > 0.0) {
                $this->turn = Quaternion::multiply(Quaternion::aboutAxis([$moved[$o + 3] / $angle, $moved[$o + 4] / $angle, $moved[$o + 5] / $angle], $angle), $this->turn);
            }
        }
        $s = 3 * $this->shape;
        $this->arm = Quaternion::rotate($this->turn, [$bodies->offset[$s] + $this->local[0], $bodies->offset[$s + 1] + $this->local[1], $bodies->offset[$s + 2] + $this->local[2]]);
        $this->place = [$centre[0] + $this->arm[0], $centre[1] + $this->arm[1], $centre[2] + $this->arm[2]];
    }

    /**
     * @param array<int, float> $v velocities and spins
     *
     * @return array{float, float, float} how fast the place moves, m/s
     */
    public function speed(array $v): array
    {
        $o = 6 * $this->body;
        [$x, $y, $z] = $this->arm;

        return $this->shape === null ? [0.0, 0.0, 0.0] : [
            $v[$o] + $v[$o + 4] * $z - $v[$o + 5] * $y,
            $v[$o + 1] + $v[$o + 5] * $x - $v[$o + 3] * $z,
            $v[$o + 2] + $v[$o + 3] * $y - $v[$o + 4] * $x,
        ];
    }

    /**
     * @param array<int, float> $v
     *
     * @return array{float, float, float} rad/s
     */
    public function spin(array $v): array
    {
        $o = 6 * $this->body;

        return $this->shape === null ? [0.0, 0.0, 0.0] : [$v[$o + 3], $v[$o + 4], $v[$o + 5]];
    }

    /**
     * Pushes the body at the place.
     *
     * @param array<int, float> $v
     * @param array<int, float> $im inverse masses
     * @param array<int, float> $ii inverse inertia in the world, six numbers a body
     * @param array{float, float, float} $impulse N s
     */
    public function push(array &$v, array $im, array $ii, array $impulse): void
    {
        $o = 6 * $this->body;
        for ($k = 0; $k < 3; $k++) {
            $v[$o + $k] += $im[$this->body] * $impulse[$k];
        }
        $this->turn($v, $ii, Vector::cross($this->arm, $impulse));
    }

    /**
     * Turns the body.
     *
     * @param array<int, float> $v
     * @param array<int, float> $ii
     * @param array{float, float, float} $moment N m s
     */
    public function turn(array &$v, array $ii, array $moment): void
    {
        $o = 6 * $this->body;
        foreach ($this->gives($ii, $moment) as $k => $value) {
            $v[$o + 3 + $k] += $value;
        }
    }

    /**
     * @param array<int, float> $ii
     * @param array{float, float, float} $moment
     *
     * @return array{float, float, float} the spin that comes of it
     */
    public function gives(array $ii, array $moment): array
    {
        $o = 6 * $this->body;
        [$x, $y, $z] = $moment;

        return [
            $ii[$o] * $x + $ii[$o + 3] * $y + $ii[$o + 5] * $z,
            $ii[$o + 3] * $x + $ii[$o + 1] * $y + $ii[$o + 4] * $z,
            $ii[$o + 5] * $x + $ii[$o + 4] * $y + $ii[$o + 2] * $z,
        ];
    }
}
