<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/**
 * Two vertices of a fracture become one, or one goes onto an edge, only where every piece that it concerns stays a closed surface with
 * two faces to an edge (the link condition, Dey, Edelsbrunner, Guha and Nekhayev 1999).
 */
final class FaceSurgery
{
    /** @var array<int, array<int, true>> faces at the vertices of slivers */
    private array $at = [];

    /** @var array<int, true> faces that were changed */
    private array $changed = [];

    public function __construct(private readonly Fracture $fracture)
    {
    }

    /**
     * Looks for the faces around, and forgets what was changed before.
     *
     * @param array<int, true> $slivers
     */
    public function prepare(array $slivers): void
    {
        $this->changed = [];
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

    /** @return array<int, true> faces that have other corners since */
    public function changed(): array
    {
        return $this->changed;
    }

    public function distance(int $a, int $b): float
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
    public function draw(int $gone, int $kept): bool
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
    public function insert(array $spared, int $p, int $q, int $middle): bool
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
