<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Takes out faces that are nearly nothing, one by one: of one with a short side the ends become one vertex; of one whose
 * middle corner lies on the longest side, that corner goes onto the side of the faces across, as in flipping an edge. Each is
 * done only where every piece that it concerns stays a closed surface with two faces to an edge (the link condition, Dey,
 * Edelsbrunner, Guha and Nekhayev 1999); otherwise the face stays.
 */
final class Slivers
{
    /** Twice the area of a sliver is less than this part of its longest edge squared; what is written keeps above half of it. */
    private const FLAT = 4e-9;

    /** The ends of a side shorter than this part of the longest edge become one. */
    private const SHORT = 1.6e-8;

    /** The same, where there is no other way ... */
    private const SHORT_ENOUGH = 1e-6;

    /** ... and where all else has been tried. */
    private const SHORT_AT_LAST = 2e-4;

    /** What was mended may leave others, with shorter edges. */
    private const ROUNDS = 16;

    /** So many rounds in which there are no fewer than before, and it ends. */
    private const IDLE = 3;

    /** The skin's volume may change by less than this part. */
    private const VOLUME = 1e-10;

    /** @var array<int, array<int, true>> faces at the vertices of slivers */
    private array $at = [];

    /** @var array<int, true> faces that were changed */
    private array $changed = [];

    /** Sides shorter than this part of the longest are drawn together before all else. */
    private float $short = self::SHORT;

    private function __construct(private readonly Fracture $fracture)
    {
    }

    /** @return bool whether there were any */
    public static function remove(Fracture $fracture): bool
    {
        $slivers = self::among($fracture, null);
        if ($slivers === []) {
            return false;
        }
        $own = new self($fracture);
        $volume = array_sum($fracture->volumes());
        foreach ([self::SHORT, self::SHORT_AT_LAST] as $short) {
            $before = clone $fracture;
            $own->short = $short;
            $slivers = $own->rounds($slivers);
            if (abs(array_sum($fracture->volumes()) - $volume) > self::VOLUME * abs($volume)) {
                $fracture->restore($before);
                break;
            }
        }
        $fracture->compact();

        return true;
    }

    /**
     * @param array<int, true> $slivers
     *
     * @return array<int, true> those that are left
     */
    private function rounds(array $slivers): array
    {
        $least = count($slivers);
        $idle = 0;
        for ($round = 0; $round < self::ROUNDS && $slivers !== [] && $idle < self::IDLE; $round++) {
            $this->changed = [];
            $this->lookAround($slivers);
            $this->mendAll($slivers);
            // Of those that could not be mended nothing has changed.
            $slivers = self::among($this->fracture, $this->changed + $slivers);
            // Four places in a row may be turned over between them for ever.
            $idle = count($slivers) < $least ? 0 : $idle + 1;
            $least = min($least, count($slivers));
        }

        return $slivers;
    }

    /** The same of a mesh; what is open or flat as it was stays. */
    public static function without(TriangleMesh $mesh): TriangleMesh
    {
        if (self::flat($mesh->triangles, $mesh->x, $mesh->y, $mesh->z, range(0, $mesh->triangleCount() - 1)) === []) {
            return $mesh;
        }
        $fracture = Fracture::whole($mesh);
        self::remove($fracture);

        return PieceMeshes::of($fracture, $mesh)[0];
    }

    /**
     * Those first beside which there is no other: of a row of them the last one, then the one before.
     *
     * @param array<int, true> $slivers
     */
    private function mendAll(array $slivers): void
    {
        do {
            $before = count($slivers);
            foreach ($slivers as $f => $_) {
                if ($this->mend($f, $slivers)) {
                    unset($slivers[$f]);
                }
            }
        } while ($slivers !== [] && count($slivers) < $before);
        foreach ($slivers as $f => $_) {
            $this->mend($f, []);
        }
    }

    /**
     * @param array<int, true>|null $which of these faces; null: of all
     *
     * @return array<int, true>
     */
    private static function among(Fracture $fracture, ?array $which): array
    {
        $faces = [];
        foreach ($which ?? $fracture->back as $f => $_) {
            if ($fracture->back[$f] !== Fracture::GONE) {
                $faces[] = $f;
            }
        }

        return self::flat($fracture->corner, $fracture->x, $fracture->y, $fracture->z, $faces);
    }

