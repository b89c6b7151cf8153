<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Closure;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\InsideTest;
use YardBreak\Core\Mesh\TriangleMesh;

/** Points strewn through the inside of a mesh, as dense as asked, and moved to the middle of their cells. */
final class Sites
{
    /** Sample points per site for Lloyd's method; more moves the sites less noisily and takes longer. */
    private const SAMPLES_A_SITE = 24;

    private const ROUNDS = 10;

    /** Points a site to measure its cell with, and all together at least: a few cells are measured better. */
    private const POINTS_A_SITE = 100;

    private const POINTS = 16_000;

    private const BASES = [2, 3, 5];

    /** Tries per point, before thin or sparse props are given points of their bounds. */
    private const PATIENCE = 400;

    private readonly InsideTest $inside;

    /** @param (Closure(float, float, float): float)|null $density share of points to keep at a place, 0 to 1; null: all */
    public function __construct(private readonly TriangleMesh $mesh, private readonly ?Closure $density = null)
    {
        $this->inside = new InsideTest($mesh);
    }

    /** @return array{list<float>, list<float>, list<float>} */
    public function strew(int $count, RandomStream $stream): array
    {
        [$low, $high] = $this->mesh->bounds();
        $x = $y = $z = [];
        $tries = 0;
        while (count($x) < $count) {
            $px = $stream->between($low[0], $high[0]);
            $py = $stream->between($low[1], $high[1]);
            $pz = $stream->between($low[2], $high[2]);
            if (($this->inside->contains($px, $py, $pz) && ($this->density === null || $stream->float() < ($this->density)($px, $py, $pz)))
                || $tries++ > self::PATIENCE * $count) {
                $x[] = $px;
                $y[] = $py;
                $z[] = $pz;
            }
        }

        return [$x, $y, $z];
    }

    /**
     * Points that lie more evenly than by chance, to measure cells with: Halton's sequence (1960) in bases 2, 3 and 5, shifted.
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    public function spread(int $sites, RandomStream $stream): array
    {
        [$low, $high] = $this->mesh->bounds();
        $shift = [$stream->float(), $stream->float(), $stream->float()];
        $wanted = max(self::POINTS, $sites * self::POINTS_A_SITE);
        $x = $y = $z = [];
        for ($tries = 0; count($x) < $wanted && $tries < self::PATIENCE * $wanted; $tries++) {
            $at = [];
            foreach (self::BASES as $axis => $base) {
                $at[] = fmod(self::mirrored($tries + 1, $base) + $shift[$axis], 1.0);
            }
            $px = $low[0] + $at[0] * ($high[0] - $low[0]);
            $py = $low[1] + $at[1] * ($high[1] - $low[1]);
            $pz = $low[2] + $at[2] * ($high[2] - $low[2]);
            if ($this->inside->contains($px, $py, $pz) && ($this->density === null || $stream->float() < ($this->density)($px, $py, $pz))) {
                $x[] = $px;
                $y[] = $py;
                $z[] = $pz;
            }
        }

        return $x === [] ? $this->strew($wanted, $stream) : [$x, $y, $z];
    }

    /** A number's digits behind the point, the last one first. */
    private static function mirrored(int $number, int $base): float
    {
        $value = 0.0;
        for ($part = 1.0 / $base; $number > 0; $part /= $base) {
            $value += $part * ($number % $base);
            $number = intdiv($number, $base);
        }

        return $value;
    }

    /**
     * Lloyd's method (1982) on sample points inside the prop: each site goes some of the way to the middle of its cell.
     *
     * @param array{list<float>, list<float>, list<float>} $sites
     * @param float $evenness 0: they stay, 1: all the way
     * @param float $stretch distances count this much less along the axis
     * @param array{float, float, float} $axis of length 1
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    public function even(array $sites, float $evenness, RandomStream $stream, float $stretch = 1.0, array $axis = [0.0, 1.0, 0.0]): array
    {
        [$x, $y, $z] = $sites;
        $count = count($x);
        if ($evenness <= 0.0 || $count < 2) {
            return $sites;
        }
        [$px, $py, $pz] = $this->strew($count * self::SAMPLES_A_SITE, $stream);
        [$qx, $qy, $qz] = self::squeezed($px, $py, $pz, $stretch, $axis);
        $nearest = [];
        for ($round = 0; $round < self::ROUNDS; $round++) {
            [$sx, $sy, $sz] = self::squeezed($x, $y, $z, $stretch, $axis);
            $nearest = SiteGrid::of($sx, $sy, $sz)->nearest($sx, $sy, $sz, $qx, $qy, $qz, $nearest);
            $sumX = $sumY = $sumZ = array_fill(0, $count, 0.0);
            $members = array_fill(0, $count, 0);
            foreach ($nearest as $q => $s) {
                $sumX[$s] += $px[$q];
                $sumY[$s] += $py[$q];
                $sumZ[$s] += $pz[$q];
                $members[$s]++;
            }
            foreach ($members as $s => $n) {
                if ($n > 0) {
                    $x[$s] += $evenness * ($sumX[$s] / $n - $x[$s]);
                    $y[$s] += $evenness * ($sumY[$s] / $n - $y[$s]);
                    $z[$s] += $evenness * ($sumZ[$s] / $n - $z[$s]);
                }
            }
        }

        return [array_values($x), array_values($y), array_values($z)];
    }

    /**
     * Places in the space where lengths along the axis are divided by the stretch.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array{float, float, float} $axis
     *
     * @return array{array<int, float>, array<int, float>, array<int, float>}
     */
    public static function squeezed(array $x, array $y, array $z, float $stretch, array $axis): array
    {
        if ($stretch === 1.0) {
            return [$x, $y, $z];
        }
        [$ax, $ay, $az] = $axis;
        $s = 1.0 / $stretch - 1.0;
        foreach ($x as $i => $px) {
            $t = $s * ($ax * $px + $ay * $y[$i] + $az * $z[$i]);
            $x[$i] = $px + $t * $ax;
            $y[$i] += $t * $ay;
            $z[$i] += $t * $az;
        }

        return [$x, $y, $z];
    }
}
