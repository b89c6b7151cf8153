<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** The shape of an opening. */
final readonly class Cutter
{
    public const BALL = 'ball';

    /** A cylinder along the axis. */
    public const ROUND = 'round';

    /** A box along the axis. */
    public const SQUARE = 'square';

    /** A drawn outline along one of the three axes. */
    public const DRAWN = 'drawn';

    /**
     * @param array{float, float, float} $point
     * @param float $size about half its width, m
     * @param list<array{float, float}> $outline
     */
    private function __construct(
        public string $shape,
        public array $point,
        public Frame3 $frame,
        public float $size,
        public array $outline = [],
        public int $axis = 0,
    ) {
    }

    /**
     * @param string $shape BALL, ROUND or SQUARE
     * @param array{float, float, float} $point its middle
     * @param array{float, float, float} $axis
     */
    public static function about(string $shape, array $point, array $axis, float $radius): self
    {
        return new self($shape, $point, Frame3::about($axis), $radius);
    }

    /**
     * The inside of a drawn loop, straight through.
     *
     * @param list<array{float, float}> $points
     * @param int $axis 0: x, 1: y, 2: z, the one it was drawn along
     */
    public static function drawn(array $points, int $axis): self
    {
        $size = 1e-9;
        foreach ($points as [$a, $b]) {
            $size = max($size, 0.5 * hypot($a - $points[0][0], $b - $points[0][1]));
        }

        return new self(self::DRAWN, [0.0, 0.0, 0.0], Frame3::about([0.0, 0.0, 1.0]), $size, $points, $axis);
    }

    /** How far a place lies outside, m; negative inside. */
    public function distance(float $x, float $y, float $z): float
    {
        if ($this->shape === self::DRAWN) {
            $place = [$x, $y, $z];

            return $this->fromOutline($place[($this->axis + 1) % 3], $place[($this->axis + 2) % 3]);
        }
        $dx = $x - $this->point[0];
        $dy = $y - $this->point[1];
        $dz = $z - $this->point[2];
        if ($this->shape === self::BALL) {
            return sqrt($dx * $dx + $dy * $dy + $dz * $dz) - $this->size;
        }
        $u = $dx * $this->frame->u[0] + $dy * $this->frame->u[1] + $dz * $this->frame->u[2];
        $v = $dx * $this->frame->v[0] + $dy * $this->frame->v[1] + $dz * $this->frame->v[2];

        return ($this->shape === self::ROUND ? sqrt($u * $u + $v * $v) : max(abs($u), abs($v))) - $this->size;
    }

    private function fromOutline(float $u, float $v): float
    {
        $inside = false;
        $best = INF;
        foreach ($this->outline as $k => [$au, $av]) {
            [$bu, $bv] = $this->outline[$k + 1] ?? $this->outline[0];
            $du = $bu - $au;
            $dv = $bv - $av;
            $s = max(0.0, min(1.0, (($u - $au) * $du + ($v - $av) * $dv) / max(1e-300, $du * $du + $dv * $dv)));
            $best = min($best, ($au + $s * $du - $u) ** 2 + ($av + $s * $dv - $v) ** 2);
            if (($av > $v) !== ($bv > $v) && $u < $au + $du * ($v - $av) / $dv) {
                $inside = ! $inside;
            }
        }

        return $inside ? -sqrt($best) : sqrt($best);
    }
}
