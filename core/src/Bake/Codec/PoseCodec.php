<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake\Codec;

/**
 * A pose in two words of 64 bits, so that it is one texel of a graphics card. The first: a place's three coordinates in steps of 21
 * bits each. The second: 8 bits that say how far a step is (a power of two, as in a single; the largest coordinate decides), then a
 * turn as its three smaller components of 18 bits each and which one was left out (the largest, which is taken positive). A place
 * is at most a millionth of its largest coordinate off along each axis, a component of a turn 2.7e-6.
 */
final class PoseCodec implements TrackCodec
{
    private const BYTES = 16;

    /** Steps of a coordinate on each side of 0. */
    private const PLACES = 1048575;

    private const PLACE_BITS = 21;

    private const PLACE_MASK = 0x1FFFFF;

    /** Half the number of steps from -1/sqrt(2) to 1/sqrt(2), the range of what is not the largest; 0 is a step. */
    private const TURNS = 131071;

    private const TURN_BITS = 18;

    private const TURN_MASK = 0x3FFFF;

    /** A step is two to the power of the 8 bits less this. */
    private const BIAS = 147;

    public function size(): int
    {
        return self::BYTES;
    }

    public function numbers(): int
    {
        return 7;
    }

    public function encode(array $values): string
    {
        $steps = array_map(static fn (int $power): float => 2.0 ** (self::BIAS - $power), range(0, 255));
        $words = [];
        // Rounded by cutting off, as no step is below 0.
        $from = self::PLACES + 0.5;
        $middle = self::TURNS + 0.5;
        $unit = M_SQRT2 * self::TURNS;
        foreach (self::powers($values) as $n => $power) {
            $k = 7 * $n;
            $step = $steps[$power];
            $words[] = ((int) ($values[$k] * $step + $from) << 2 * self::PLACE_BITS) | ((int) ($values[$k + 1] * $step + $from) << self::PLACE_BITS) | (int) ($values[$k + 2] * $step + $from);
            $x = $values[$k + 3];
            $y = $values[$k + 4];
            $z = $values[$k + 5];
            $w = $values[$k + 6];
            $scale = $unit / sqrt($x * $x + $y * $y + $z * $z + $w * $w);
            $largest = 3;
            $most = $w;
            $square = $w * $w;
            if ($x * $x > $square) {
                $largest = 0;
                $most = $x;
                $square = $x * $x;
            }
            if ($y * $y > $square) {
                $largest = 1;
                $most = $y;
                $square = $y * $y;
            }
            if ($z * $z > $square) {
                $largest = 2;
                $most = $z;
            }
            $scale = $most < 0.0 ? -$scale : $scale;
            $a = (int) (($largest === 0 ? $y : $x) * $scale + $middle);
            $b = (int) (($largest < 2 ? $z : $y) * $scale + $middle);
            $c = (int) (($largest === 3 ? $z : $w) * $scale + $middle);
            $words[] = ($power << 56) | ($largest << 3 * self::TURN_BITS) | ($a << 2 * self::TURN_BITS) | ($b << self::TURN_BITS) | $c;
        }

        return pack('P*', ...$words);
    }

    /**
     * For each pose the exponent, as it is stored in a single, of the power of two that its coordinates are below, also when they
     * are rounded to a step.
     *
     * @param array<int, float|int> $values
     *
     * @return list<int>
     */
    private static function powers(array $values): array
    {
        $sizes = [];
        for ($k = 0, $end = count($values); $k < $end; $k += 7) {
            $x = $values[$k];
            $y = $values[$k + 1];
            $z = $values[$k + 2];
            $size = $x < 0.0 ? -$x : $x;
            $size = $y > $size ? $y : (-$y > $size ? -$y : $size);
            $size = $z > $size ? $z : (-$z > $size ? -$z : $size);
            $sizes[] = $size * (1.0 + 1.0 / self::PLACES);
        }
        /** @var array<int, int> $bits */
        $bits = $sizes === [] ? [] : unpack('V*', pack('g*', ...$sizes));

        return array_map(static fn (int $single): int => min(254, ($single >> 23) + 1), array_values($bits));
    }

    public function decode(string $bytes): array
    {
        $values = [];
        $unit = 1.0 / (M_SQRT2 * self::TURNS);
        for ($at = 0, $end = strlen($bytes); $at < $end; $at += self::BYTES) {
            /** @var array{place: int, turn: int} $words */
            $words = unpack('Pplace/Pturn', $bytes, $at);
            ['place' => $place, 'turn' => $turn] = $words;
            $step = 2.0 ** ((($turn >> 56) & 0xFF) - self::BIAS);
            for ($shift = 2 * self::PLACE_BITS; $shift >= 0; $shift -= self::PLACE_BITS) {
                $values[] = ((($place >> $shift) & self::PLACE_MASK) - self::PLACES) * $step;
            }
            $a = ((($turn >> 2 * self::TURN_BITS) & self::TURN_MASK) - self::TURNS) * $unit;
            $b = ((($turn >> self::TURN_BITS) & self::TURN_MASK) - self::TURNS) * $unit;
            $c = (($turn & self::TURN_MASK) - self::TURNS) * $unit;
            $rest = 1.0 - $a * $a - $b * $b - $c * $c;
            $small = [$a, $b, $c];
            array_splice($small, ($turn >> 3 * self::TURN_BITS) & 3, 0, [sqrt($rest > 0.0 ? $rest : 0.0)]);
            array_push($values, ...$small);
        }

        return $values;
    }

    /** Places go straight, turns the shorter way round at an even speed (slerp, Shoemake 1985). */
    public function between(array $a, array $b, float $share): array
    {
        $values = [];
        for ($k = 0, $end = count($a); $k < $end; $k += 7) {
            for ($n = 0; $n < 3; $n++) {
                $values[] = $a[$k + $n] + $share * ($b[$k + $n] - $a[$k + $n]);
            }
            $dot = $a[$k + 3] * $b[$k + 3] + $a[$k + 4] * $b[$k + 4] + $a[$k + 5] * $b[$k + 5] + $a[$k + 6] * $b[$k + 6];
            $sign = $dot < 0.0 ? -1.0 : 1.0;
            $angle = acos(min(1.0, $sign * $dot));
            // So near to each other a straight line is as good.
            $sine = $angle > 1e-4 ? sin($angle) : 0.0;
            $p = $sine > 0.0 ? sin((1.0 - $share) * $angle) / $sine : 1.0 - $share;
            $q = $sign * ($sine > 0.0 ? sin($share * $angle) / $sine : $share);
            for ($n = 3; $n < 7; $n++) {
                $values[] = $p * $a[$k + $n] + $q * $b[$k + $n];
            }
        }

        return $values;
    }
}
