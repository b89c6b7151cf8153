<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/**
 * Mass, centre and inertia of a body made of pieces.
 *
 * Tensors are listed as xx, yy, zz, xy, yz, zx.
 *
 * @phpstan-type Tensor array{float, float, float, float, float, float}
 */
final readonly class Inertia
{
    /**
     * @param array{float, float, float} $centre
     * @param Tensor $tensor about the centre, kg m2
     */
    public function __construct(public float $mass, public array $centre, public array $tensor)
    {
    }

    /** @param list<self> $parts */
    public static function together(array $parts): self
    {
        $mass = $x = $y = $z = 0.0;
        foreach ($parts as $part) {
            $mass += $part->mass;
            $x += $part->mass * $part->centre[0];
            $y += $part->mass * $part->centre[1];
            $z += $part->mass * $part->centre[2];
        }
        $centre = [$x / $mass, $y / $mass, $z / $mass];
        $sum = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        foreach ($parts as $part) {
            $dx = $part->centre[0] - $centre[0];
            $dy = $part->centre[1] - $centre[1];
            $dz = $part->centre[2] - $centre[2];
            $m = $part->mass;
            // Parallel axes (Steiner).
            $sum[0] += $part->tensor[0] + $m * ($dy * $dy + $dz * $dz);
            $sum[1] += $part->tensor[1] + $m * ($dx * $dx + $dz * $dz);
            $sum[2] += $part->tensor[2] + $m * ($dx * $dx + $dy * $dy);
            $sum[3] += $part->tensor[3] - $m * $dx * $dy;
            $sum[4] += $part->tensor[4] - $m * $dy * $dz;
            $sum[5] += $part->tensor[5] - $m * $dz * $dx;
        }

        return new self($mass, $centre, $sum);
    }

    /**
     * Of the same body of the same stuff, that many times as large along each axis.
     *
     * @param array{float, float, float} $by each above 0
     */
    public function scaled(array $by): self
    {
        [$a, $b, $c] = $by;
        $more = $a * $b * $c;
        [$xx, $yy, $zz, $xy, $yz, $zx] = $this->tensor;
        // Sums of m x x and so on: what a tensor is made of, and what scales simply.
        $half = 0.5 * ($xx + $yy + $zz);
        $mx = $more * $a * $a * ($half - $xx);
        $my = $more * $b * $b * ($half - $yy);
        $mz = $more * $c * $c * ($half - $zz);

        return new self(
            $more * $this->mass,
            [$a * $this->centre[0], $b * $this->centre[1], $c * $this->centre[2]],
            [$my + $mz, $mz + $mx, $mx + $my, $more * $a * $b * $xy, $more * $b * $c * $yz, $more * $c * $a * $zx],
        );
    }

    /** @return Tensor inverse of the tensor; needles get a little extra about their long axis, so that it exists */
    public function inverse(): array
    {
        [$xx, $yy, $zz, $xy, $yz, $zx] = $this->widened();
        $a = $yy * $zz - $yz * $yz;
        $b = $zx * $yz - $xy * $zz;
        $c = $xy * $yz - $zx * $yy;
        $s = 1.0 / ($xx * $a + $xy * $b + $zx * $c);

        return [
            $a * $s,
            ($xx * $zz - $zx * $zx) * $s,
            ($xx * $yy - $xy * $xy) * $s,
            $b * $s,
            ($xy * $zx - $xx * $yz) * $s,
            $c * $s,
        ];
    }

    /** @return Tensor */
    public function widened(): array
    {
        $extra = 1e-3 * max($this->tensor[0], $this->tensor[1], $this->tensor[2]);
        $least = min($this->tensor[0], $this->tensor[1], $this->tensor[2]);
        if ($least > 4.0 * $extra) {
            return $this->tensor;
        }
        [$xx, $yy, $zz, $xy, $yz, $zx] = $this->tensor;

        return [$xx + $extra, $yy + $extra, $zz + $extra, $xy, $yz, $zx];
    }
}
