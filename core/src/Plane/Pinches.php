<?php

declare(strict_types=1);

namespace YardBreak\Core\Plane;

/**
 * Where an area touches itself in one point only (two loops that meet in a point), a solid over it would hang together by an
 * edge without thickness. The lines are drawn apart there by a little, so the area goes on between them.
 */
final class Pinches
{
    /** How far, in parts of the shortest edge at the point. */
    private const GAP = 1e-3;

    private const ROUNDS = 6;

    /** Of the drawing's size: places this near are one. */
    private const SAME = 1e-6;

    /** The same drawing without such points. */
    public static function apart(Triangulation $drawing): Triangulation
    {
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $groups = self::find($drawing, $drawing->areas());
            if ($groups === []) {
                return $drawing;
            }
            $drawing = self::redrawn($drawing, $groups);
        }

        return $drawing;
    }

    /**
     * The same, at points where what seams part turned out to be one piece.
     *
     * @param list<array{float, float}> $places
     */
    public static function apartAt(Triangulation $drawing, array $places): Triangulation
    {
        $groups = [];
        foreach (self::find($drawing, $drawing->areas(true)) as $p => $of) {
            foreach ($places as [$x, $y]) {
                if (hypot($drawing->x[$p] - $x, $drawing->y[$p] - $y) < self::SAME * hypot($drawing->x[2] - $drawing->x[0], $drawing->y[2] - $drawing->y[0])) {
                    $groups[$p] = $of;
                }
            }
        }

        return self::redrawn($drawing, $groups);
    }

    /**
     * The lines' ends at points where an area comes more than once, in the groups between those times.
     *
     * @param array<int, int> $area by triangle
     *
     * @return array<int, list<list<int>>> other ends by point
     */
    private static function find(Triangulation $drawing, array $area): array
    {
        $found = [];
        $degree = [];
        foreach ($drawing->lines() as [$a, $b, $kind]) {
            if ($kind !== Triangulation::LINE) {
                continue;
            }
            $degree[$a] = ($degree[$a] ?? 0) + 1;
            $degree[$b] = ($degree[$b] ?? 0) + 1;
        }
        foreach ($degree as $p => $n) {
            if ($n < 4) {
                continue;
            }
            // Fans of triangles between lines, counter-clockwise: their area and the line that each starts from.
            $fans = [];
            foreach ($drawing->around($p) as [$t, $k]) {
                if ($drawing->kind[3 * $t + ($k + 2) % 3] === Triangulation::LINE) {
                    $fans[] = [$area[$t], $drawing->corner[3 * $t + ($k + 1) % 3]];
                }
            }
            $counts = array_count_values(array_column($fans, 0));
            arsort($counts);
            $pinched = array_key_first($counts);
            if ($pinched === null || $counts[$pinched] < 2) {
                continue;
            }
            $at = (int) array_search($pinched, array_column($fans, 0), true);
            $fans = [...array_slice($fans, $at), ...array_slice($fans, 0, $at)];
            // The line a fan of the pinched area starts from ends the group before it.
            $groups = [];
            $group = [];
            foreach (array_slice($fans, 1) as [$of, $line]) {
                $group[] = $line;
                if ($of === $pinched) {
                    $groups[] = $group;
                    $group = [];
                }
            }
            $group[] = $fans[0][1];
            $groups[] = $group;
            $found[$p] = $groups;
        }

        return $found;
    }

    /** @param array<int, list<list<int>>> $groups */
    private static function redrawn(Triangulation $old, array $groups): Triangulation
    {
        $new = new Triangulation([$old->x[0], $old->y[0]], [$old->x[2], $old->y[2]], 0.0);
        $name = $copy = [];
        foreach ($groups as $p => $of) {
            foreach ($of as $ends) {
                $place = self::between($old, $p, $ends);
                foreach ($ends as $end) {
                    $copy[$p][$end] = $place;
                }
            }
        }
        $point = static function (int $p, int $towards) use ($old, $new, &$name, $copy): int {
            // A seam goes on from any of the places its point has become.
            [$x, $y] = $copy[$p][$towards] ?? (isset($copy[$p]) ? reset($copy[$p]) : [$old->x[$p], $old->y[$p]]);

            return $name["{$x} {$y}"] ??= $new->point($x, $y);
        };
        $lines = array_map(static fn (array $line): array => [$point($line[0], $line[1]), $point($line[1], $line[0]), $line[2]], $old->lines());
        foreach ($lines as [$a, $b, $kind]) {
            $new->line($a, $b, $kind);
        }

        return $new;
    }

    /**
     * A place near a point, on the side of some of the lines that end there.
     *
     * @param list<int> $ends
     *
     * @return array{float, float}
     */
    private static function between(Triangulation $d, int $p, array $ends): array
    {
        $shortest = INF;
        $x = $y = 0.0;
        foreach ($ends as $end) {
            $length = hypot($d->x[$end] - $d->x[$p], $d->y[$end] - $d->y[$p]);
            $shortest = min($shortest, $length);
            $x += ($d->x[$end] - $d->x[$p]) / $length;
            $y += ($d->y[$end] - $d->y[$p]) / $length;
        }
        $s = self::GAP * $shortest / count($ends);

        return [$d->x[$p] + $s * $x, $d->y[$p] + $s * $y];
    }
}
