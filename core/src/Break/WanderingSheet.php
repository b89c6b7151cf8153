<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\GradientNoise;
use YardBreak\Core\Mesh\TriangleMesh;

/** A sheet that strays from a plane like a crack: its height over the plane is layered noise. Seen along the plane's normal it never folds. */
final readonly class WanderingSheet
{
    /** Slope of the noise where it is steep. */
    private const SLOPE = 1.5;

    /**
     * @param array{float, float, float} $normal of the plane, of length 1
     * @param float $at where the plane lies along its normal, m
     * @param float $height about the most by which the sheet strays, m
     * @param float $width of its largest waves, m
     * @param int $octaves layers of noise, each twice as fine as the one before
     * @param float $fade strength of each, in parts of the one before
     */
    public function __construct(
        private GradientNoise $noise,
        private array $normal,
        private float $at,
        private float $height,
        private float $width,
        private int $octaves,
        private float $fade,
    ) {
    }

    /** Height over the plane, m, where the normal through a place meets the sheet. */
    public function rise(float $x, float $y, float $z): float
    {
        [$nx, $ny, $nz] = $this->normal;
        $t = $nx * $x + $ny * $y + $nz * $z;
        $s = 1.0 / $this->width;

        return $this->height * $this->noise->layered(($x - $t * $nx) * $s, ($y - $t * $ny) * $s, ($z - $t * $nz) * $s, $this->octaves, $this->fade);
    }

    /** How far a place lies before the sheet, along the plane's normal, m; below 0 behind it. */
    public function distance(float $x, float $y, float $z): float
    {
        return $this->normal[0] * $x + $this->normal[1] * $y + $this->normal[2] * $z - $this->at - $this->rise($x, $y, $z);
    }

    /** How much the height changes over a length, at most about. */
    public function steepness(): float
    {
        $sum = 0.0;
        for ($o = 0; $o < $this->octaves; $o++) {
            $sum += (2.0 * $this->fade) ** $o;
        }

        return self::SLOPE * $this->height / $this->width * $sum;
    }

    /** A mesh in the space in which the sheet is flat. */
    public function flattened(TriangleMesh $mesh): TriangleMesh
    {
        [$x, $y, $z] = [$mesh->x, $mesh->y, $mesh->z];
        foreach ($x as $i => $px) {
            $h = $this->rise($px, $y[$i], $z[$i]);
            $x[$i] = $px - $h * $this->normal[0];
            $y[$i] -= $h * $this->normal[1];
            $z[$i] -= $h * $this->normal[2];
        }

        return new TriangleMesh($x, $y, $z, $mesh->triangles);
    }

    /**
     * A place of that space in the prop's own.
     *
     * @return array{float, float, float}
     */
    public function back(float $x, float $y, float $z): array
    {
        $h = $this->rise($x, $y, $z);

        return [$x + $h * $this->normal[0], $y + $h * $this->normal[1], $z + $h * $this->normal[2]];
    }

    /**
     * The place of the sheet under or over a place.
     *
     * @return array{float, float, float}
     */
    public function onto(float $x, float $y, float $z): array
    {
        $lift = $this->at + $this->rise($x, $y, $z) - ($this->normal[0] * $x + $this->normal[1] * $y + $this->normal[2] * $z);

        return [$x + $lift * $this->normal[0], $y + $lift * $this->normal[1], $z + $lift * $this->normal[2]];
    }
}
