<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;

/** To a place; to the line through it along a direction; or to the plane through it across the direction. */
final readonly class ToPlace implements Target
{
    /**
     * @param string $shape place, line or plane
     * @param list<Animated> $at m
     * @param list<Animated> $direction of any length; without one upward
     */
    public function __construct(private string $shape, private array $at, private array $direction)
    {
    }

    public function ways(array $x, array $y, array $z, float $frame): array
    {
        [$ox, $oy, $oz] = array_map(static fn (Animated $value): float => $value->at($frame), $this->at);
        [$nx, $ny, $nz] = $this->unit($frame);
        // What is left of the way along the direction and across it.
        [$along, $across] = ['place' => [1.0, 1.0], 'line' => [0.0, 1.0], 'plane' => [1.0, 0.0]][$this->shape];
        $u = $v = $w = [];
        foreach ($x as $i => $px) {
            $dx = $ox - $px;
            $dy = $oy - $y[$i];
            $dz = $oz - $z[$i];
            $n = ($along - $across) * ($dx * $nx + $dy * $ny + $dz * $nz);
            $u[$i] = $across * $dx + $n * $nx;
            $v[$i] = $across * $dy + $n * $ny;
            $w[$i] = $across * $dz + $n * $nz;
        }

        return [$u, $v, $w];
    }

    /** @return array{float, float, float} */
    private function unit(float $frame): array
    {
        [$x, $y, $z] = array_map(static fn (Animated $value): float => $value->at($frame), $this->direction);
        $length = sqrt($x * $x + $y * $y + $z * $z);

        return $length > 0.0 ? [$x / $length, $y / $length, $z / $length] : [0.0, 1.0, 0.0];
    }

    public function sample(float $frame): array
    {
        return [(float) crc32($this->shape), ...array_map(static fn (Animated $value): float => $value->at($frame), $this->at), ...($this->shape === 'place' ? [] : $this->unit($frame))];
    }

    public function animated(): array
    {
        return [...$this->at, ...($this->shape === 'place' ? [] : $this->direction)];
    }
}
