<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/**
 * A smooth curve through places, gone along by its length: a centripetal Catmull-Rom spline, which has no loops or cusps between
 * two places (Yuksel, Schaefer, Keyser: Parameterization and applications of Catmull-Rom curves, 2011). What goes along it is
 * turned by frames of least rotation, found by double reflection (Wang, Juettler, Zheng, Liu: Computation of rotation minimizing
 * frames, 2008); round a closed one the twist that is left is spread over its length.
 */
final class SmoothPath
{
    /** Parts of the curve between two places, short enough to be measured by few places. */
    private const PARTS = 48;

    /** Gauss-Legendre on [-1, 1], three points: place and weight. */
    private const GAUSS = [[-0.774596669241483377, 0.555555555555555556], [0.0, 0.888888888888888889], [0.774596669241483377, 0.555555555555555556]];

    /** @var list<array{array{float, float, float}, array{float, float, float}, array{float, float, float}, array{float, float, float}}> of each span: where it starts and ends, its tangents there */
    private array $spans = [];

    /** @var list<float> length up to each part's start, and of all at the end, m */
    private array $passed = [0.0];

    /** @var list<array{float, float, float}> a way across the curve at each of these, unit */
    private array $up = [];

    /** @var array{float, float, float} */
    private readonly array $first;

    /** @param non-empty-list<array{float, float, float}> $places m; those that lie on the one before count once */
    public function __construct(array $places, private readonly bool $closed = false)
    {
        $this->first = $places[0];
        $through = [];
        foreach ($places as $place) {
            if ($through === [] || Vector::distance($place, $through[count($through) - 1]) > 1e-9) {
                $through[] = $place;
            }
        }
        if ($closed && count($through) > 1 && Vector::distance($through[0], $through[count($through) - 1]) <= 1e-9) {
            array_pop($through);
        }
        $this->span($through);
        foreach ($this->spans as $span) {
            for ($part = 0; $part < self::PARTS; $part++) {
                $this->passed[] = $this->passed[count($this->passed) - 1] + self::measured($span, $part, 1.0);
            }
        }
        $this->turn();
    }

    /** m */
    public function length(): float
    {
        return $this->passed[count($this->passed) - 1];
    }

    /** @return array{float, float, float} the place so far along, m; beyond its ends an open one goes straight on */
    public function at(float $passed): array
    {
        if ($this->spans === []) {
            return $this->first;
        }
        [$part, $share, $beyond] = $this->find($passed);
        $place = self::place($this->spans[intdiv($part, self::PARTS)], ($part % self::PARTS + $share) / self::PARTS);
        if ($beyond === 0.0) {
            return $place;
        }
        [$x, $y, $z] = $this->way($part, $share);

        return [$place[0] + $beyond * $x, $place[1] + $beyond * $y, $place[2] + $beyond * $z];
    }

    /** @return array{float, float, float} the way it goes there, unit */
    public function wayAt(float $passed): array
    {
        [$part, $share] = $this->find($passed);

        return $this->spans === [] ? [0.0, 0.0, 1.0] : $this->way($part, $share);
    }

    /** @return array{float, float, float, float} a turn that takes z to the way it goes there and y across it, twisting as little as it can on the way */
    public function turnAt(float $passed): array
    {
        if ($this->spans === []) {
            return [0.0, 0.0, 0.0, 1.0];
        }
        [$part, $share] = $this->find($passed);
        $way = $this->way($part, $share);

        return Quaternion::facing($way, Vector::between($this->up[$part], $this->up[$part + 1], $share));
    }

    /** @return list<array{float, float, float}> places along it, close enough to be drawn as a line */
    public function drawn(): array
    {
        $places = [];
        for ($part = 0, $all = count($this->passed) - 1; $part < $all; $part += 4) {
            $places[] = self::place($this->spans[intdiv($part, self::PARTS)], $part % self::PARTS / self::PARTS);
        }
        $last = $this->spans[count($this->spans) - 1] ?? null;

        return [...$places, $last === null ? $this->first : self::place($last, 1.0)];
    }

