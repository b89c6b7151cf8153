<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Closure;
use YardBreak\Core\Plane\EvenFill;

/**
 * Gives walls between pieces even triangles of a set size: edges of their rims are divided into equal parts, and the area
 * between is filled ({@see EvenFill}). Curved walls are done in parts that are nearly flat.
 */
final readonly class WallFiller
{
    /** Faces are laid flat together if none is turned away from the first farther than this (cosine of 25 degrees). */
    private const FACING = 0.9;

    /** Circumscribed circle of an equilateral triangle in parts of its side. */
    private const CIRCLE = 0.5773502691896258;

    public function __construct(private PieceFaces $faces)
    {
    }

    /**
     * @param list<int> $pieces
     * @param float $fineness edges are made about this long, m
     * @param Closure(int): bool $which faces whose walls are meant
     * @param array{float, float, float}|null $along direction from which the walls look flat, if it is known
     *
     * @return list<int> the new vertices that are not on a rim
     */
    public function fill(array $pieces, float $fineness, Closure $which, ?array $along = null): array
    {
        $new = $around = [];
        foreach ($pieces as $piece) {
            foreach ($this->faces->around($piece) as $other) {
                $around[$other] = true;
            }
        }
        (new EdgeInserter($this->faces))->insert($this->divide($this->charts($pieces, $which, $along), $fineness), array_keys($around));

        $edges = $this->edges(array_keys($around));
        foreach ($this->charts($pieces, $which, $along) as $faces) {
            $normal = $this->normal($faces);
            if ($along !== null) {
                $facing = $normal[0] * $along[0] + $normal[1] * $along[1] + $normal[2] * $along[2];
                $normal = $facing > 0.0 ? $along : [-$along[0], -$along[1], -$along[2]];
            }
            array_push($new, ...$this->fillOne($faces, Frame3::about($normal), $fineness, $edges));
        }

        return $new;
    }

    /**
     * Faces that can be laid flat together: of one wall between the same two pieces and, where it is curved, facing about
     * the same way.
     *
     * @param list<int> $pieces
     * @param Closure(int): bool $which
     * @param array{float, float, float}|null $along
     *
     * @return list<list<int>>
     */
    private function charts(array $pieces, Closure $which, ?array $along): array
    {
        $regions = $this->regions($pieces, $which);
        if ($along !== null) {
            return array_values($regions);
        }
        $charts = [];
        foreach ($regions as $faces) {
            array_push($charts, ...($this->facesAlike($faces, $this->normal($faces)) ? [$faces] : $this->parted($faces)));
        }

        return $charts;
    }

    /**
     * @param list<int> $faces
     * @param array{float, float, float} $normal
     */
    private function facesAlike(array $faces, array $normal): bool
    {
        foreach ($faces as $face) {
            $own = $this->normal([$face]);
            if ($own[0] * $normal[0] + $own[1] * $normal[1] + $own[2] * $normal[2] < self::FACING) {
                return false;
            }
        }

        return true;
    }

    /**
     * A curved region in parts that are flat enough, each grown from its largest face.
     *
     * @param list<int> $faces
     *
     * @return list<list<int>>
     */
    private function parted(array $faces): array
    {
        $f = $this->faces->fracture;
        $area = $normal = $users = $part = [];
        foreach ($faces as $face) {
            $area[$face] = $f->area($face);
            $normal[$face] = $this->normal([$face]);
            foreach (self::edgesOf($f, $face) as $key) {
                $users[$key][] = $face;
            }
        }
        arsort($area);
        $parts = [];
        foreach (array_keys($area) as $seed) {
            if (isset($part[$seed])) {
                continue;
            }
            $part[$seed] = true;
            $grown = [$seed];
            for ($k = 0; $k < count($grown); $k++) {
                foreach (self::edgesOf($f, $grown[$k]) as $key) {
                    foreach (count($users[$key]) === 2 ? $users[$key] : [] as $next) {
                        $cosine = $normal[$next][0] * $normal[$seed][0] + $normal[$next][1] * $normal[$seed][1] + $normal[$next][2] * $normal[$seed][2];
                        if (! isset($part[$next]) && $cosine >= self::FACING) {
                            $part[$next] = true;
                            $grown[] = $next;
                        }
                    }
                }
            }
            $parts[] = $grown;
        }

        return $parts;
    }

    /** @return array{int, int, int} */
    private static function edgesOf(Fracture $f, int $face): array
    {
        [$a, $b, $c] = [$f->corner[3 * $face], $f->corner[3 * $face + 1], $f->corner[3 * $face + 2]];

        return [EdgeInserter::key($a, $b), EdgeInserter::key($b, $c), EdgeInserter::key($c, $a)];
    }

    /**
     * @param list<int> $pieces
     * @param Closure(int): bool $which
     *
     * @return array<string, list<int>> faces by region
     */
    private function regions(array $pieces, Closure $which): array
    {
        $f = $this->faces->fracture;
        $seen = $regions = [];
        foreach ($pieces as $piece) {
            foreach ($this->faces->of($piece) as $face) {
                if (! isset($seen[$face]) && $which($face)) {
                    $seen[$face] = true;
                    $regions["{$f->back[$face]},{$f->front[$face]},{$f->origin[$face]}"][] = $face;
                }
            }
        }

        return $regions;
    }

    /**
     * New vertices on long edges along the charts' rims, equally spaced.
     *
     * @param list<list<int>> $charts
     *
     * @return array<int, list<int>> by edge, from its end with the lower number
     */
    private function divide(array $charts, float $fineness): array
    {
        $f = $this->faces->fracture;
        $inserted = [];
        foreach ($charts as $faces) {
            $users = [];
            foreach ($faces as $face) {
                foreach (self::edgesOf($f, $face) as $key) {
                    $users[$key] = ($users[$key] ?? 0) + 1;
                }
            }
            foreach ($users as $key => $count) {
                if ($count === 2 || isset($inserted[$key])) {
                    continue;
                }
                [$a, $b] = [$key >> 32, $key & 0xFFFFFFFF];
                $parts = (int) ceil(sqrt(($f->x[$b] - $f->x[$a]) ** 2 + ($f->y[$b] - $f->y[$a]) ** 2 + ($f->z[$b] - $f->z[$a]) ** 2) / $fineness);
                for ($i = 1; $i < $parts; $i++) {
                    $s = $i / $parts;
                    $v = count($f->x);
                    $f->x[] = $f->x[$a] + $s * ($f->x[$b] - $f->x[$a]);
                    $f->y[] = $f->y[$a] + $s * ($f->y[$b] - $f->y[$a]);
                    $f->z[] = $f->z[$a] + $s * ($f->z[$b] - $f->z[$a]);
                    $inserted[$key][] = $v;
                }
            }
        }

        return $inserted;
    }

    /**
     * @param list<int> $pieces
     *
     * @return array<int, true> the edges of these pieces' faces
     */
    private function edges(array $pieces): array
    {
        $f = $this->faces->fracture;
        $edges = [];
        foreach ($pieces as $piece) {
            foreach ($this->faces->of($piece) as $face) {
                foreach (self::edgesOf($f, $face) as $key) {
                    $edges[$key] = true;
                }
            }
        }

        return $edges;
    }

    /**
     * @param list<int> $faces
     *
     * @return array{float, float, float} unit mean of their normals
     */
    private function normal(array $faces): array
    {
        $f = $this->faces->fracture;
        $nx = $ny = $nz = 0.0;
        foreach ($faces as $face) {
            [$x, $y, $z] = $f->cross($face);
            $nx += $x;
            $ny += $y;
            $nz += $z;
        }
        $s = 1.0 / max(1e-300, sqrt($nx * $nx + $ny * $ny + $nz * $nz));

        return [$nx * $s, $ny * $s, $nz * $s];
    }

    /**
     * @param list<int> $faces
     * @param array<int, true> $edges all that there are
     *
     * @return list<int> the new vertices
     */
    private function fillOne(array $faces, Frame3 $frame, float $fineness, array $edges): array
    {
        $f = $this->faces->fracture;
        [$u, $v] = [$frame->u, $frame->v];
        $number = $vertices = $x = $y = $corners = [];
        foreach ($faces as $face) {
            for ($k = 3 * $face; $k < 3 * $face + 3; $k++) {
                $at = $f->corner[$k];
                if (! isset($number[$at])) {
                    $number[$at] = count($vertices);
                    $vertices[] = $at;
                    $x[] = $u[0] * $f->x[$at] + $u[1] * $f->y[$at] + $u[2] * $f->z[$at];
                    $y[] = $v[0] * $f->x[$at] + $v[1] * $f->y[$at] + $v[2] * $f->z[$at];
                }
                $corners[] = $number[$at];
            }
        }
        $fill = new EvenFill($x, $y, $corners, static fn (int $p, int $q): bool => ! isset($edges[EdgeInserter::key($vertices[$p], $vertices[$q])]));
        $fill->fill(self::CIRCLE * $fineness);
        $new = [];
        foreach ($fill->from as [$a, $b, $c, $s, $t]) {
            [$a, $b, $c] = [$vertices[$a], $vertices[$b], $vertices[$c]];
            $vertices[] = $new[] = count($f->x);
            $f->x[] = $f->x[$c] + $s * ($f->x[$a] - $f->x[$c]) + $t * ($f->x[$b] - $f->x[$c]);
            $f->y[] = $f->y[$c] + $s * ($f->y[$a] - $f->y[$c]) + $t * ($f->y[$b] - $f->y[$c]);
            $f->z[] = $f->z[$c] + $s * ($f->z[$a] - $f->z[$c]) + $t * ($f->z[$b] - $f->z[$c]);
        }
        [$back, $front, $origin] = [$f->back[$faces[0]], $f->front[$faces[0]], $f->origin[$faces[0]]];
        foreach (array_chunk($fill->corner, 3) as $t => [$a, $b, $c]) {
            if ($t < count($faces)) {
                [$f->corner[3 * $faces[$t]], $f->corner[3 * $faces[$t] + 1], $f->corner[3 * $faces[$t] + 2]] = [$vertices[$a], $vertices[$b], $vertices[$c]];
            } else {
                $this->faces->add([$vertices[$a], $vertices[$b], $vertices[$c]], $back, $front, $origin, [0.0, 0.0, 0.0, 0.0, 0.0, 0.0]);
            }
        }

        return $new;
    }
}
