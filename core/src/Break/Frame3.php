<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** Three directions at right angles: an axis and two across it. */
final readonly class Frame3
{
    /**
     * @param array{float, float, float} $u
     * @param array{float, float, float} $v
     * @param array{float, float, float} $axis
     */
    private function __construct(public array $u, public array $v, public array $axis)
    {
    }

    /** @param array{float, float, float} $axis of any length; none: upright */
    public static function about(array $axis): self
    {
        $length = sqrt($axis[0] ** 2 + $axis[1] ** 2 + $axis[2] ** 2);
        $a = $length > 1e-12 ? [$axis[0] / $length, $axis[1] / $length, $axis[2] / $length] : [0.0, 1.0, 0.0];
        if (abs($a[0]) > 0.6) {
            $l = 1.0 / sqrt($a[0] ** 2 + $a[1] ** 2);
            $u = [-$a[1] * $l, $a[0] * $l, 0.0];
        } else {
            $l = 1.0 / sqrt($a[1] ** 2 + $a[2] ** 2);
            $u = [0.0, $a[2] * $l, -$a[1] * $l];
        }

        return new self($u, [
            $a[1] * $u[2] - $a[2] * $u[1], $a[2] * $u[0] - $a[0] * $u[2], $a[0] * $u[1] - $a[1] * $u[0],
        ], $a);
    }

    /** A quarter turn about the axis. */
    public function turned(): self
    {
        return new self($this->v, [-$this->u[0], -$this->u[1], -$this->u[2]], $this->axis);
    }
}
