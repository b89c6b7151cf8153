<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/**
 * Weights that give all cells the same share of a set of points: a power diagram with capacities (Aurenhammer, Hoffmann and
 * Aronov 1998), found by raising the weight of cells that have too little while the sites go to the middle of their cells
 * (as in Balzer, Schloemer and Deussen 2009, who swap points instead).
 *
 * Cost: points x rounds x {@see NEIGHBOURS}.
 */
final readonly class EvenVolumes
{
    private const ROUNDS = 72;

    /** In the last rounds the sites stay, so that the weights come to rest. */
    private const SETTLE = 36;

    /** Cells that a point may change over to. */
    private const NEIGHBOURS = 26;

    /** Neighbours are looked for again after so many rounds. */
    private const AGAIN = 6;

    /** How much of what a cell lacks its weight makes up for at once; more swings. */
    private const STEP = 0.4;

    /** Of its last step a weight goes on by (Polyak 1964): what is missing far off arrives in fewer rounds. */
    private const MOMENTUM = 0.6;

    private const MOVE = 0.6;

    /**
     * @param array<int, float> $x places of the sites
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $weights m2, one a site
     */
    private function __construct(public array $x, public array $y, public array $z, public array $weights)
    {
    }

    /**
     * @param array{list<float>, list<float>, list<float>} $sites
     * @param array{list<float>, list<float>, list<float>} $points many more, where the cells are to be
     */
    public static function of(array $sites, array $points, Progress $progress = new Progress()): self
    {
        [$x, $y, $z] = $sites;
        [$qx, $qy, $qz] = $points;
        $n = count($x);
        $weight = $speed = array_fill(0, $n, 0.0);
        $share = count($qx) / max(1, $n);
        $step = 0.0;
        $owner = SiteGrid::of($x, $y, $z)->nearest($x, $y, $z, $qx, $qy, $qz);
        $near = [];
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $progress->at('even volumes', $round, self::ROUNDS);
            if ($round % self::AGAIN === 0) {
                $near = self::neighbours($x, $y, $z);
                // A wall moves by dw / 2d; over the walls of a cube of width d that is dV / V = 3 dw / d2, of a plate 2, of a rod 1.
                $step = self::STEP * self::spacing($near, $x, $y, $z) ** 2;
            }
            $owner = self::owners($owner, $near, $x, $y, $z, $weight, $qx, $qy, $qz);
            $count = array_fill(0, $n, 0);
            $sumX = $sumY = $sumZ = array_fill(0, $n, 0.0);
            foreach ($owner as $q => $s) {
                $count[$s]++;
                $sumX[$s] += $qx[$q];
                $sumY[$s] += $qy[$q];
                $sumZ[$s] += $qz[$q];
            }
            $moves = $round < self::ROUNDS - self::SETTLE;
            foreach ($count as $s => $has) {
                $lack = 1.0 - $has / $share;
                $speed[$s] = self::MOMENTUM * $speed[$s] + $step * ($lack < -1.0 ? -1.0 : $lack);
                $weight[$s] += $speed[$s];
                if ($moves && $has > 0) {
                    $x[$s] += self::MOVE * ($sumX[$s] / $has - $x[$s]);
                    $y[$s] += self::MOVE * ($sumY[$s] / $has - $y[$s]);
                    $z[$s] += self::MOVE * ($sumZ[$s] / $has - $z[$s]);
                }
            }
        }

        return new self($x, $y, $z, $weight);
    }

    /**
     * How far sites lie from the nearest one, on average.
     *
     * @param array<int, list<int>> $near
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    private static function spacing(array $near, array $x, array $y, array $z): float
    {
        $sum = 0.0;
        foreach ($near as $s => $others) {
            $t = $others[0] ?? $s;
            $sum += sqrt(($x[$t] - $x[$s]) ** 2 + ($y[$t] - $y[$s]) ** 2 + ($z[$t] - $z[$s]) ** 2);
        }

        return $sum / max(1, count($near));
    }

    /**
     * From the cell where each point was to the one it lies in now, by way of neighbours.
     *
     * @param array<int, int> $owner
     * @param array<int, list<int>> $near
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $weight
     * @param array<int, float> $qx
     * @param array<int, float> $qy
     * @param array<int, float> $qz
     *
     * @return array<int, int>
     */
    private static function owners(array $owner, array $near, array $x, array $y, array $z, array $weight, array $qx, array $qy, array $qz): array
    {
        foreach ($owner as $q => $s) {
            $px = $qx[$q];
            $py = $qy[$q];
            $pz = $qz[$q];
            $dx = $x[$s] - $px;
            $dy = $y[$s] - $py;
            $dz = $z[$s] - $pz;
            $best = $dx * $dx + $dy * $dy + $dz * $dz - $weight[$s];
            do {
                $from = $s;
                foreach ($near[$from] as $t) {
                    $dx = $x[$t] - $px;
                    $dy = $y[$t] - $py;
                    $dz = $z[$t] - $pz;
                    $d = $dx * $dx + $dy * $dy + $dz * $dz - $weight[$t];
                    if ($d < $best) {
                        $best = $d;
                        $s = $t;
                    }
                }
            } while ($s !== $from);
            $owner[$q] = $s;
        }

        return $owner;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return array<int, list<int>> the nearest sites to each
     */
    private static function neighbours(array $x, array $y, array $z): array
    {
        $grid = SiteGrid::of($x, $y, $z);
        $near = [];
        foreach ($x as $s => $px) {
            $at = [(int) (($px - $grid->x0) / $grid->block), (int) (($y[$s] - $grid->y0) / $grid->block), (int) (($z[$s] - $grid->z0) / $grid->block)];
            $distance = [];
            for ($reach = 1; $reach <= 2 || (count($distance) < self::NEIGHBOURS && $reach < max($grid->nx, $grid->ny, $grid->nz)); $reach++) {
                $distance = [];
                for ($k = max(0, $at[2] - $reach); $k <= min($grid->nz - 1, $at[2] + $reach); $k++) {
                    for ($j = max(0, $at[1] - $reach); $j <= min($grid->ny - 1, $at[1] + $reach); $j++) {
                        $row = ($k * $grid->ny + $j) * $grid->nx;
                        $from = $grid->start[$row + max(0, $at[0] - $reach)];
                        $to = $grid->start[$row + min($grid->nx - 1, $at[0] + $reach) + 1];
                        for ($i = $from; $i < $to; $i++) {
                            $t = $grid->items[$i];
                            $distance[$t] = ($x[$t] - $px) ** 2 + ($y[$t] - $y[$s]) ** 2 + ($z[$t] - $z[$s]) ** 2;
                        }
                    }
                }
                if (count($distance) > self::NEIGHBOURS) {
                    break;
                }
            }
            unset($distance[$s]);
            asort($distance);
            $near[$s] = array_slice(array_keys($distance), 0, self::NEIGHBOURS);
        }

        return $near;
    }
}
