<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\Parting;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Cleans up after cuts that ran exactly through vertices or along faces of the mesh: edges without length are drawn
 * together, and faces that are nearly nothing go. Nothing moves by more than rounding, or than a cutter that keeps clear of
 * ties has moved it before.
 */
final class Welder
{
    /** Edges shorter than this have no length, in parts of the prop's size: a thousand roundings. */
    private const LENGTH = 2e-13;

    public static function weld(Fracture $fracture): void
    {
        $before = clone $fracture;
        $touch = self::drawTogether($fracture, true);
        Slivers::remove($fracture);
        if ($touch && ! self::canBeParted($fracture)) {
            $fracture->restore($before);
            self::drawTogether($fracture, false);
            Slivers::remove($fracture);
        }
    }

    /**
     * Faces that cuts have touched: those that still are triangles of the source have no new flaws.
     *
     * @return list<int>
     */
    private static function touched(Fracture $fracture): array
    {
        $C = $fracture->corner;
        $known = $fracture->known;
        $touched = [];
        $k = 0;
        foreach ($fracture->back as $f => $piece) {
            if ($piece !== Fracture::GONE && ($C[$k] >= $known || $C[$k + 1] >= $known || $C[$k + 2] >= $known)) {
                $touched[] = $f;
            }
            $k += 3;
        }

        return $touched;
    }

    /** The largest coordinate: rounding is in proportion to it. */
    private static function reach(Fracture $fracture): float
    {
        $reach = 0.0;
        foreach ([$fracture->x, $fracture->y, $fracture->z] as $axis) {
            $reach = $axis === [] ? $reach : max($reach, abs(min($axis)), abs(max($axis)));
        }

        return $reach;
    }

    /**
     * @param bool $mayTouch whether pieces may come to touch themselves along an edge
     *
     * @return bool whether some do
     */
    private static function drawTogether(Fracture $fracture, bool $mayTouch): bool
    {
        $x = $fracture->x;
        $y = $fracture->y;
        $z = $fracture->z;
        $limit = (max($fracture->blur, self::LENGTH * self::reach($fracture))) ** 2;
        /** @var array<int, int> $into vertex each one becomes, where that is another */
        $into = [];
        $root = static function (int $v) use (&$into): int {
            while (isset($into[$v])) {
                $v = $into[$v];
            }

            return $v;
        };
        foreach (self::touched($fracture) as $f) {
            for ($e = 0; $e < 3; $e++) {
                $a = $fracture->corner[3 * $f + $e];
                $b = $fracture->corner[3 * $f + ($e === 2 ? 0 : $e + 1)];
                $d = ($x[$b] - $x[$a]) ** 2 + ($y[$b] - $y[$a]) ** 2 + ($z[$b] - $z[$a]) ** 2;
                if ($d <= $limit && ($a = $root($a)) !== ($b = $root($b))) {
                    $into[max($a, $b)] = min($a, $b);
                }
            }
        }
        if ($into === []) {
            return false;
        }
        $corner = $back = [];
        $touched = [];
        foreach ($fracture->back as $f => $piece) {
            if ($piece === Fracture::GONE) {
                continue;
            }
            $k = 3 * $f;
            $old = [$fracture->corner[$k], $fracture->corner[$k + 1], $fracture->corner[$k + 2]];
            $new = [$root($old[0]), $root($old[1]), $root($old[2])];
            if ($new !== $old) {
                $corner[$f] = $old;
                $touched[$piece] = true;
                $touched[$fracture->front[$f]] = true;
                if ($new[0] === $new[1] || $new[1] === $new[2] || $new[2] === $new[0]) {
                    $back[$f] = $piece;
                    $fracture->back[$f] = Fracture::GONE;
                }
                [$fracture->corner[$k], $fracture->corner[$k + 1], $fracture->corner[$k + 2]] = $new;
            }
        }
        $back += self::cancel($fracture, array_keys($corner));
        unset($touched[Fracture::OUTSIDE]);
        [$closed, $touch] = self::closed($fracture, array_keys($touched));
        if (! $closed || ($touch !== [] && ! $mayTouch)) {
            // A piece as thin as rounding would have come apart: better faces without area than an open piece.
            foreach ($corner as $f => $old) {
                [$fracture->corner[3 * $f], $fracture->corner[3 * $f + 1], $fracture->corner[3 * $f + 2]] = $old;
            }
            foreach ($back as $f => $piece) {
                $fracture->back[$f] = $piece;
            }

            return false;
        }
        $fracture->compact();

        return $touch !== [];
    }