    /**
     * @param array<int, int> $C three corners a face
     * @param array<int, float> $X
     * @param array<int, float> $Y
     * @param array<int, float> $Z
     * @param list<int> $faces
     *
     * @return array<int, true>
     */
    private static function flat(array $C, array $X, array $Y, array $Z, array $faces): array
    {
        $slivers = [];
        $limit = self::FLAT * self::FLAT;
        foreach ($faces as $f) {
            $a = $C[3 * $f];
            $b = $C[3 * $f + 1];
            $c = $C[3 * $f + 2];
            $ux = $X[$b] - $X[$a];
            $uy = $Y[$b] - $Y[$a];
            $uz = $Z[$b] - $Z[$a];
            $vx = $X[$c] - $X[$a];
            $vy = $Y[$c] - $Y[$a];
            $vz = $Z[$c] - $Z[$a];
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $u = $ux * $ux + $uy * $uy + $uz * $uz;
            $v = $vx * $vx + $vy * $vy + $vz * $vz;
            $w = ($vx - $ux) * ($vx - $ux) + ($vy - $uy) * ($vy - $uy) + ($vz - $uz) * ($vz - $uz);
            $longest = $u >= $v ? ($u >= $w ? $u : $w) : ($v >= $w ? $v : $w);
            if ($nx * $nx + $ny * $ny + $nz * $nz < $limit * $longest * $longest || $longest <= 0.0) {
                $slivers[$f] = true;
            }
        }

        return $slivers;
    }

    /** @param array<int, true> $slivers */
    private function lookAround(array $slivers): void
    {
        $C = $this->fracture->corner;
        $at = [];
        foreach ($slivers as $f => $_) {
            $at[$C[3 * $f]] = $at[$C[3 * $f + 1]] = $at[$C[3 * $f + 2]] = [];
        }
        foreach ($this->fracture->back as $f => $piece) {
            if ($piece === Fracture::GONE) {
                continue;
            }
            foreach ([$C[3 * $f], $C[3 * $f + 1], $C[3 * $f + 2]] as $v) {
                if (isset($at[$v])) {
                    $at[$v][$f] = true;
                }
            }
        }
        $this->at = $at;
    }

    /**
     * @param array<int, true> $spared faces that nothing is put into
     *
     * @return bool whether the face is gone
     */
    private function mend(int $face, array $spared): bool
    {
        $f = $this->fracture;
        if ($f->back[$face] === Fracture::GONE) {
            return true;
        }
        $corners = [$f->corner[3 * $face], $f->corner[3 * $face + 1], $f->corner[3 * $face + 2]];
        $length = [];
        foreach ([0, 1, 2] as $e) {
            $length[$e] = $this->distance($corners[$e], $corners[($e + 1) % 3]);
        }
        $long = (int) array_search(max($length), $length, true);
        $short = (int) array_search(min($length), $length, true);
        $ends = [$corners[$short], $corners[($short + 1) % 3]];
        $side = [$corners[$long], $corners[($long + 1) % 3], $corners[($long + 2) % 3]];
        $ratio = $length[$long] > 0.0 ? $length[$short] / $length[$long] : 0.0;
        if ($ratio < $this->short && $this->draw(max($ends), min($ends))) {
            return true;
        }

        return $this->insert($spared, ...$side) || ($ratio < self::SHORT_ENOUGH && $this->draw(max($ends), min($ends)));
    }

    private function distance(int $a, int $b): float
    {
        $f = $this->fracture;

        return sqrt(($f->x[$b] - $f->x[$a]) ** 2 + ($f->y[$b] - $f->y[$a]) ** 2 + ($f->z[$b] - $f->z[$a]) ** 2);
    }

    /**
     * Faces at a vertex of a sliver, by the pieces that they belong to.
     *
     * @return array<int, list<int>>
     */
    private function around(int $vertex): array
    {
        $f = $this->fracture;
        $faces = [];
        foreach ($this->at[$vertex] ?? [] as $face => $_) {
            if ($f->back[$face] !== Fracture::GONE) {
                $faces[$f->back[$face]][] = $face;
                if ($f->front[$face] !== Fracture::OUTSIDE) {
                    $faces[$f->front[$face]][] = $face;
                }
            }
        }

        return $faces;
    }

