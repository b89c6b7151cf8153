<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake\Codec;

/**
 * A place as three singles, a turn as its three smaller components of 20 bits each and which one was left out (the largest,
 * which is taken positive): at most 1.5e-6 off.
 */
final class PoseCodec implements TrackCodec
{
    /** Half the number of steps from -1/sqrt(2) to 1/sqrt(2), the range of what is not the largest; 0 is a step. */
    private const STEPS = 524287;

    private const BITS = 20;

    private const MASK = 0xFFFFF;

    public function size(): int
    {
        return 20;
    }

    public function numbers(): int
    {
        return 7;
    }

    public function encode(array $values): string
    {
        $bytes = '';
        for ($k = 0, $end = count($values); $k < $end; $k += 7) {
            $bytes .= pack('g3P', $values[$k], $values[$k + 1], $values[$k + 2], self::packed((float) $values[$k + 3], (float) $values[$k + 4], (float) $values[$k + 5], (float) $values[$k + 6]));
        }

        return $bytes;
    }

    private static function packed(float $x, float $y, float $z, float $w): int
    {
        $q = [$x, $y, $z, $w];
        $largest = 3;
        $most = $w < 0.0 ? -$w : $w;
        foreach ([$x, $y, $z] as $k => $part) {
            $size = $part < 0.0 ? -$part : $part;
            if ($size > $most) {
                $most = $size;
                $largest = $k;
            }
        }
        $scale = M_SQRT2 * self::STEPS / sqrt($x * $x + $y * $y + $z * $z + $w * $w);
        $scale = $q[$largest] < 0.0 ? -$scale : $scale;
        $word = $largest;
        foreach ($q as $k => $part) {
            if ($k !== $largest) {
                $step = (int) round($part * $scale);
                $step = $step > self::STEPS ? self::STEPS : ($step < -self::STEPS ? -self::STEPS : $step);
                $word = ($word << self::BITS) | ($step + self::STEPS);
            }
        }

        return $word;
    }

    public function decode(string $bytes): array
    {
        $values = [];
        $unit = 1.0 / (M_SQRT2 * self::STEPS);
        for ($at = 0, $end = strlen($bytes); $at < $end; $at += 20) {
            /** @var array{1: float, 2: float, 3: float, word: int} $part */
            $part = unpack('g3/Pword', $bytes, $at);
            array_push($values, $part[1], $part[2], $part[3]);
            $word = $part['word'];
            $largest = ($word >> 60) & 3;
            $a = ((($word >> 40) & self::MASK) - self::STEPS) * $unit;
            $b = ((($word >> 20) & self::MASK) - self::STEPS) * $unit;
            $c = (($word & self::MASK) - self::STEPS) * $unit;
            $rest = 1.0 - $a * $a - $b * $b - $c * $c;
            $small = [$a, $b, $c];
            array_splice($small, $largest, 0, [sqrt($rest > 0.0 ? $rest : 0.0)]);
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