    /**
     * Two faces over the same three corners that look opposite ways, with the same pieces beside them, enclose nothing: both go.
     *
     * @param list<int> $faces
     *
     * @return array<int, int> what lay behind those that went
     */
    private static function cancel(Fracture $fracture, array $faces): array
    {
        $gone = $seen = [];
        foreach ($faces as $f) {
            if ($fracture->back[$f] === Fracture::GONE) {
                continue;
            }
            $c = [$fracture->corner[3 * $f], $fracture->corner[3 * $f + 1], $fracture->corner[3 * $f + 2]];
            $least = (int) array_search(min($c), $c, true);
            $c = [$c[$least], $c[($least + 1) % 3], $c[($least + 2) % 3], $fracture->back[$f], $fracture->front[$f]];
            $opposite = implode(',', [$c[0], $c[2], $c[1], $c[3], $c[4]]);
            if (isset($seen[$opposite])) {
                foreach ([$f, $seen[$opposite]] as $both) {
                    $gone[$both] = $fracture->back[$both];
                    $fracture->back[$both] = Fracture::GONE;
                }
                unset($seen[$opposite]);
            } else {
                $seen[implode(',', $c)] = $f;
            }
        }

        return $gone;
    }

    /**
     * @param list<int> $pieces
     *
     * @return array{bool, list<int>} whether all are closed, and which touch themselves along an edge
     */
    private static function closed(Fracture $fracture, array $pieces): array
    {
        $faces = $fracture->facesByPiece();
        $touch = [];
        foreach ($pieces as $piece) {
            $uses = [];
            $most = 0;
            foreach (self::edges($fracture, $piece, $faces[$piece]) as $key) {
                $uses[$key] = ($uses[$key] ?? 0) + 1;
                $most = max($most, $uses[$key]);
            }
            foreach ($uses as $key => $count) {
                if ($count !== ($uses[($key & 0xFFFFFFFF) << 32 | $key >> 32] ?? 0)) {
                    return [false, []];
                }
            }
            if ($most > 1) {
                $touch[] = $piece;
            }
        }

        return [true, $touch];
    }

    /** Whether at all edges along which pieces touch themselves it can be told which faces belong together. */
    private static function canBeParted(Fracture $fracture): bool
    {
        $faces = $fracture->facesByPiece();
        foreach (self::closed($fracture, range(0, $fracture->pieces - 1))[1] as $piece) {
            $starts = array_map(static fn (int $key): int => $key >> 32, self::edges($fracture, $piece, $faces[$piece]));
            if (Parting::tangled(new TriangleMesh($fracture->x, $fracture->y, $fracture->z, $starts)) !== []) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param list<int> $faces
     *
     * @return list<int> both ends of each edge in one number, three a face, as the piece sees them
     */
    private static function edges(Fracture $fracture, int $piece, array $faces): array
    {
        $edges = [];
        foreach ($faces as $f) {
            [$a, $b, $c] = [$fracture->corner[3 * $f], $fracture->corner[3 * $f + 1], $fracture->corner[3 * $f + 2]];
            if ($fracture->back[$f] !== $piece) {
                [$b, $c] = [$c, $b];
            }
            $edges[] = $a << 32 | $b;
            $edges[] = $b << 32 | $c;
            $edges[] = $c << 32 | $a;
        }

        return $edges;
    }
}
