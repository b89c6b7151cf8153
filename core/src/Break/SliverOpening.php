<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/**
 * Faces that are nearly nothing and cannot be taken out are opened by a hair: the corner that lies on the longest side moves off it,
 * along one of the faces around, so far that the face is something. No other face turns over by that.
 */
final class SliverOpening
{
    /** By so much of the longest side; a hundred-millionth of what is seen. */
    private const OFF = 1.2e-8;

    /** One beside another may need more than one turn. */
    private const TURNS = 6;

    /** @var array<int, list<int>> faces around the corners of slivers */
    private array $around = [];

    private function __construct(private readonly Fracture $fracture, private readonly float $flat)
    {
    }

    /**
     * @param array<int, true> $slivers faces
     * @param float $flat twice the area of a sliver is less than this part of its longest side squared
     */
    public static function open(Fracture $fracture, array $slivers, float $flat): void
    {
        $own = new self($fracture, $flat);
        $own->prepare($slivers);
        for ($turn = 0; $turn < self::TURNS && $slivers !== []; $turn++) {
            foreach ($slivers as $face => $_) {
                if ($own->ratio($face) < $flat) {
                    $own->lift($face);
                }
            }
            $slivers = array_filter($slivers, static fn (int $face): bool => $own->ratio($face) < $flat, ARRAY_FILTER_USE_KEY);
        }
    }

    /** @param array<int, true> $slivers */
    private function prepare(array $slivers): void
    {
        $corner = $this->fracture->corner;
        foreach ($slivers as $face => $_) {
            $this->around += [$corner[3 * $face] => [], $corner[3 * $face + 1] => [], $corner[3 * $face + 2] => []];
        }
        foreach ($this->fracture->back as $face => $piece) {
            for ($k = 3 * $face; $piece !== Fracture::GONE && $k < 3 * $face + 3; $k++) {
                if (isset($this->around[$corner[$k]])) {
                    $this->around[$corner[$k]][] = $face;
                }
            }
        }
    }

    private function lift(int $face): void
    {
        [$a, $b, $c] = $this->lies($face);
        $before = $this->place($c);
        $along = $this->way($a, $b);
        $length = sqrt(self::dot($along, $along));
        $normals = array_map($this->fracture->cross(...), $this->around[$c]);
        $best = [count(array_filter($this->around[$c], fn (int $f): bool => $this->ratio($f) < $this->flat)), 0.0];
        $at = $before;
        foreach ($normals as $normal) {
            $off = [$normal[1] * $along[2] - $normal[2] * $along[1], $normal[2] * $along[0] - $normal[0] * $along[2], $normal[0] * $along[1] - $normal[1] * $along[0]];
            $size = sqrt(self::dot($off, $off));
            foreach ($size > 0.0 ? [1.0, -1.0] : [] as $side) {
                $by = $side * self::OFF * $length / $size;
                $there = [$before[0] + $by * $off[0], $before[1] + $by * $off[1], $before[2] + $by * $off[2]];
                $this->put($c, $there);
                $worth = $this->worth($c, $face, $normals);
                if ($worth !== null && ($worth[0] < $best[0] || ($worth[0] === $best[0] && $worth[0] > 0 && $worth[1] > $best[1] && $best[1] > 0.0))) {
                    [$best, $at] = [$worth, $there];
                }
            }
        }
        $this->put($c, $at);
    }

    /**
     * @param list<array{float, float, float}> $normals of the faces around a corner, before it moved
     *
     * @return array{int, float}|null how many of them are slivers, and the flattest; null: one turned over, or lies folded back
     */
    private function worth(int $corner, int $opened, array $normals): ?array
    {
        $slivers = 0;
        $least = INF;
        foreach ($this->around[$corner] as $k => $face) {
            $ratio = $this->ratio($face);
            $now = $this->fracture->cross($face);
            $was = $normals[$k];
            $size = sqrt(self::dot($was, $was) * self::dot($now, $now));
            if ($ratio >= $this->flat && $size > 0.0 && self::dot($was, $now) < 0.0 && $this->wasSound($was, $face)) {
                return null;
            }
            $slivers += $ratio < $this->flat ? 1 : 0;
            $least = min($least, $ratio);
        }

        return $this->isFolded($opened) ? null : [$slivers, $least];
    }

    /** @param array{float, float, float} $was twice its area, as a vector, before its corner moved */
    private function wasSound(array $was, int $face): bool
    {
        [$a, $b] = $this->lies($face);
        $side = $this->way($a, $b);

        return sqrt(self::dot($was, $was)) >= $this->flat * self::dot($side, $side);
    }

    /** Whether a face looks the other way than one of the same wall or triangle of the source beside it. */
    private function isFolded(int $face): bool
    {
        $f = $this->fracture;
        $normal = $f->cross($face);
        foreach ($this->around[$this->lies($face)[2]] as $other) {
            if ($other !== $face && $f->origin[$other] === $f->origin[$face] && $f->back[$other] === $f->back[$face] && $this->ratio($other) >= $this->flat && self::dot($normal, $f->cross($other)) < 0.0) {
                return true;
            }
        }

        return false;
    }

    /** @return array{int, int, int} ends of the longest side, and the corner beside it */
    private function lies(int $face): array
    {
        $corners = [$this->fracture->corner[3 * $face], $this->fracture->corner[3 * $face + 1], $this->fracture->corner[3 * $face + 2]];
        $longest = [-1.0, 0];
        foreach ([0, 1, 2] as $k) {
            $side = $this->way($corners[$k], $corners[($k + 1) % 3]);
            $longest = max($longest, [self::dot($side, $side), $k]);
        }
        $k = $longest[1];

        return [$corners[$k], $corners[($k + 1) % 3], $corners[($k + 2) % 3]];
    }

    /** Twice the area of a face, as part of its longest side squared. */
    private function ratio(int $face): float
    {
        [$a, $b] = $this->lies($face);
        $side = $this->way($a, $b);
        $area = $this->fracture->cross($face);

        return sqrt(self::dot($area, $area)) / max(1e-300, self::dot($side, $side));
    }

    /** @return array{float, float, float} */
    private function place(int $v): array
    {
        return [$this->fracture->x[$v], $this->fracture->y[$v], $this->fracture->z[$v]];
    }

    /** @param array{float, float, float} $place */
    private function put(int $v, array $place): void
    {
        [$this->fracture->x[$v], $this->fracture->y[$v], $this->fracture->z[$v]] = $place;
    }

    /** @return array{float, float, float} */
    private function way(int $a, int $b): array
    {
        return [$this->fracture->x[$b] - $this->fracture->x[$a], $this->fracture->y[$b] - $this->fracture->y[$a], $this->fracture->z[$b] - $this->fracture->z[$a]];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     */
    private static function dot(array $a, array $b): float
    {
        return $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
    }
}
