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

    /** Times it is tried, with more and more left as it was; the last one comes to an end whatever there is. */
    private const TURNS = 3;

    public static function weld(Fracture $fracture): void
    {
        $before = clone $fracture;
        $alone = [];
        for ($turn = 0; $turn < self::TURNS; $turn++) {
            $last = $turn === self::TURNS - 1;
            $touch = self::drawTogether($fracture, $last ? null : $alone);
            // Slivers on both sides of a place that is two corners leave an edge between them.
            if (Slivers::remove($fracture)) {
                $touch = self::drawTogether($fracture, $last ? null : $alone) || $touch;
            }
            $tangled = $touch ? self::tangled($fracture) : [];
            if ($tangled === [] || $last) {
                // Only now: how the pieces hang together is told by how their faces lie.
                Slivers::open($fracture);

                return;
            }
            $fracture->restore($before);
            $alone = [...$alone, ...$tangled];
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
     * Edges without length go. A piece as thin as rounding would come apart: better faces without area than an open piece, so its
     * vertices stay as they are.
     *
     * @param list<int>|null $alone pieces that must not come to touch themselves along an edge; null: none may
     *
     * @return bool whether some do
     */
    private static function drawTogether(Fracture $fracture, ?array $alone): bool
    {
        $fixed = [];
        for ($turn = 0; $turn < self::TURNS && ($into = self::shorts($fracture, $fixed)) !== []; $turn++) {
            $before = clone $fracture;
            [$open, $touch] = self::closed($fracture, self::merge($fracture, $into));
            $worse = [...$open, ...$alone === null ? $touch : array_intersect($touch, $alone)];
            if ($worse === []) {
                $fracture->compact();

                return $touch !== [];
            }
            $fracture->restore($before);
            $faces = $fracture->facesByPiece();
            foreach ($worse as $piece) {
                foreach ($faces[$piece] as $f) {
                    $fixed[$fracture->corner[3 * $f]] = $fixed[$fracture->corner[3 * $f + 1]] = $fixed[$fracture->corner[3 * $f + 2]] = true;
                }
            }
        }

        return false;
    }

    /**
     * The ends of edges without length.
     *
     * @param array<int, true> $fixed vertices that stay as they are
     *
     * @return array<int, int> vertex that each becomes, with what comes of that resolved
     */
    private static function shorts(Fracture $fracture, array $fixed): array
    {
        $x = $fracture->x;
        $y = $fracture->y;
        $z = $fracture->z;
        $limit = (max($fracture->blur, self::LENGTH * self::reach($fracture))) ** 2;
        /** @var array<int, int> $into */
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
                if ($d <= $limit && ! isset($fixed[$a]) && ! isset($fixed[$b]) && ($a = $root($a)) !== ($b = $root($b))) {
                    $into[max($a, $b)] = min($a, $b);
                }
            }
        }

        return array_combine(array_keys($into), array_map($root, array_keys($into)));
    }

    /**
     * Vertices become others; faces that are nothing then go.
     *
     * @param array<int, int> $into vertex that each becomes
     *
     * @return list<int> pieces whose faces have changed
     */
    private static function merge(Fracture $fracture, array $into): array
    {
        $changed = $pieces = [];
        foreach ($fracture->back as $f => $piece) {
            if ($piece === Fracture::GONE) {
                continue;
            }
            $k = 3 * $f;
            $old = [$fracture->corner[$k], $fracture->corner[$k + 1], $fracture->corner[$k + 2]];
            $new = [$into[$old[0]] ?? $old[0], $into[$old[1]] ?? $old[1], $into[$old[2]] ?? $old[2]];
            if ($new !== $old) {
                $changed[] = $f;
                $pieces[$piece] = $pieces[$fracture->front[$f]] = true;
                if ($new[0] === $new[1] || $new[1] === $new[2] || $new[2] === $new[0]) {
                    $fracture->back[$f] = Fracture::GONE;
                }
                [$fracture->corner[$k], $fracture->corner[$k + 1], $fracture->corner[$k + 2]] = $new;
            }
        }
        self::cancel($fracture, $changed);
        unset($pieces[Fracture::OUTSIDE]);

        return array_keys($pieces);
    }

    /**
     * Two faces over the same three corners that look opposite ways, with the same pieces beside them, enclose nothing: both go.
     *
     * @param list<int> $faces
     */
    private static function cancel(Fracture $fracture, array $faces): void
    {
        $seen = [];
        foreach ($faces as $f) {
            if ($fracture->back[$f] === Fracture::GONE) {
                continue;
            }
            $c = [$fracture->corner[3 * $f], $fracture->corner[3 * $f + 1], $fracture->corner[3 * $f + 2]];
            $least = (int) array_search(min($c), $c, true);
            $c = [$c[$least], $c[($least + 1) % 3], $c[($least + 2) % 3], $fracture->back[$f], $fracture->front[$f]];
            $opposite = implode(',', [$c[0], $c[2], $c[1], $c[3], $c[4]]);
            if (isset($seen[$opposite])) {
                $fracture->back[$f] = $fracture->back[$seen[$opposite]] = Fracture::GONE;
                unset($seen[$opposite]);
            } else {
                $seen[implode(',', $c)] = $f;
            }
        }
    }

    /**
     * @param list<int> $pieces
     *
     * @return array{list<int>, list<int>} those that are open, and those that touch themselves along an edge
     */
    private static function closed(Fracture $fracture, array $pieces): array
    {
        $faces = $fracture->facesByPiece();
        $open = $touch = [];
        foreach ($pieces as $piece) {
            $uses = array_count_values(self::edges($fracture, $piece, $faces[$piece] ?? []));
            foreach ($uses as $key => $count) {
                if ($count !== ($uses[($key & 0xFFFFFFFF) << 32 | $key >> 32] ?? 0)) {
                    $open[] = $piece;
                    continue 2;
                }
            }
            if (max([0, ...$uses]) > 1) {
                $touch[] = $piece;
            }
        }

        return [$open, $touch];
    }

    /** @return list<int> pieces that touch themselves along an edge about which it cannot be told which faces belong together */
    private static function tangled(Fracture $fracture): array
    {
        $faces = $fracture->facesByPiece();
        $tangled = [];
        foreach (self::closed($fracture, range(0, $fracture->pieces - 1))[1] as $piece) {
            $starts = array_map(static fn (int $key): int => $key >> 32, self::edges($fracture, $piece, $faces[$piece]));
            if (Parting::tangled(new TriangleMesh($fracture->x, $fracture->y, $fracture->z, $starts)) !== []) {
                $tangled[] = $piece;
            }
        }

        return $tangled;
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
