<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/**
 * Convex hull of points, growing from a tetrahedron by the farthest point that is still outside (Quickhull, Barber, Dobkin
 * and Huhdanpaa 1996, with one global queue). Because the farthest comes first, stopping early gives a good simpler hull:
 * collision shapes need no more than a few dozen vertices.
 */
final class HullBuilder
{
    /** Most vertices of a collision shape. */
    public const MOST_VERTICES = 40;

    /** Points nearer to the hull than this part of its size are left out. */
    private const CLOSE_ENOUGH = 5e-4;

    /** Triangles whose far corner lies within this part of the size of a face's plane belong to that face. */
    private const COPLANAR = 1e-3;

    /** Part of the size by which points are pushed about; far below the tolerance for coplanar faces. */
    private const JOGGLE = 4e-6;

    /** @var list<array{int, int, int}|null> */
    private array $faces = [];

    /** @var list<array{float, float, float, float}> */
    private array $planes = [];

    /** @var array<int, list<int>> points outside each face */
    private array $outside = [];

    /** @var array<int, array{float, int}> the farthest of them: distance, point */
    private array $farthest = [];

    /** @var array<int, int> face on the left of each directed edge */
    private array $faceOfEdge = [];

    private int $count;

    private float $size;

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    private function __construct(private readonly array $x, private readonly array $y, private readonly array $z)
    {
        $this->count = count($x);
        $this->size = $x === [] || $y === [] || $z === [] ? 0.0
            : max(max($x) - min($x), max($y) - min($y), max($z) - min($z));
    }

    /**
     * @param array<int, float> $x points, relative to the shape's centre of mass
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    public static function of(array $x, array $y, array $z): ConvexHull
    {
        $builder = new self(self::joggled($x, 1), self::joggled($y, 2), self::joggled($z, 3));
        if (! $builder->startTetrahedron()) {
            return self::boxAround($x, $y, $z);
        }
        $vertices = 4;
        while ($vertices < self::MOST_VERTICES && $builder->addFarthest()) {
            $vertices++;
        }

        return $builder->finish($x, $y, $z);
    }

    /**
     * Many points of a piece lie exactly in one plane or line, where rounding would make slivers whose normals mean
     * nothing. A fixed tiny push per point puts them in general position (as qhull's option QJ does); the shape itself is
     * laid out with the true points.
     *
     * @param array<int, float> $values
     *
     * @return array<int, float>
     */
    private static function joggled(array $values, int $axis): array
    {
        $size = $values === [] ? 0.0 : max($values) - min($values);
        $joggled = [];
        foreach (array_values($values) as $i => $value) {
            $noise = (($i * 3 + $axis) * 40503 & 0xFFFF) / 65536.0 - 0.5;
            $joggled[] = $value + self::JOGGLE * $size * $noise;
        }

        return $joggled;
    }

    private function startTetrahedron(): bool
    {
        $a = $b = 0;
        $best = -1.0;
        foreach ([$this->x, $this->y, $this->z] as $axis) {
            asort($axis);
            $low = (int) array_key_first($axis);
            $high = (int) array_key_last($axis);
            if ($axis[$high] - $axis[$low] > $best) {
                $best = $axis[$high] - $axis[$low];
                [$a, $b] = [$low, $high];
            }
        }
        $ux = $this->x[$b] - $this->x[$a];
        $uy = $this->y[$b] - $this->y[$a];
        $uz = $this->z[$b] - $this->z[$a];
        $c = -1;
        $most = 0.0;
        for ($i = 0; $i < $this->count; $i++) {
            [$nx, $ny, $nz] = $this->cross($ux, $uy, $uz, $a, $i);
            $area = $nx * $nx + $ny * $ny + $nz * $nz;
            if ($area > $most) {
                $most = $area;
                $c = $i;
            }
        }
        if ($c < 0 || $most < 1e-16 * $this->size ** 4) {
            return false;
        }
        [$nx, $ny, $nz] = $this->cross($ux, $uy, $uz, $a, $c);
        $d = -1;
        $far = 0.0;
        for ($i = 0; $i < $this->count; $i++) {
            $h = $nx * ($this->x[$i] - $this->x[$a]) + $ny * ($this->y[$i] - $this->y[$a]) + $nz * ($this->z[$i] - $this->z[$a]);
            if (abs($h) > abs($far)) {
                $far = $h;
                $d = $i;
            }
        }
        if ($d < 0 || abs($far) < 1e-6 * $this->size * sqrt($most)) {
            return false;
        }
        if ($far > 0.0) {
            [$b, $c] = [$c, $b];
        }
        $points = range(0, $this->count - 1);
        foreach ([[$a, $b, $c], [$a, $d, $b], [$b, $d, $c], [$c, $d, $a]] as $face) {
            $points = $this->addFace($face, $points);
        }

        return true;
    }

