<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/**
 * Takes off what has no thickness, so that every edge of a piece has two faces again. Where the rim of a curved wall turns
 * sharply, the wall and what it meets may get the same triangle, or the same edge across the turn.
 */
final class Flaps
{
    /** @param list<int> $pieces */
    public static function clear(PieceFaces $faces, array $pieces): void
    {
        self::fold($faces, $pieces);
        // A face that has been divided may have been on another such edge.
        while (self::part($faces, $pieces) > 0);
    }

    /**
     * Two faces of a piece over the same three vertices, one to either side of nothing: they go, and what lies on their other
     * sides meets in one face.
     *
     * @param list<int> $pieces
     *
     * @return int how many were taken off
     */
    public static function fold(PieceFaces $faces, array $pieces): int
    {
        $f = $faces->fracture;
        $count = 0;
        foreach ($pieces as $piece) {
            $first = [];
            foreach ($faces->of($piece) as $face) {
                $corners = [$f->corner[3 * $face], $f->corner[3 * $face + 1], $f->corner[3 * $face + 2]];
                sort($corners);
                $key = implode(',', $corners);
                $other = $first[$key] ?? null;
                if ($other === null) {
                    $first[$key] = $face;
                    continue;
                }
                unset($first[$key]);
                // A face of the skin stays one: it has weights.
                self::join($faces, $piece, ...($f->origin[$face] >= 0 ? [$face, $other] : [$other, $face]));
                $count++;
            }
        }

        return $count;
    }

    /**
     * An edge that a piece has four faces on, because a wall has the same edge as what it meets: the wall gets a vertex in the
     * middle of its own, so that each has an edge of its own.
     *
     * @param list<int> $pieces
     *
     * @return int how many edges were parted
     */
    public static function part(PieceFaces $faces, array $pieces): int
    {
        $f = $faces->fracture;
        $count = 0;
        foreach ($pieces as $piece) {
            $users = [];
            foreach ($faces->of($piece) as $face) {
                for ($e = 0; $e < 3; $e++) {
                    $users[EdgeInserter::key($f->corner[3 * $face + $e], $f->corner[3 * $face + ($e + 1) % 3])][] = $face;
                }
            }
            foreach ($users as $key => $on) {
                $walls = [];
                foreach (count($on) > 2 ? $on : [] as $face) {
                    if ($f->origin[$face] < 0 && $f->back[$face] !== Fracture::GONE) {
                        $walls["{$f->back[$face]},{$f->front[$face]},{$f->origin[$face]}"][] = $face;
                    }
                }
                $wall = array_values(array_filter($walls, static fn (array $wall): bool => count($wall) === 2))[0] ?? null;
                if ($wall !== null) {
                    self::split($faces, $wall, $key >> 32, $key & 0xFFFFFFFF);
                    $count++;
                }
            }
        }

        return $count;
    }

    /** @param list<int> $wall the faces on an edge */
    private static function split(PieceFaces $faces, array $wall, int $a, int $b): void
    {
        $f = $faces->fracture;
        $middle = count($f->x);
        $f->x[] = 0.5 * ($f->x[$a] + $f->x[$b]);
        $f->y[] = 0.5 * ($f->y[$a] + $f->y[$b]);
        $f->z[] = 0.5 * ($f->z[$a] + $f->z[$b]);
        foreach ($wall as $face) {
            $corners = [$f->corner[3 * $face], $f->corner[3 * $face + 1], $f->corner[3 * $face + 2]];
            $back = $f->back[$face];
            $f->back[$face] = Fracture::GONE;
            foreach ([$a, $b] as $end) {
                [$p, $q, $r] = array_map(static fn (int $v): int => $v === $end ? $middle : $v, $corners);
                $faces->add([$p, $q, $r], $back, $f->front[$face], $f->origin[$face], [0.0, 0.0, 0.0, 0.0, 0.0, 0.0]);
            }
        }
    }

    private static function join(PieceFaces $faces, int $piece, int $face, int $other): void
    {
        $f = $faces->fracture;
        $behind = $f->back[$face] === $piece;
        $near = $behind ? $f->front[$face] : $f->back[$face];
        $far = $f->back[$other] === $piece ? $f->front[$other] : $f->back[$other];
        $f->back[$face] = $f->back[$other] = Fracture::GONE;
        if ($near === $far) {
            return;
        }
        [$back, $front] = $behind ? [$far, $near] : [$near, $far];
        [$a, $b, $c] = [$f->corner[3 * $face], $f->corner[3 * $face + 1], $f->corner[3 * $face + 2]];
        $w = array_slice($f->weight, 6 * $face, 6);
        if ($back === Fracture::OUTSIDE) {
            [$back, $front] = [$front, $back];
            [$b, $c] = [$c, $b];
            $w = [$w[0], $w[1], $w[4], $w[5], $w[2], $w[3]];
        }
        $faces->add([$a, $b, $c], $back, $front, $f->origin[$face], $w);
    }
}