    /** @param list<array{float, float, float}> $through */
    private function span(array $through): void
    {
        $count = count($through);
        if ($count < 2) {
            return;
        }
        $at = function (int $k) use ($through, $count): array {
            if ($this->closed) {
                return $through[(($k % $count) + $count) % $count];
            }
            // Beyond its ends an open one goes on as far as it came.
            $near = max(0, min($count - 1, $k));
            $next = $near === 0 ? 1 : $count - 2;

            return $k === $near ? $through[$k] : Vector::between($through[$next], $through[$near], 2.0);
        };
        for ($k = 0, $spans = $this->closed ? $count : $count - 1; $k < $spans; $k++) {
            [$p, $a, $b, $n] = [$at($k - 1), $at($k), $at($k + 1), $at($k + 2)];
            [$before, $here, $after] = [sqrt(Vector::distance($p, $a)), sqrt(Vector::distance($a, $b)), sqrt(Vector::distance($b, $n))];
            $tangent = static fn (float $from, float $to, float $x, float $y, float $z): float => $here * (($y - $x) / $from - ($z - $x) / ($from + $to) + ($z - $y) / $to);
            $this->spans[] = [
                $a,
                $b,
                [$tangent($before, $here, $p[0], $a[0], $b[0]), $tangent($before, $here, $p[1], $a[1], $b[1]), $tangent($before, $here, $p[2], $a[2], $b[2])],
                [$tangent($here, $after, $a[0], $b[0], $n[0]), $tangent($here, $after, $a[1], $b[1], $n[1]), $tangent($here, $after, $a[2], $b[2], $n[2])],
            ];
        }
    }

    /** Carries a way across the curve along it. */
    private function turn(): void
    {
        if ($this->spans === []) {
            return;
        }
        $all = count($this->passed) - 1;
        [$place, $way] = [$this->spans[0][0], $this->way(0, 0.0)];
        $up = self::across($way);
        $this->up[] = $up;
        for ($part = 1; $part <= $all; $part++) {
            $last = $part === $all;
            $next = self::place($this->spans[intdiv($part - 1, self::PARTS)], (($part - 1) % self::PARTS + 1) / self::PARTS);
            $ahead = $last ? $this->way($all - 1, 1.0) : $this->way($part, 0.0);
            $mirror = Vector::minus($next, $place);
            $mirrored = Vector::mirrored($up, $mirror);
            $up = Vector::mirrored($mirrored, Vector::minus($ahead, Vector::mirrored($way, $mirror)));
            $this->up[] = $up;
            [$place, $way] = [$next, $ahead];
        }
        if ($this->closed) {
            $twist = atan2(Vector::dot(Vector::cross($up, $this->up[0]), $way), Vector::dot($up, $this->up[0]));
            foreach ($this->up as $part => $up) {
                $this->up[$part] = Quaternion::rotate(Quaternion::aboutAxis($part === $all ? $way : $this->way($part, 0.0), $twist * $this->passed[$part] / $this->length()), $up);
            }
        }
    }

    /**
     * @param array{float, float, float} $way unit
     *
     * @return array{float, float, float} upward as far as it can be and still be across
     */
    private static function across(array $way): array
    {
        return Vector::unit(Vector::minus([0.0, 1.0, 0.0], [$way[1] * $way[0], $way[1] * $way[1], $way[1] * $way[2]])) ?? [1.0, 0.0, 0.0];
    }