    /** @return array{int, int, int} */
    private function corners(int $face): array
    {
        return [$this->fracture->corner[3 * $face], $this->fracture->corner[3 * $face + 1], $this->fracture->corner[3 * $face + 2]];
    }

    /**
     * Corners of faces, but one.
     *
     * @param list<int> $faces
     *
     * @return array<int, true>
     */
    private function link(array $faces, int $but): array
    {
        $link = [];
        foreach ($faces as $face) {
            foreach ($this->corners($face) as $v) {
                $link[$v] = true;
            }
        }
        unset($link[$but]);

        return $link;
    }

    /** One vertex becomes another; false if some piece would not stay closed. */
    private function draw(int $gone, int $kept): bool
    {
        [$aroundGone, $aroundKept] = [$this->around($gone), $this->around($kept)];
        foreach ($aroundGone as $piece => $faces) {
            if (isset($aroundKept[$piece]) && ! $this->mayMeet($gone, $kept, $faces, $aroundKept[$piece])) {
                return false;
            }
        }
        $f = $this->fracture;
        foreach ($this->at[$gone] as $face => $_) {
            if ($f->back[$face] === Fracture::GONE) {
                continue;
            }
            $corners = $this->corners($face);
            if (in_array($kept, $corners, true)) {
                $f->back[$face] = Fracture::GONE;
                continue;
            }
            $f->corner[3 * $face + (int) array_search($gone, $corners, true)] = $kept;
            $this->at[$kept][$face] = true;
            $this->changed[$face] = true;
        }
        $this->at[$gone] = [];

        return true;
    }

    /**
     * Whether two vertices of a piece share an edge, and nothing but it and the two corners across.
     *
     * @param list<int> $aroundA
     * @param list<int> $aroundB
     */
    private function mayMeet(int $a, int $b, array $aroundA, array $aroundB): bool
    {
        $both = array_intersect($aroundA, $aroundB);
        $common = array_keys(array_intersect_key($this->link($aroundA, $a), $this->link($aroundB, $b)));
        if (count($both) !== 2 || count($common) !== 2) {
            return false;
        }
        // A tetrahedron has nothing left.
        foreach ($aroundA as $face) {
            if (count(array_intersect($common, $this->corners($face))) === 2) {
                foreach ($aroundB as $other) {
                    if (count(array_intersect($common, $this->corners($other))) === 2) {
                        return false;
                    }
                }
            }
        }

        return true;
    }

    /**
     * The middle corner of the slivers over three corners goes onto their longest side p, q in the other faces there; false if
     * some piece would not stay closed.
     *
     * @param array<int, true> $spared
     */
    private function insert(array $spared, int $p, int $q, int $middle): bool
    {
        $f = $this->fracture;
        $d = $this->distance($p, $q);
        $t = (($f->x[$middle] - $f->x[$p]) * ($f->x[$q] - $f->x[$p]) + ($f->y[$middle] - $f->y[$p]) * ($f->y[$q] - $f->y[$p]) + ($f->z[$middle] - $f->z[$p]) * ($f->z[$q] - $f->z[$p])) / max(1e-300, $d * $d);
        if ($t <= 0.0 || $t >= 1.0) {
            return false;
        }
        $atMiddle = $this->around($middle);
        $around = $this->around($q);
        // Two pieces may have one each, with nothing between.
        $slivers = array_keys(array_filter(array_intersect_key($this->at[$p], $this->at[$q], $this->at[$middle]), static fn (int $face): bool => $f->back[$face] !== Fracture::GONE, ARRAY_FILTER_USE_KEY));
        $split = $pieces = [];
        foreach ($this->around($p) as $piece => $faces) {
            $on = array_intersect($faces, $around[$piece] ?? []);
            if ($on === []) {
                continue;
            }
            $others = array_diff($on, $slivers);
            if (count($on) !== 2 || array_intersect_key($spared, array_flip($others)) !== [] || ! $this->mayTake($middle, $p, $q, array_diff($atMiddle[$piece] ?? [], $on), $others)) {
                return false;
            }
            $split += array_fill_keys($others, true);
            $pieces[] = $piece;
        }
        foreach ($slivers as $sliver) {
            $f->back[$sliver] = Fracture::GONE;
        }
        foreach ($split as $face => $_) {
            $this->split($face, $p, $q, $middle, $t);
        }
        foreach ($pieces as $piece) {
            $this->fold($piece, $middle);
        }

        return true;
    }