    /** @return array{float, float, float} */
    private function cross(float $ux, float $uy, float $uz, int $a, int $i): array
    {
        $vx = $this->x[$i] - $this->x[$a];
        $vy = $this->y[$i] - $this->y[$a];
        $vz = $this->z[$i] - $this->z[$a];

        return [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
    }

    /**
     * @param array{int, int, int} $face
     * @param list<int> $points to take those outside from
     *
     * @return list<int> the points left
     */
    private function addFace(array $face, array $points): array
    {
        [$a, $b, $c] = $face;
        $id = count($this->faces);
        $this->faces[] = $face;
        [$nx, $ny, $nz] = $this->cross(
            $this->x[$b] - $this->x[$a],
            $this->y[$b] - $this->y[$a],
            $this->z[$b] - $this->z[$a],
            $a,
            $c,
        );
        $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        $s = $length > 0.0 ? 1.0 / $length : 0.0;
        $nx *= $s;
        $ny *= $s;
        $nz *= $s;
        $d = $nx * $this->x[$a] + $ny * $this->y[$a] + $nz * $this->z[$a];
        $this->planes[] = [$nx, $ny, $nz, $d];
        foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
            $this->faceOfEdge[$p * $this->count + $q] = $id;
        }
        $out = [];
        $left = [];
        $far = 0.0;
        $farthest = -1;
        // A point that this face hardly sees is left for the other faces, which may see it well.
        $skin = self::CLOSE_ENOUGH * $this->size;
        foreach ($points as $i) {
            $h = $nx * $this->x[$i] + $ny * $this->y[$i] + $nz * $this->z[$i] - $d;
            if ($h > $skin) {
                $out[] = $i;
                if ($h > $far) {
                    $far = $h;
                    $farthest = $i;
                }
            } else {
                $left[] = $i;
            }
        }
        $this->outside[$id] = $out;
        if ($farthest >= 0) {
            $this->farthest[$id] = [$far, $farthest];
        }

        return $left;
    }

    private function addFarthest(): bool
    {
        $best = 0.0;
        $point = -1;
        $seed = -1;
        foreach ($this->farthest as $id => [$distance, $i]) {
            if ($distance > $best) {
                $best = $distance;
                $point = $i;
                $seed = $id;
            }
        }
        if ($point < 0) {
            return false;
        }
        $visible = [$seed => true];
        $stack = [$seed];
        $rim = [];
        $skin = 1e-10 * $this->size;
        while ($stack !== []) {
            $id = array_pop($stack);
            $face = $this->faces[$id];
            if ($face === null) {
                continue;
            }
            foreach ([[$face[0], $face[1]], [$face[1], $face[2]], [$face[2], $face[0]]] as [$p, $q]) {
                $other = $this->faceOfEdge[$q * $this->count + $p];
                if (isset($visible[$other])) {
                    continue;
                }
                [$nx, $ny, $nz, $d] = $this->planes[$other];
                if ($nx * $this->x[$point] + $ny * $this->y[$point] + $nz * $this->z[$point] - $d > $skin) {
                    $visible[$other] = true;
                    $stack[] = $other;
                }
            }
        }
        $points = [];
        foreach ($visible as $id => $_) {
            $face = $this->faces[$id];
            if ($face === null) {
                continue;
            }
            foreach ([[$face[0], $face[1]], [$face[1], $face[2]], [$face[2], $face[0]]] as [$p, $q]) {
                if (! isset($visible[$this->faceOfEdge[$q * $this->count + $p]])) {
                    $rim[] = [$p, $q];
                }
            }
            foreach ($this->outside[$id] as $i) {
                if ($i !== $point) {
                    $points[] = $i;
                }
            }
            $this->faces[$id] = null;
            unset($this->outside[$id], $this->farthest[$id]);
        }
        foreach ($rim as [$p, $q]) {
            $points = $this->addFace([$p, $q, $point], $points);
        }

        return true;
    }

