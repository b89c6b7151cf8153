<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use YardBreak\Core\Math\Vector;

/**
 * What carries a body of pieces, and what presses on it besides: how much of that goes through a cut across it. How what carries it shares
 * the load is not known (a solver shares it somehow where there are more than three places): of all ways to share it that keep the body in
 * balance, the one is taken that bends the cut least, so that what lies on a floor is not bent by it. Between two supports there is one
 * way only, that of any text on beams.
 */
final readonly class Supports
{
    /** Who presses in another direction than what carries the body (a wall it leans on) by more than this share of it leaves unknown what goes where. */
    private const ASIDE = 0.1;

    /** Cosine of how far from that direction is another. */
    private const ALONG = 0.7;

    /** Ways to share the load that are tried. */
    private const SHARES = 8;

    private const ROUNDING = 1e-9;

    /**
     * @param array{float, float, float} $up unit, the way in which it is carried
     * @param array{float, float, float, float, float, float} $all force with which it is carried, N, and its moment about the centre, N m
     * @param list<array{int, array{float, float, float}}> $places piece and place of each that carries it
     * @param array<int, array{float, float, float, float, float, float}> $loads by piece: force that it takes to carry what presses on it, and moment of that
     */
    private function __construct(private array $up, private array $all, private array $places, private array $loads)
    {
    }

    /**
     * @param list<array{int, array{float, float, float}, array{float, float, float}}> $presses piece, place and force, N, of each that presses on the body, in its axes from its centre
     * @param array{float, float, float, float, float, float} $needs force that it takes to move it as it moves, and moment of that
     *
     * @return self|null null: what carries it is not known
     */
    public static function of(array $presses, array $needs): ?self
    {
        $up = Vector::unit([$needs[0], $needs[1], $needs[2]]);
        if ($up === null) {
            return null;
        }
        $all = $needs;
        $places = $loads = [];
        $aside = 0.0;
        foreach ($presses as [$piece, $place, $force]) {
            $lifts = Vector::dot($force, $up);
            if (abs($lifts) < self::ALONG * sqrt(Vector::dot($force, $force))) {
                $aside += sqrt(Vector::dot($force, $force));
            } elseif ($lifts > 0.0) {
                $places[] = [$piece, $place];
            } else {
                $moment = Vector::cross($place, $force);
                foreach ([...$force, ...$moment] as $k => $part) {
                    $loads[$piece][$k] = ($loads[$piece][$k] ?? 0.0) - $part;
                    $all[$k] -= $part;
                }
            }
        }
        /** @var array<int, array{float, float, float, float, float, float}> $loads */
        $weight = Vector::dot([$all[0], $all[1], $all[2]], $up);

        return $places === [] || $weight <= 0.0 || $aside > self::ASIDE * $weight ? null : new self($up, $all, $places, $loads);
    }

    /** @return array{float, float, float, float, float, float} force that it takes to carry what presses on a piece, and moment of that */
    public function on(int $piece): array
    {
        return $this->loads[$piece] ?? [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
    }

    /**
     * What goes through a cut to one of its sides.
     *
     * @param int $axis 0, 1, 2: across which the cut is
     * @param array<int, true> $side pieces of that side
     * @param array<int, float> $load force that it takes to carry that side and what presses on it, and moment of that
     * @param array{float, float, float} $middle of the cut
     *
     * @return array{float, float, float, float, float, float}|null force and moment about the centre; null: it is carried across, or in no way that keeps the balance
     */
    public function through(int $axis, array $side, array $load, array $middle): ?array
    {
        $up = $this->up;
        $along = [0.0, 0.0, 0.0];
        $along[$axis] = 1.0;
        $along = [$along[0] - $up[$axis] * $up[0], $along[1] - $up[$axis] * $up[1], $along[2] - $up[$axis] * $up[2]];
        $along = abs($up[$axis]) > self::ALONG ? null : Vector::unit($along);
        if ($along === null) {
            return null;
        }
        $turn = Vector::cross($along, $up);
        $whole = Vector::dot([$this->all[0], $this->all[1], $this->all[2]], $up);
        $lever = Vector::dot([$this->all[3], $this->all[4], $this->all[5]], $turn);
        $weight = Vector::dot([$load[0], $load[1], $load[2]], $up);
        $own = Vector::dot([$load[3], $load[4], $load[5]], $turn);
        $at = Vector::dot($middle, $along);
        $best = null;
        foreach ($this->shared($along, $side, $whole, $lever, $weight) as [$share, $low, $high]) {
            $moment = max($low, min($high, $own - $at * ($weight - $share)));
            $bent = abs($own - $moment - $at * ($weight - $share));
            if ($best === null || $bent < $best[0] - 1e-12 || ($bent < $best[0] + 1e-12 && abs($weight - $share) < abs($best[1]))) {
                $best = [$bent, $weight - $share, $own - $moment];
            }
        }
        if ($best === null) {
            return null;
        }
        [, $force, $moment] = $best;
        // Supports beside each other see to it that nothing is twisted.
        $twist = $force * Vector::dot($middle, Vector::cross($up, $along));

        return [$force * $up[0], $force * $up[1], $force * $up[2], $moment * $turn[0] + $twist * $along[0], $moment * $turn[1] + $twist * $along[1], $moment * $turn[2] + $twist * $along[2]];
    }

    /**
     * Ways to share the load between what carries one side and what carries the other, that keep the balance.
     *
     * @param array{float, float, float} $along
     * @param array<int, true> $side
     * @param float $whole force, N
     * @param float $lever its moment, N m
     * @param float $weight that of the side, which is tried first
     *
     * @return list<array{float, float, float}> what carries the side, and between what its moment is then
     */
    private function shared(array $along, array $side, float $whole, float $lever, float $weight): array
    {
        $own = $others = [];
        foreach ($this->places as [$piece, $place]) {
            if (isset($side[$piece])) {
                $own[] = Vector::dot($place, $along);
            } else {
                $others[] = Vector::dot($place, $along);
            }
        }
        if ($own === []) {
            return [[0.0, 0.0, 0.0]];
        }
        if ($others === []) {
            return [[$whole, $lever, $lever]];
        }
        // The others can take what is left only where they are: on both sides of that.
        [$least, $most] = [0.0, $whole];
        foreach ([[min($own), min($others), 1.0], [max($own), max($others), -1.0]] as [$here, $there, $sign]) {
            $per = $sign * ($here - $there);
            $room = $sign * ($lever - $whole * $there);
            if ($per > 0.0) {
                $most = min($most, $room / $per);
            } elseif ($per < 0.0) {
                $least = max($least, $room / $per);
            } elseif ($room < 0.0) {
                return [];
            }
        }
        if ($least > $most + self::ROUNDING * $whole) {
            return [];
        }
        $ways = [];
        foreach ([max($least, min($most, $weight)), ...array_map(static fn (int $k): float => $least + ($most - $least) * $k / self::SHARES, range(0, self::SHARES))] as $share) {
            $low = max($share * min($own), $lever - ($whole - $share) * max($others));
            $ways[] = [$share, $low, max($low, min($share * max($own), $lever - ($whole - $share) * min($others)))];
        }

        return $ways;
    }
}