    /**
     * Whether a piece stays closed when faces on the edge p, q take a vertex there: each edge at it must have two faces then,
     * after faces over the same corners have gone, which enclose nothing.
     *
     * @param array<int, int> $at faces that the piece has at the vertex and keeps
     * @param array<int, int> $split faces to be divided
     */
    private function mayTake(int $middle, int $p, int $q, array $at, array $split): bool
    {
        /** @var array<int, array<int, int>> $pairs by the two other corners: how many faces */
        $pairs = [];
        $add = static function (int $a, int $b) use (&$pairs): void {
            [$a, $b] = [min($a, $b), max($a, $b)];
            $pairs[$a][$b] = ($pairs[$a][$b] ?? 0) + 1;
        };
        foreach ($at as $face) {
            $add(...array_values(array_diff($this->corners($face), [$middle])));
        }
        foreach ($split as $face) {
            foreach (array_diff($this->corners($face), [$p, $q]) as $across) {
                if ($across === $middle) {
                    return false;
                }
                $add($p, $across);
                $add($across, $q);
            }
        }
        $uses = [];
        foreach ($pairs as $a => $with) {
            foreach ($with as $b => $count) {
                if ($count > 2) {
                    return false;
                }
                foreach ($count === 1 ? [$a, $b] : [] as $v) {
                    $uses[$v] = ($uses[$v] ?? 0) + 1;
                }
            }
        }

        return array_diff($uses, [2]) === [];
    }

    /** Two faces of a piece over the same corners go: what lies on their other sides meets in one face, or was nothing. */
    private function fold(int $piece, int $vertex): void
    {
        $f = $this->fracture;
        $seen = [];
        foreach ($this->around($vertex)[$piece] ?? [] as $face) {
            $corners = $this->corners($face);
            sort($corners);
            $key = implode(',', $corners);
            if (! isset($seen[$key])) {
                $seen[$key] = $face;
                continue;
            }
            // One of the skin stays: it looks outwards already, and has weights.
            [$stays, $goes] = $f->front[$face] === Fracture::OUTSIDE ? [$face, $seen[$key]] : [$seen[$key], $face];
            unset($seen[$key]);
            $beyond = $f->back[$goes] === $piece ? $f->front[$goes] : $f->back[$goes];
            $before = $f->back[$stays] === $piece ? $f->front[$stays] : $f->back[$stays];
            $f->back[$goes] = Fracture::GONE;
            if ($beyond === $before) {
                $f->back[$stays] = Fracture::GONE;
            } elseif ($f->back[$stays] === $piece) {
                $f->back[$stays] = $beyond;
            } else {
                $f->front[$stays] = $beyond;
            }
        }
    }

    /** A face with the side p, q becomes two that meet at a vertex on it, a part t of the way from p. */
    private function split(int $face, int $p, int $q, int $middle, float $t): void
    {
        $f = $this->fracture;
        $corners = $this->corners($face);
        [$atP, $atQ] = [(int) array_search($p, $corners, true), (int) array_search($q, $corners, true)];
        $new = count($f->back);
        foreach ([0, 1, 2] as $c) {
            $f->corner[] = $c === $atP ? $middle : $corners[$c];
        }
        array_push($f->weight, ...array_slice($f->weight, 6 * $face, 6));
        $f->corner[3 * $face + $atQ] = $middle;
        foreach ([0, 1] as $w) {
            $f->weight[6 * $new + 2 * $atP + $w] = $f->weight[6 * $face + 2 * $atP + $w] + $t * ($f->weight[6 * $face + 2 * $atQ + $w] - $f->weight[6 * $face + 2 * $atP + $w]);
            $f->weight[6 * $face + 2 * $atQ + $w] = $f->weight[6 * $new + 2 * $atP + $w];
        }
        $f->back[] = $f->back[$face];
        $f->front[] = $f->front[$face];
        $f->origin[] = $f->origin[$face];
        foreach ([$face, $new] as $changed) {
            $this->changed[$changed] = true;
            foreach ($this->corners($changed) as $v) {
                if (isset($this->at[$v])) {
                    $this->at[$v][$changed] = true;
                }
            }
        }
        unset($this->at[$q][$face]);
    }
}