    /** @return array{int, float, float} the part of the curve, the share of it that is passed, and what is beyond its ends, m */
    private function find(float $passed): array
    {
        $all = count($this->passed) - 1;
        if ($all === 0) {
            return [0, 0.0, 0.0];
        }
        $length = $this->length();
        if ($this->closed) {
            $passed -= $length * floor($passed / $length);
        }
        if ($passed <= 0.0) {
            return [0, 0.0, $passed];
        }
        if ($passed >= $length) {
            return [$all - 1, 1.0, $passed - $length];
        }
        [$low, $high] = [0, $all];
        while ($high - $low > 1) {
            $middle = intdiv($low + $high, 2);
            if ($this->passed[$middle] <= $passed) {
                $low = $middle;
            } else {
                $high = $middle;
            }
        }

        $share = ($passed - $this->passed[$low]) / ($this->passed[$low + 1] - $this->passed[$low]);
        [$span, $part] = [$this->spans[intdiv($low, self::PARTS)], $low % self::PARTS];
        // Newton's step, twice: where the curve turns sharply its speed is not even within a part either.
        for ($n = 0; $n < 2; $n++) {
            $slope = self::pace($span, ($part + $share) / self::PARTS) / self::PARTS;
            $next = $share - ($slope > 0.0 ? (self::measured($span, $part, $share) - ($passed - $this->passed[$low])) / $slope : 0.0);
            $share = max(0.0, min(1.0, $next));
        }

        return [$low, $share, 0.0];
    }

    /**
     * @param array{array{float, float, float}, array{float, float, float}, array{float, float, float}, array{float, float, float}} $span
     *
     * @return float length of a part of it up to a share, m
     */
    private static function measured(array $span, int $part, float $share): float
    {
        $length = 0.0;
        foreach (self::GAUSS as [$at, $weight]) {
            $length += 0.5 * $share * $weight / self::PARTS * self::pace($span, ($part + $share * (0.5 + 0.5 * $at)) / self::PARTS);
        }

        return $length;
    }

    /** @param array{array{float, float, float}, array{float, float, float}, array{float, float, float}, array{float, float, float}} $span */
    private static function pace(array $span, float $t): float
    {
        $speed = self::speed($span, $t);

        return sqrt(Vector::dot($speed, $speed));
    }

    /** @return array{float, float, float} */
    private function way(int $part, float $share): array
    {
        $span = $this->spans[intdiv($part, self::PARTS)];
        $way = self::speed($span, ($part % self::PARTS + $share) / self::PARTS);

        return Vector::unit($way) ?? Vector::unit(Vector::minus($span[1], $span[0])) ?? [0.0, 0.0, 1.0];
    }

    /**
     * Hermite's cubic.
     *
     * @param array{array{float, float, float}, array{float, float, float}, array{float, float, float}, array{float, float, float}} $span
     *
     * @return array{float, float, float}
     */
    private static function place(array $span, float $t): array
    {
        [$a, $b, $m, $n] = $span;
        [$h0, $h1] = [(1.0 + 2.0 * $t) * (1.0 - $t) * (1.0 - $t), $t * (1.0 - $t) * (1.0 - $t)];
        [$h2, $h3] = [$t * $t * (3.0 - 2.0 * $t), $t * $t * ($t - 1.0)];

        return [
            $h0 * $a[0] + $h1 * $m[0] + $h2 * $b[0] + $h3 * $n[0],
            $h0 * $a[1] + $h1 * $m[1] + $h2 * $b[1] + $h3 * $n[1],
            $h0 * $a[2] + $h1 * $m[2] + $h2 * $b[2] + $h3 * $n[2],
        ];
    }

    /**
     * @param array{array{float, float, float}, array{float, float, float}, array{float, float, float}, array{float, float, float}} $span
     *
     * @return array{float, float, float} its slope
     */
    private static function speed(array $span, float $t): array
    {
        [$a, $b, $m, $n] = $span;
        [$d0, $d1, $d3] = [6.0 * $t * ($t - 1.0), (1.0 - $t) * (1.0 - 3.0 * $t), $t * (3.0 * $t - 2.0)];

        return [
            $d0 * ($a[0] - $b[0]) + $d1 * $m[0] + $d3 * $n[0],
            $d0 * ($a[1] - $b[1]) + $d1 * $m[1] + $d3 * $n[1],
            $d0 * ($a[2] - $b[2]) + $d1 * $m[2] + $d3 * $n[2],
        ];
    }
}