    /**
     * Joins coplanar triangles to polygons and lays everything out flat.
     *
     * @param array<int, float> $x the true points
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    private function finish(array $x, array $y, array $z): ConvexHull
    {
        $areas = [];
        foreach ($this->faces as $id => $face) {
            if ($face !== null) {
                [$a, $b, $c] = $face;
                [$nx, $ny, $nz] = $this->cross(
                    $this->x[$b] - $this->x[$a],
                    $this->y[$b] - $this->y[$a],
                    $this->z[$b] - $this->z[$a],
                    $a,
                    $c,
                );
                $areas[$id] = $nx * $nx + $ny * $ny + $nz * $nz;
            }
        }
        arsort($areas);
        $group = [];
        $normals = [];
        $loops = [];
        foreach ($areas as $seed => $_) {
            if (isset($group[$seed])) {
                continue;
            }
            $plane = $this->planes[$seed];
            $members = $this->coplanarWith($seed, $plane, $group);
            $loop = $this->outline($members);
            if ($loop === null) {
                // Not one simple outline: keep the triangle alone.
                foreach ($members as $id) {
                    if ($id !== $seed) {
                        unset($group[$id]);
                    }
                }
                $face = $this->faces[$seed];
                $loop = $face ?? [];
            }
            $normals[] = $plane;
            $loops[] = $loop;
        }

        return $this->layOut(self::withoutStraightCorners($loops), $normals, array_values($x), array_values($y), array_values($z));
    }

    /**
     * Points along the middle of an edge bound two faces only; they add nothing.
     *
     * @param list<array<int, int>> $loops
     *
     * @return list<array<int, int>>
     */
    private static function withoutStraightCorners(array $loops): array
    {
        $uses = [];
        foreach ($loops as $loop) {
            foreach ($loop as $p) {
                $uses[$p] = ($uses[$p] ?? 0) + 1;
            }
        }
        $kept = [];
        foreach ($loops as $loop) {
            $corners = array_filter($loop, static fn (int $p): bool => $uses[$p] > 2);
            if (count($corners) < 3) {
                return $loops;
            }
            $kept[] = $corners;
        }

        return $kept;
    }

    /**
     * @param array{float, float, float, float} $plane
     * @param array<int, bool> $group faces that are taken
     *
     * @return list<int>
     */
    private function coplanarWith(int $seed, array $plane, array &$group): array
    {
        $tolerance = self::COPLANAR * $this->size;
        $group[$seed] = true;
        $members = [$seed];
        $stack = [$seed];
        while ($stack !== []) {
            $face = $this->faces[array_pop($stack)];
            if ($face === null) {
                continue;
            }
            foreach ([[$face[0], $face[1]], [$face[1], $face[2]], [$face[2], $face[0]]] as [$p, $q]) {
                $other = $this->faceOfEdge[$q * $this->count + $p];
                if (isset($group[$other]) || $this->faces[$other] === null) {
                    continue;
                }
                $flat = true;
                foreach ($this->faces[$other] as $i) {
                    $h = $plane[0] * $this->x[$i] + $plane[1] * $this->y[$i] + $plane[2] * $this->z[$i] - $plane[3];
                    $flat = $flat && abs($h) <= $tolerance;
                }
                $turn = $plane[0] * $this->planes[$other][0] + $plane[1] * $this->planes[$other][1] + $plane[2] * $this->planes[$other][2];
                if ($flat && $turn > 0.0) {
                    $group[$other] = true;
                    $members[] = $other;
                    $stack[] = $other;
                }
            }
        }

        return $members;
    }

