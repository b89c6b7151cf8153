<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/**
 * The plane that lies best between the places of a piece that a front has passed at a frame and those it has not.
 *
 * It looks the way in which the frames of arrival rise most by least squares (those far from the frame count as no farther than
 * one step: they only say on which side they are), and lies where a line through those nearest to the frame has it.
 */
final readonly class FrontPlane
{
    /** Spread along an axis that is taken for none, in parts of the largest. */
    private const FLAT = 1e-9;

    /**
     * @param array{float, float, float} $normal of length 1, the way the front goes
     * @param float $wrong part of the places that lie on the wrong side of it
     */
    private function __construct(public array $normal, public float $at, public float $wrong)
    {
    }

    /**
     * @param list<int> $own places
     * @param float $step frames around it within which an arrival says how far a place is from the front
     *
     * @return self|null null if the front comes from no side
     */
    public static function through(FrontPlaces $places, array $own, float $frame, float $step): ?self
    {
        $late = [];
        foreach ($own as $i) {
            $late[$i] = max(-$step, min($step, $places->arrival[$i] - $frame));
        }
        [$mean, $spread] = self::spread($places, $own);
        $pull = [0.0, 0.0, 0.0];
        $meanLate = array_sum($late) / count($late);
        foreach ($own as $i) {
            $by = $late[$i] - $meanLate;
            $pull[0] += $by * ($places->x[$i] - $mean[0]);
            $pull[1] += $by * ($places->y[$i] - $mean[1]);
            $pull[2] += $by * ($places->z[$i] - $mean[2]);
        }
        $normal = self::unit(self::solved($spread, $pull));
        if ($normal === null || $own === []) {
            return null;
        }
        $along = [];
        foreach ($own as $i) {
            $along[$i] = $normal[0] * $places->x[$i] + $normal[1] * $places->y[$i] + $normal[2] * $places->z[$i];
        }
        $at = self::between($along, $late, $step);
        $wrong = 0;
        foreach ($along as $i => $t) {
            $wrong += ($late[$i] > 0.0) === ($t > $at) ? 0 : 1;
        }

        return new self($normal, $at, $wrong / count($own));
    }

    /**
     * Through the middle of the places, across the way they reach farthest.
     *
     * @param list<int> $own places
     */
    public static function across(FrontPlaces $places, array $own): ?self
    {
        [$mean, $spread] = self::spread($places, $own);
        // Powers of the matrix turn any direction towards its longest axis.
        $normal = self::unit([1.0, 0.9, 0.8]);
        for ($k = 0; $k < 24 && $normal !== null; $k++) {
            [$xx, $xy, $xz, $yy, $yz, $zz] = $spread;
            [$a, $b, $c] = $normal;
            $normal = self::unit([$xx * $a + $xy * $b + $xz * $c, $xy * $a + $yy * $b + $yz * $c, $xz * $a + $yz * $b + $zz * $c]);
        }

        return $normal === null ? null : new self($normal, $normal[0] * $mean[0] + $normal[1] * $mean[1] + $normal[2] * $mean[2], 0.0);
    }

    /**
     * @param list<int> $own places
     *
     * @return array{list<int>, list<int>} those before it, and those behind
     */
    public function sides(FrontPlaces $places, array $own): array
    {
        $sides = [[], []];
        foreach ($own as $i) {
            $sides[$this->normal[0] * $places->x[$i] + $this->normal[1] * $places->y[$i] + $this->normal[2] * $places->z[$i] > $this->at ? 1 : 0][] = $i;
        }

        return $sides;
    }

    /**
     * Where along the normal the front is.
     *
     * @param non-empty-array<int, float> $along by place, m
     * @param array<int, float> $late frames, cut off at a step
     */
    private static function between(array $along, array $late, float $step): float
    {
        $n = $t = $f = $tt = $tf = 0.0;
        foreach ($along as $i => $a) {
            if (abs($late[$i]) < $step) {
                $n += 1.0;
                $t += $a;
                $f += $late[$i];
                $tt += $a * $a;
                $tf += $a * $late[$i];
            }
        }
        $across = $n * $tt - $t * $t;
        $slope = $across > 1e-12 * $n * $tt ? ($n * $tf - $t * $f) / $across : 0.0;
        if ($slope > 0.0) {
            return max(min($along), min(max($along), ($t - $f / $slope) / $n));
        }

        return self::parting($along, $late);
    }

    /**
     * Where the front stops there is no line to be had: the place that leaves the fewest on the wrong side.
     *
     * @param array<int, float> $along
     * @param array<int, float> $late
     */
    private static function parting(array $along, array $late): float
    {
        asort($along);
        $order = array_keys($along);
        // With all behind it, those that the front has passed are on the wrong side.
        $wrong = $least = count(array_filter($late, static fn (float $by): bool => $by <= 0.0));
        $at = $along[$order[0]];
        foreach ($order as $k => $i) {
            $wrong += $late[$i] <= 0.0 ? -1 : 1;
            if ($wrong < $least && isset($order[$k + 1])) {
                $least = $wrong;
                $at = 0.5 * ($along[$i] + $along[$order[$k + 1]]);
            }
        }

        return $at;
    }

    /**
     * @param list<int> $own places
     *
     * @return array{array{float, float, float}, array{float, float, float, float, float, float}} middle, and xx, xy, xz, yy, yz, zz about it
     */
    private static function spread(FrontPlaces $places, array $own): array
    {
        $n = count($own);
        $mx = $my = $mz = 0.0;
        foreach ($own as $i) {
            $mx += $places->x[$i] / $n;
            $my += $places->y[$i] / $n;
            $mz += $places->z[$i] / $n;
        }
        $xx = $xy = $xz = $yy = $yz = $zz = 0.0;
        foreach ($own as $i) {
            $x = $places->x[$i] - $mx;
            $y = $places->y[$i] - $my;
            $z = $places->z[$i] - $mz;
            $xx += $x * $x;
            $xy += $x * $y;
            $xz += $x * $z;
            $yy += $y * $y;
            $yz += $y * $z;
            $zz += $z * $z;
        }

        return [[$mx, $my, $mz], [$xx, $xy, $xz, $yy, $yz, $zz]];
    }

    /**
     * Solves a symmetric system; along what has no spread there is no answer but 0.
     *
     * @param array{float, float, float, float, float, float} $m
     * @param array{float, float, float} $b
     *
     * @return array{float, float, float}
     */
    private static function solved(array $m, array $b): array
    {
        [$xx, $xy, $xz, $yy, $yz, $zz] = $m;
        $some = self::FLAT * ($xx + $yy + $zz) + 1e-300;
        [$xx, $yy, $zz] = [$xx + $some, $yy + $some, $zz + $some];
        [$cx, $cy, $cz] = [$yy * $zz - $yz * $yz, $xz * $yz - $xy * $zz, $xy * $yz - $xz * $yy];
        $d = $xx * $cx + $xy * $cy + $xz * $cz;
        if ($d <= 0.0) {
            return [0.0, 0.0, 0.0];
        }

        return [
            ($cx * $b[0] + $cy * $b[1] + $cz * $b[2]) / $d,
            ($cy * $b[0] + ($xx * $zz - $xz * $xz) * $b[1] + ($xy * $xz - $xx * $yz) * $b[2]) / $d,
            ($cz * $b[0] + ($xy * $xz - $xx * $yz) * $b[1] + ($xx * $yy - $xy * $xy) * $b[2]) / $d,
        ];
    }

    /**
     * @param array{float, float, float} $way
     *
     * @return array{float, float, float}|null
     */
    private static function unit(array $way): ?array
    {
        $length = sqrt($way[0] ** 2 + $way[1] ** 2 + $way[2] ** 2);

        return $length > 1e-12 ? [$way[0] / $length, $way[1] / $length, $way[2] / $length] : null;
    }
}
