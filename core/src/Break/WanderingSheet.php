<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\GradientNoise;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * A sheet that strays from a plane like a crack, in smooth curves or torn: its height over the plane is layered noise. Seen
 * along the plane's normal it never folds.
 */
final readonly class WanderingSheet
{
    /** Layers of noise, each twice as fine as the one before. */
    private const OCTAVES = 3;

    /** How strong each layer is where the sheet is torn, in parts of the one before. */
    private const FADE = 0.75;

    /** Width of the largest waves, in parts of the piece's size. */
    private const WAVE = 0.4;

    /** Noise seldom comes nearer to its bounds than two thirds of the way. */
    private const REACH = 1.5;

    /** Slope of the noise where it is steep. */
    private const SLOPE = 1.5;

    /** Sheets steeper than this (a little over 60 degrees) would cross those of other cuts. */
    private const STEEPEST = 1.8;

    /** About how much the height changes over a length, where it is steepest. */
    public float $steepness;

    private float $height;

    private float $frequency;

    private int $octaves;

    private float $fade;

    /**
     * @param array{float, float, float} $normal of the plane, of length 1
     * @param float $at where the plane lies along its normal, m
     * @param float $size of the piece, m
     * @param float $wander how far the sheet strays, in parts of the size; less where that would be too steep
     * @param float $jagged 0: it runs in smooth curves, 1: it is torn
     */
    public function __construct(
        private GradientNoise $noise,
        private array $normal,
        private float $at,
        float $size,
        float $wander,
        float $jagged,
    ) {
        $this->octaves = $jagged > 0.0 ? self::OCTAVES : 1;
        $this->fade = self::FADE * $jagged;
        $this->frequency = 1.0 / (self::WAVE * $size);
        $heights = $slopes = 0.0;
        for ($o = 0; $o < $this->octaves; $o++) {
            $heights += $this->fade ** $o;
            $slopes += (2.0 * $this->fade) ** $o;
        }
        // As high whether it is smooth or torn, but nowhere too steep.
        $steepness = self::SLOPE * $this->frequency * $slopes;
        $this->height = min(self::REACH * $wander * $size / $heights, self::STEEPEST / $steepness);
        $this->steepness = $steepness * $this->height;
    }

    /** Height over the plane, m, where the normal through a place meets the sheet. */
    public function rise(float $x, float $y, float $z): float
    {
        [$nx, $ny, $nz] = $this->normal;
        $t = $nx * $x + $ny * $y + $nz * $z;
        $s = $this->frequency;

        return $this->height * $this->noise->layered(($x - $t * $nx) * $s, ($y - $t * $ny) * $s, ($z - $t * $nz) * $s, $this->octaves, $this->fade);
    }

    /** How far a place lies before the sheet, along the plane's normal, m; below 0 behind it. */
    public function distance(float $x, float $y, float $z): float
    {
        return $this->normal[0] * $x + $this->normal[1] * $y + $this->normal[2] * $z - $this->at - $this->rise($x, $y, $z);
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
