<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

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
        self::drawTogether($fracture);
        Slivers::remove($fracture);
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

    private static function drawTogether(Fracture $fracture): void
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
            return;
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
        if (! self::closed($fracture, array_keys($touched))) {
            // A piece as thin as rounding would have come apart: better faces without area than an open piece.
            foreach ($corner as $f => $old) {
                [$fracture->corner[3 * $f], $fracture->corner[3 * $f + 1], $fracture->corner[3 * $f + 2]] = $old;
            }
            foreach ($back as $f => $piece) {
                $fracture->back[$f] = $piece;
            }

            return;
        }
        $fracture->compact();
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

    /** @param list<int> $pieces */
    private static function closed(Fracture $fracture, array $pieces): bool
    {
        $faces = $fracture->facesByPiece();
        foreach ($pieces as $piece) {
            $uses = [];
            foreach ($faces[$piece] as $f) {
                $isBack = $fracture->back[$f] === $piece;
                for ($e = 0; $e < 3; $e++) {
                    $a = $fracture->corner[3 * $f + $e];
                    $b = $fracture->corner[3 * $f + ($e === 2 ? 0 : $e + 1)];
                    $key = $isBack ? "{$a},{$b}" : "{$b},{$a}";
                    if (isset($uses[$key])) {
                        return false;
                    }
                    $uses[$key] = true;
                }
            }
            foreach ($uses as $key => $_) {
                [$a, $b] = explode(',', $key);
                if (! isset($uses["{$b},{$a}"])) {
                    return false;
                }
            }
        }

        return true;
    }
}
