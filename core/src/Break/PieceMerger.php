<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** Joins pieces of a fracture: the faces between them go, everything else stays as it is. */
final class PieceMerger
{
    /** A part of a cell beside its largest is a fragment below this share of the cells' mean volume. */
    private const FRAGMENT = 0.02;

    /**
     * @param array<int, int> $into a piece for each piece: those with the same one become one
     *
     * @return array<int, int> new numbers by old ones
     */
    public static function merge(Fracture $fracture, array $into): array
    {
        foreach ($fracture->back as $f => $piece) {
            if ($piece === Fracture::GONE) {
                continue;
            }
            $back = $into[$piece];
            $front = $fracture->front[$f] === Fracture::OUTSIDE ? Fracture::OUTSIDE : $into[$fracture->front[$f]];
            $fracture->back[$f] = $back === $front ? Fracture::GONE : $back;
            $fracture->front[$f] = $front;
        }
        $number = $fracture->compact();

        return array_map(static fn (int $piece): int => $number[$piece], $into);
    }

    /**
     * Joins the pieces that have the same group and hang together.
     *
     * @param array<int, int> $group by piece; pieces without one stay as they are
     *
     * @return array<int, int> new numbers by old ones
     */
    public static function groups(Fracture $fracture, array $group): array
    {
        $into = range(0, max(0, $fracture->pieces - 1));
        foreach ($fracture->back as $f => $back) {
            $front = $fracture->front[$f];
            if ($back === Fracture::GONE || $front === Fracture::OUTSIDE || ! isset($group[$back]) || ($group[$front] ?? null) !== $group[$back]) {
                continue;
            }
            while ($into[$back] !== $back) {
                $back = $into[$back] = $into[$into[$back]];
            }
            while ($into[$front] !== $front) {
                $front = $into[$front] = $into[$into[$front]];
            }
            $into[max($back, $front)] = min($back, $front);
        }
        foreach ($into as $piece => $target) {
            while ($into[$target] !== $target) {
                $target = $into[$target];
            }
            $into[$piece] = $target;
        }

        return self::merge($fracture, $into);
    }

    /**
     * Pieces that are too small or too thin are joined to the neighbour they share the largest area with, smallest first.
     * Thinness is 6 sqrt(pi) V / A^1.5 (1 for a ball, less for anything else), so it does not depend on the size.
     *
     * @param float $smallest volume under which a piece is joined, in parts of the mean volume
     * @param float $thinnest thinness under which a piece is joined
     *
     * @return int how many were joined
     */
    public static function slivers(Fracture $fracture, float $smallest, float $thinnest): int
    {
        $volume = $fracture->volumes();
        $total = array_sum($volume);
        // Not even a hair's breadth: no double could tell such a piece from nothing.
        $least = max($smallest * $total / max(1, $fracture->pieces), 1e-12 * $total);
        if ($thinnest <= 0.0 && ($volume === [] || min($volume) >= $least)) {
            return 0;
        }

        return self::small($fracture, $volume, static fn (int $piece, float $own, float $area): bool => $own < $least || 6.0 * sqrt(M_PI) * $own < $thinnest * $area ** 1.5);
    }

    /**
     * Some pieces, where they are smaller than a volume, are joined to the neighbour they share the largest area with.
     *
     * @param array<int, true> $among by piece
     * @param float $least m3
     *
     * @return int how many were joined
     */
    public static function crumbs(Fracture $fracture, array $among, float $least): int
    {
        $volume = $fracture->volumes();
        $small = array_filter(array_intersect_key($volume, $among), static fn (float $own): bool => $own < $least);

        return $small === [] ? 0 : self::small($fracture, $volume, static fn (int $piece, float $own): bool => isset($among[$piece]) && $own < $least);
    }

    /**
     * Where a cell came out in several parts because the prop bends away between them, its crumbs are joined to a neighbour:
     * nobody asked for them, and weighing next to nothing between heavy pieces they fly about.
     *
     * @param array<int, int> $cells by piece, see {@see PieceCutter::cut()}
     *
     * @return int how many were joined
     */
    public static function fragments(Fracture $fracture, array $cells): int
    {
        if (count(array_unique($cells)) === count($cells)) {
            return 0;
        }
        $volume = array_intersect_key($fracture->volumes(), $cells);
        $largest = [];
        foreach ($volume as $piece => $own) {
            $largest[$cells[$piece]] = max($own, $largest[$cells[$piece]] ?? -INF);
        }
        $least = self::FRAGMENT * array_sum($volume) / count($largest);
        $fragments = array_filter($volume, static fn (float $own, int $piece): bool => $own < $largest[$cells[$piece]], ARRAY_FILTER_USE_BOTH);

        return self::crumbs($fracture, array_fill_keys(array_keys($fragments), true), $least);
    }

    /**
     * @param array<int, float> $volume by piece
     * @param callable(int, float, float): bool $isSmall by a piece's number, volume and area
     *
     * @return int how many were joined
     */
    private static function small(Fracture $fracture, array $volume, callable $isSmall): int
    {
        $shared = $fracture->sharedAreas();
        $area = array_map(static fn (array $of): float => (float) array_sum($of), $shared);
        foreach ($fracture->back as $f => $piece) {
            if ($piece !== Fracture::GONE && $fracture->front[$f] === Fracture::OUTSIDE) {
                $area[$piece] += $fracture->area($f);
            }
        }
        $into = range(0, max(0, $fracture->pieces - 1));
        $order = $volume;
        asort($order);
        $count = 0;
        foreach (array_keys($order) as $piece) {
            if ($shared[$piece] === [] || ! $isSmall($piece, $volume[$piece], $area[$piece])) {
                continue;
            }
            $best = (int) array_search(max($shared[$piece]), $shared[$piece], true);
            $into[$piece] = $best;
            $count++;
            $volume[$best] += $volume[$piece];
            $area[$best] += $area[$piece] - 2.0 * $shared[$piece][$best];
            foreach ($shared[$piece] as $other => $a) {
                unset($shared[$other][$piece]);
                if ($other !== $best) {
                    $shared[$best][$other] = ($shared[$best][$other] ?? 0.0) + $a;
                    $shared[$other][$best] = ($shared[$other][$best] ?? 0.0) + $a;
                }
            }
            $shared[$piece] = [];
        }
        if ($count > 0) {
            foreach ($into as $piece => $target) {
                while ($into[$target] !== $target) {
                    $target = $into[$target];
                }
                $into[$piece] = $target;
            }
            self::merge($fracture, array_values($into));
        }

        return $count;
    }
}
