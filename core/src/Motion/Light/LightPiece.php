<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;

/** What does not change of a light piece. */
final readonly class LightPiece
{
    /** What is not told apart by then is as good as round. */
    private const SQUARINGS = 14;

    /**
     * @param float $radius m, from its centre to its farthest corner
     * @param float $thickness half of it, m, along its axis
     * @param array{float, float, float} $axis across its flat side, in its own axes
     * @param float $fallSpeed m/s through still air
     * @param float $tumble rad/s at that speed
     * @param array{float, float, float} $spinAxis in the world, unit
     * @param float $restitution share of the speed that it keeps as it comes off what it hits
     * @param bool $sticks whether it stays where it first touches
     * @param bool $meets whether it meets anything but floors
     * @param float $exposure share of the wind that reaches it where it lies on a floor
     */
    public function __construct(
        public float $radius,
        public float $thickness,
        public array $axis,
        public float $fallSpeed,
        public float $tumble,
        public array $spinAxis,
        public float $friction,
        public float $restitution = 0.0,
        public bool $sticks = false,
        public bool $meets = true,
        public float $exposure = 0.0,
    ) {
    }

    /**
     * The same piece, that many times as large along each of its axes; it is felt at least as large as it is.
     *
     * @param array{float, float, float} $by
     */
    public function scaled(array $by): self
    {
        [$x, $y, $z] = [$by[0] * $this->axis[0], $by[1] * $this->axis[1], $by[2] * $this->axis[2]];

        return new self(max($by) * $this->radius, sqrt($x * $x + $y * $y + $z * $z) * $this->thickness, $this->axis, $this->fallSpeed, $this->tumble, $this->spinAxis, $this->friction, $this->restitution, $this->sticks, $this->meets, $this->exposure);
    }

    /**
     * The direction across a piece's flat side: about it the piece has most inertia.
     *
     * @return array{float, float, float} unit
     */
    public static function across(MassProperties $mass): array
    {
        [$xx, $yy, $zz, $xy, $yz, $zx] = $mass->inertia;
        // Squared again and again only the largest is left (power iteration, many rounds at once); long pieces need them.
        for ($k = 0; $k < self::SQUARINGS; $k++) {
            $trace = $xx + $yy + $zz;
            if ($trace <= 0.0) {
                return [0.0, 1.0, 0.0];
            }
            $s = 1.0 / ($trace * $trace);
            [$xx, $yy, $zz, $xy, $yz, $zx] = [
                $s * ($xx * $xx + $xy * $xy + $zx * $zx), $s * ($xy * $xy + $yy * $yy + $yz * $yz), $s * ($zx * $zx + $yz * $yz + $zz * $zz),
                $s * ($xx * $xy + $xy * $yy + $zx * $yz), $s * ($xy * $zx + $yy * $yz + $yz * $zz), $s * ($zx * $xx + $yz * $xy + $zz * $zx),
            ];
        }
        // What is left is the direction times itself: its longest column is the direction.
        $axis = $xx >= $yy && $xx >= $zz ? [$xx, $xy, $zx] : ($yy >= $zz ? [$xy, $yy, $yz] : [$zx, $yz, $zz]);
        $length = sqrt($axis[0] ** 2 + $axis[1] ** 2 + $axis[2] ** 2);

        return $length > 0.0 ? [$axis[0] / $length, $axis[1] / $length, $axis[2] / $length] : [0.0, 1.0, 0.0];
    }

    /**
     * @param array{float, float, float} $centre
     * @param array{float, float, float} $axis
     *
     * @return array{float, float} distance of its farthest corner, and how far it reaches along the axis, m
     */
    public static function reach(TriangleMesh $mesh, array $centre, array $axis): array
    {
        $far = $along = 0.0;
        foreach ($mesh->x as $i => $x) {
            $dx = $x - $centre[0];
            $dy = $mesh->y[$i] - $centre[1];
            $dz = $mesh->z[$i] - $centre[2];
            $far = max($far, $dx * $dx + $dy * $dy + $dz * $dz);
            $along = max($along, abs($dx * $axis[0] + $dy * $axis[1] + $dz * $axis[2]));
        }

        return [sqrt($far), $along];
    }
}
