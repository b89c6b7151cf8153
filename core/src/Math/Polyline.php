<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/** Straight parts through places, one after the other. */
final readonly class Polyline
{
    /** @param list<array{float, float, float}> $places m */
    public function __construct(private array $places)
    {
    }

    public function length(): float
    {
        $length = 0.0;
        for ($k = 1, $n = count($this->places); $k < $n; $k++) {
            $length += Vector::distance($this->places[$k - 1], $this->places[$k]);
        }

        return $length;
    }

    /** How far along the line it comes nearest to a place, m; the first where several are as near. */
    public function nearest(float $x, float $y, float $z): float
    {
        $best = INF;
        $found = $passed = 0.0;
        for ($k = 1, $n = count($this->places); $k < $n; $k++) {
            [$a, $b] = [$this->places[$k - 1], $this->places[$k]];
            $length = Vector::distance($a, $b);
            [$ux, $uy, $uz] = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
            $share = $length > 0.0 ? (($x - $a[0]) * $ux + ($y - $a[1]) * $uy + ($z - $a[2]) * $uz) / ($length * $length) : 0.0;
            $share = $share < 0.0 ? 0.0 : ($share > 1.0 ? 1.0 : $share);
            $far = Vector::distance([$x, $y, $z], [$a[0] + $share * $ux, $a[1] + $share * $uy, $a[2] + $share * $uz]);
            if ($far < $best) {
                [$best, $found] = [$far, $passed + $share * $length];
            }
            $passed += $length;
        }

        return $found;
    }

    /** @return array{array{float, float, float}, array{float, float, float}} the place so far along the line (m), and the way the line goes there, unit */
    public function at(float $passed): array
    {
        $place = $this->places[0] ?? [0.0, 0.0, 0.0];
        $way = [0.0, 0.0, 0.0];
        for ($k = 1, $n = count($this->places); $k < $n; $k++) {
            [$a, $b] = [$this->places[$k - 1], $this->places[$k]];
            $length = Vector::distance($a, $b);
            if ($length === 0.0) {
                continue;
            }
            $share = min(1.0, max(0.0, $passed / $length));
            $way = [($b[0] - $a[0]) / $length, ($b[1] - $a[1]) / $length, ($b[2] - $a[2]) / $length];
            $place = [$a[0] + $share * ($b[0] - $a[0]), $a[1] + $share * ($b[1] - $a[1]), $a[2] + $share * ($b[2] - $a[2])];
            if ($passed <= $length) {
                break;
            }
            $passed -= $length;
        }

        return [$place, $way];
    }

    /** @return list<float> all that it is made of */
    public function numbers(): array
    {
        return array_merge(...$this->places);
    }
}
