<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/**
 * Improved gradient noise (Perlin 2002, "Improving Noise"): smooth, zero at whole numbers, within about -1 and 1. A seed
 * shifts the place where it is read.
 */
final readonly class GradientNoise
{
    /** Perlin's table: the numbers 0 to 255 in a scrambled order. */
    private const SCRAMBLED = [
        151, 160, 137, 91, 90, 15, 131, 13, 201, 95, 96, 53, 194, 233, 7, 225, 140, 36, 103, 30, 69, 142, 8, 99, 37, 240, 21, 10, 23,
        190, 6, 148, 247, 120, 234, 75, 0, 26, 197, 62, 94, 252, 219, 203, 117, 35, 11, 32, 57, 177, 33, 88, 237, 149, 56, 87, 174,
        20, 125, 136, 171, 168, 68, 175, 74, 165, 71, 134, 139, 48, 27, 166, 77, 146, 158, 231, 83, 111, 229, 122, 60, 211, 133, 230,
        220, 105, 92, 41, 55, 46, 245, 40, 244, 102, 143, 54, 65, 25, 63, 161, 1, 216, 80, 73, 209, 76, 132, 187, 208, 89, 18, 169,
        200, 196, 135, 130, 116, 188, 159, 86, 164, 100, 109, 198, 173, 186, 3, 64, 52, 217, 226, 250, 124, 123, 5, 202, 38, 147, 118,
        126, 255, 82, 85, 212, 207, 206, 59, 227, 47, 16, 58, 17, 182, 189, 28, 42, 223, 183, 170, 213, 119, 248, 152, 2, 44, 154, 163,
        70, 221, 153, 101, 155, 167, 43, 172, 9, 129, 22, 39, 253, 19, 98, 108, 110, 79, 113, 224, 232, 178, 185, 112, 104, 218, 246,
        97, 228, 251, 34, 242, 193, 238, 210, 144, 12, 191, 179, 162, 241, 81, 51, 145, 235, 249, 14, 239, 107, 49, 192, 214, 31, 181,
        199, 106, 157, 184, 84, 204, 176, 115, 121, 50, 45, 127, 4, 150, 254, 138, 236, 205, 93, 222, 114, 67, 29, 24, 72, 243, 141,
        128, 195, 78, 66, 215, 61, 156, 180,
    ];

    private function __construct(private float $dx, private float $dy, private float $dz)
    {
    }

    public static function unshifted(): self
    {
        return new self(0.0, 0.0, 0.0);
    }

    public static function seeded(int $seed, string $purpose): self
    {
        $stream = RandomStream::named($seed, $purpose);

        return new self($stream->between(0.0, 256.0), $stream->between(0.0, 256.0), $stream->between(0.0, 256.0));
    }

    public function at(float $x, float $y, float $z): float
    {
        $x += $this->dx;
        $y += $this->dy;
        $z += $this->dz;
        $fx = floor($x);
        $fy = floor($y);
        $fz = floor($z);
        $p = self::SCRAMBLED;
        $i = (int) $fx & 255;
        $j = (int) $fy & 255;
        $k = (int) $fz & 255;
        $x -= $fx;
        $y -= $fy;
        $z -= $fz;
        $u = $x * $x * $x * ($x * ($x * 6.0 - 15.0) + 10.0);
        $v = $y * $y * $y * ($y * ($y * 6.0 - 15.0) + 10.0);
        $w = $z * $z * $z * ($z * ($z * 6.0 - 15.0) + 10.0);
        $a = $p[$i] + $j;
        $aa = $p[$a & 255] + $k;
        $ab = $p[($a + 1) & 255] + $k;
        $b = $p[($i + 1) & 255] + $j;
        $ba = $p[$b & 255] + $k;
        $bb = $p[($b + 1) & 255] + $k;
        $near0 = self::slope($p[$aa & 255], $x, $y, $z);
        $near0 += $u * (self::slope($p[$ba & 255], $x - 1.0, $y, $z) - $near0);
        $near1 = self::slope($p[$ab & 255], $x, $y - 1.0, $z);
        $near1 += $u * (self::slope($p[$bb & 255], $x - 1.0, $y - 1.0, $z) - $near1);
        $near0 += $v * ($near1 - $near0);
        $far0 = self::slope($p[($aa + 1) & 255], $x, $y, $z - 1.0);
        $far0 += $u * (self::slope($p[($ba + 1) & 255], $x - 1.0, $y, $z - 1.0) - $far0);
        $far1 = self::slope($p[($ab + 1) & 255], $x, $y - 1.0, $z - 1.0);
        $far1 += $u * (self::slope($p[($bb + 1) & 255], $x - 1.0, $y - 1.0, $z - 1.0) - $far1);
        $far0 += $v * ($far1 - $far0);

        return $near0 + $w * ($far0 - $near0);
    }

    /**
     * Octaves of noise, each twice as fine as the one before.
     *
     * @param float $fade strength of each, in parts of the one before
     */
    public function layered(float $x, float $y, float $z, int $octaves, float $fade = 0.5): float
    {
        $sum = 0.0;
        $strength = 1.0;
        for ($o = 0; $o < $octaves; $o++) {
            $sum += $strength * $this->at($x, $y, $z);
            $x *= 2.0;
            $y *= 2.0;
            $z *= 2.0;
            $strength *= $fade;
        }

        return $sum;
    }

    /** One of the twelve directions to the middles of a cube's edges, times the offset. */
    private static function slope(int $hash, float $x, float $y, float $z): float
    {
        $h = $hash & 15;
        $u = $h < 8 ? $x : $y;
        $v = $h < 4 ? $y : ($h === 12 || $h === 14 ? $x : $z);

        return (($h & 1) === 0 ? $u : -$u) + (($h & 2) === 0 ? $v : -$v);
    }
}