    /**
     * @param list<int> $members
     *
     * @return list<int>|null null if the faces have not one simple outline
     */
    private function outline(array $members): ?array
    {
        $in = array_fill_keys($members, true);
        $next = [];
        $edges = 0;
        foreach ($members as $id) {
            $face = $this->faces[$id];
            if ($face === null) {
                continue;
            }
            foreach ([[$face[0], $face[1]], [$face[1], $face[2]], [$face[2], $face[0]]] as [$p, $q]) {
                if (! isset($in[$this->faceOfEdge[$q * $this->count + $p]])) {
                    $next[$p] = $q;
                    $edges++;
                }
            }
        }
        $start = array_key_first($next);
        if ($start === null || count($next) !== $edges) {
            return null;
        }
        $loop = [];
        $at = $start;
        do {
            $loop[] = $at;
            $at = $next[$at];
        } while ($at !== $start && count($loop) <= $edges);

        return count($loop) === $edges ? $loop : null;
    }

    /**
     * @param list<array<int, int>> $loops
     * @param list<array{float, float, float, float}> $planes
     * @param list<float> $px
     * @param list<float> $py
     * @param list<float> $pz
     */
    private function layOut(array $loops, array $planes, array $px, array $py, array $pz): ConvexHull
    {
        $number = $x = $y = $z = $nx = $ny = $nz = $d = $flat = [];
        $start = [0];
        $sides = [];
        foreach ($loops as $f => $loop) {
            $count = count($loop);
            $loop = array_values($loop);
            foreach ($loop as $k => $p) {
                if (! isset($number[$p])) {
                    $number[$p] = count($x);
                    $x[] = $px[$p];
                    $y[] = $py[$p];
                    $z[] = $pz[$p];
                }
                $flat[] = $number[$p];
                $sides[$p * $this->count + $loop[$k + 1 === $count ? 0 : $k + 1]] = $f;
            }
            $start[] = count($flat);
            $nx[] = $planes[$f][0];
            $ny[] = $planes[$f][1];
            $nz[] = $planes[$f][2];
            // Joined faces lie on the outermost of their triangles' planes, so no vertex pokes out.
            $offset = -INF;
            foreach ($loop as $p) {
                $offset = max($offset, $planes[$f][0] * $px[$p] + $planes[$f][1] * $py[$p] + $planes[$f][2] * $pz[$p]);
            }
            $d[] = $offset;
        }
        $from = $ex = $ey = $ez = $left = $right = [];
        foreach ($sides as $key => $f) {
            $p = intdiv($key, $this->count);
            $q = $key % $this->count;
            if ($p < $q && isset($sides[$q * $this->count + $p])) {
                $dx = $px[$q] - $px[$p];
                $dy = $py[$q] - $py[$p];
                $dz = $pz[$q] - $pz[$p];
                $s = 1.0 / sqrt($dx * $dx + $dy * $dy + $dz * $dz);
                $from[] = $number[$p];
                $ex[] = $dx * $s;
                $ey[] = $dy * $s;
                $ez[] = $dz * $s;
                $left[] = $f;
                $right[] = $sides[$q * $this->count + $p];
            }
        }

        return new ConvexHull($x, $y, $z, $nx, $ny, $nz, $d, $start, $flat, $from, $ex, $ey, $ez, $left, $right);
    }

    /**
     * For points without volume (a flake, a line): a thin box around them.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    private static function boxAround(array $x, array $y, array $z): ConvexHull
    {
        $corners = [];
        $lows = [];
        $highs = [];
        foreach ([$x, $y, $z] as $axis) {
            $lows[] = $axis === [] ? 0.0 : min($axis);
            $highs[] = $axis === [] ? 0.0 : max($axis);
        }
        $thin = 0.01 * max(1e-6, $highs[0] - $lows[0], $highs[1] - $lows[1], $highs[2] - $lows[2]);
        for ($k = 0; $k < 8; $k++) {
            foreach ([0, 1, 2] as $axis) {
                $grow = max(0.0, 0.5 * ($thin - ($highs[$axis] - $lows[$axis])));
                $corners[$axis][] = (($k >> $axis) & 1) === 0 ? $lows[$axis] - $grow : $highs[$axis] + $grow;
            }
        }

        return self::of($corners[0], $corners[1], $corners[2]);
    }
}
