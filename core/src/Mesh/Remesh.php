<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

use Closure;

/**
 * A mesh of even triangles, about as many as asked, on the same surface (Botsch and Kobbelt 2004): long edges are split, short
 * ones collapsed, edges flipped towards six a vertex, vertices moved to the middle of their neighbours and back onto the
 * surface. Creases, open rims, seams of the texture coordinates and borders between looks stay where they are.
 *
 * Texture coordinates are read off the old surface, from the same side of every seam, so nothing is smeared across.
 */
final class Remesh
{
    private const ROUNDS = 6;

    /** Height of a triangle over its longest side, under which its normal is not trusted to tell a crease. */
    private const SLIVER = 0.12;

    /** Bends of lines that stick out less than this part of an edge are straightened, where that is allowed. */
    private const RAGGED = 0.25;

    /** @var array<int, float> */
    private array $x;

    /** @var array<int, float> */
    private array $y;

    /** @var array<int, float> */
    private array $z;

    /** @var array<int, array{int, int, int}> triangles that are there */
    private array $faces = [];

    /** @var array<int, array<int, true>> triangles about each vertex */
    private array $around = [];

    /** @var array<int, array<int, true>> vertices that each vertex is tied to by a line that stays */
    private array $lines = [];

    /** @var array<int, int> chart (what hangs together in texture coordinates and look) of each triangle */
    private array $chart = [];

    private int $next;

    /** @var list<int> chart of each old triangle */
    private readonly array $charts;

    private function __construct(private readonly TriangleMesh $old, private readonly SurfaceGrid $grid, private readonly bool $loosely)
    {
        [$this->x, $this->y, $this->z] = [$old->x, $old->y, $old->z];
        $this->charts = $charts = Charts::of($old, ! $loosely);
        foreach (array_chunk($old->triangles, 3) as $f => $corners) {
            /** @var array{int, int, int} $corners */
            if ($corners[0] === $corners[1] || $corners[1] === $corners[2] || $corners[2] === $corners[0]) {
                continue;
            }
            $this->add($f, $corners, $charts[$f]);
        }
        $this->next = $old->triangleCount();
        $this->findLines($charts);
    }

    /**
     * @param int $count triangles wanted
     * @param bool $loosely whether small bends of rims and creases may be straightened, and triangles may lie across seams of the
     *   texture coordinates: each then has those of one side
     * @param (Closure(int, int): void)|null $round told how many rounds are done, and of how many
     */
    public static function to(TriangleMesh $mesh, int $count, bool $loosely = false, ?Closure $round = null): TriangleMesh
    {
        if ($mesh->isEmpty()) {
            return $mesh;
        }
        $grid = new SurfaceGrid($mesh);
        $remesh = new self($mesh, $grid, $loosely);
        $length = sqrt($mesh->area() * 4.0 / (sqrt(3.0) * max(4, $count)));
        for ($done = 0; $done < self::ROUNDS; $done++) {
            if ($round !== null) {
                $round($done, self::ROUNDS);
            }
            $remesh->split(4.0 / 3.0 * $length);
            $remesh->collapse(0.8 * $length, 4.0 / 3.0 * $length);
            $remesh->flip();
            $remesh->relax();
            if ($done > 0) {
                $length *= max(0.8, min(1.25, sqrt(count($remesh->faces) / $count)));
            }
        }

        return $remesh->result();
    }

    /** @param array{int, int, int} $corners */
    private function add(int $f, array $corners, int $chart): void
    {
        $this->faces[$f] = $corners;
        $this->chart[$f] = $chart;
        foreach ($corners as $v) {
            $this->around[$v][$f] = true;
        }
    }

    private function drop(int $f): void
    {
        foreach ($this->faces[$f] as $v) {
            unset($this->around[$v][$f]);
        }
        unset($this->faces[$f], $this->chart[$f]);
    }

    /** @param list<int> $charts */
    private function findLines(array $charts): void
    {
        $limit = cos(deg2rad(Normals::CREASE_DEGREES));
        foreach ($this->edges() as [$a, $b, $beside]) {
            $sharp = count($beside) !== 2 || $charts[$beside[0]] !== $charts[$beside[1]];
            if (! $sharp) {
                $n = $this->normal($this->faces[$beside[0]]);
                $m = $this->normal($this->faces[$beside[1]]);
                $sharp = $n[0] * $m[0] + $n[1] * $m[1] + $n[2] * $m[2] < $limit && ! $this->isSliver($beside[0]) && ! $this->isSliver($beside[1]);
            }
            if ($sharp) {
                $this->lines[$a][$b] = $this->lines[$b][$a] = true;
            }
        }
    }

    /** Whether a triangle is so thin that its normal means nothing. */
    private function isSliver(int $f): bool
    {
        [$a, $b, $c] = $this->faces[$f];
        $longest = max($this->length($a, $b), $this->length($b, $c), $this->length($c, $a));
        $p = [$this->x[$a], $this->y[$a], $this->z[$a]];
        $q = [$this->x[$b], $this->y[$b], $this->z[$b]];
        $r = [$this->x[$c], $this->y[$c], $this->z[$c]];

        return self::doubleArea($p, $q, $r) < self::SLIVER * $longest * $longest;
    }

    /** @return list<array{int, int, list<int>}> ends, the lower first, and the triangles beside */
    private function edges(): array
    {
        $edges = [];
        foreach ($this->faces as $f => [$a, $b, $c]) {
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                if ($p < $q) {
                    $edges[$p][$q][] = $f;
                } else {
                    $edges[$q][$p][] = $f;
                }
            }
        }
        $list = [];
        foreach ($edges as $a => $others) {
            foreach ($others as $b => $beside) {
                $list[] = [$a, $b, $beside];
            }
        }

        return $list;
    }

    /**
     * @param array{int, int, int} $t
     *
     * @return array{float, float, float} of length 1; none for a triangle without area
     */
    private function normal(array $t): array
    {
        [$a, $b, $c] = $t;
        $ux = $this->x[$b] - $this->x[$a];
        $uy = $this->y[$b] - $this->y[$a];
        $uz = $this->z[$b] - $this->z[$a];
        $vx = $this->x[$c] - $this->x[$a];
        $vy = $this->y[$c] - $this->y[$a];
        $vz = $this->z[$c] - $this->z[$a];
        $nx = $uy * $vz - $uz * $vy;
        $ny = $uz * $vx - $ux * $vz;
        $nz = $ux * $vy - $uy * $vx;
        $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);

        return $l > 0.0 ? [$nx / $l, $ny / $l, $nz / $l] : [0.0, 0.0, 0.0];
    }

    private function length(int $a, int $b): float
    {
        return sqrt(($this->x[$a] - $this->x[$b]) ** 2 + ($this->y[$a] - $this->y[$b]) ** 2 + ($this->z[$a] - $this->z[$b]) ** 2);
    }

    /** @return list<int> triangles that have both vertices */
    private function beside(int $a, int $b): array
    {
        return array_keys(array_intersect_key($this->around[$a], $this->around[$b]));
    }

    private function split(float $most): void
    {
        for ($again = 0; $again < 6; $again++) {
            $long = [];
            foreach ($this->edges() as [$a, $b]) {
                $length = $this->length($a, $b);
                if ($length > $most) {
                    $long[] = [$length, $a, $b];
                }
            }
            if ($long === []) {
                return;
            }
            // The longest first, so that triangles stay in shape.
            usort($long, static fn (array $p, array $q): int => [$q[0], $p[1], $p[2]] <=> [$p[0], $q[1], $q[2]]);
            foreach ($long as [, $a, $b]) {
                $this->splitEdge($a, $b);
            }
        }
    }

    private function splitEdge(int $a, int $b): void
    {
        $m = count($this->x);
        $this->x[] = 0.5 * ($this->x[$a] + $this->x[$b]);
        $this->y[] = 0.5 * ($this->y[$a] + $this->y[$b]);
        $this->z[] = 0.5 * ($this->z[$a] + $this->z[$b]);
        $this->around[$m] = [];
        foreach ($this->beside($a, $b) as $f) {
            $t = $this->faces[$f];
            $chart = $this->chart[$f];
            $this->drop($f);
            $this->add($f, self::with($t, $a, $m), $chart);
            $this->add($this->next++, self::with($t, $b, $m), $chart);
        }
        if (isset($this->lines[$a][$b])) {
            unset($this->lines[$a][$b], $this->lines[$b][$a]);
            $this->lines[$a][$m] = $this->lines[$m][$a] = $this->lines[$b][$m] = $this->lines[$m][$b] = true;
        }
    }

    /**
     * @param array{int, int, int} $t
     *
     * @return array{int, int, int} one corner in place of another
     */
    private static function with(array $t, int $old, int $new): array
    {
        return [$t[0] === $old ? $new : $t[0], $t[1] === $old ? $new : $t[1], $t[2] === $old ? $new : $t[2]];
    }

    private function collapse(float $least, float $most): void
    {
        $short = [];
        foreach ($this->edges() as [$a, $b]) {
            $length = $this->length($a, $b);
            if ($length < $least) {
                $short[] = [$length, $a, $b];
            }
        }
        sort($short);
        foreach ($short as [, $a, $b]) {
            if (($this->around[$a] ?? []) === [] || ($this->around[$b] ?? []) === [] || $this->length($a, $b) >= $least) {
                continue;
            }
            $beside = $this->beside($a, $b);
            if ($beside === []) {
                continue;
            }
            // The one that stays lies on the line, if one does.
            [$keep, $gone] = $this->mayGo($b, $a, $least) ? [$a, $b] : [$b, $a];
            if ($this->mayGo($gone, $keep, $least) && $this->linked($a, $b, count($beside)) && $this->fits($gone, $keep, $most)) {
                $this->collapseEdge($keep, $gone);
            }
        }
    }

    /** Whether a vertex may be moved to its neighbour without moving a line: it lies on none, or on one that runs to it. */
    private function mayGo(int $gone, int $keep, float $least): bool
    {
        $lines = $this->lines[$gone] ?? [];
        if ($lines === []) {
            return true;
        }
        if (count($lines) !== 2 || ! isset($lines[$keep])) {
            return false;
        }
        // A bend in the line would be cut off.
        [$p, $q] = array_keys($lines);
        $u = [$this->x[$gone] - $this->x[$p], $this->y[$gone] - $this->y[$p], $this->z[$gone] - $this->z[$p]];
        $v = [$this->x[$q] - $this->x[$gone], $this->y[$q] - $this->y[$gone], $this->z[$q] - $this->z[$gone]];
        $lengths = sqrt(($u[0] ** 2 + $u[1] ** 2 + $u[2] ** 2) * ($v[0] ** 2 + $v[1] ** 2 + $v[2] ** 2));

        if ($u[0] * $v[0] + $u[1] * $v[1] + $u[2] * $v[2] > 0.9 * $lengths) {
            return true;
        }
        $across = self::doubleArea([$this->x[$p], $this->y[$p], $this->z[$p]], [$this->x[$gone], $this->y[$gone], $this->z[$gone]], [$this->x[$q], $this->y[$q], $this->z[$q]]);

        return $this->loosely && $across < self::RAGGED * $least * $this->length($p, $q) && ! $this->isHollow($gone);
    }

    /** Whether a vertex lies in a hollow of an open rim: straightened, it would grow into what lies beside it. */
    private function isHollow(int $v): bool
    {
        $angle = 0.0;
        $ends = [];
        foreach ($this->around[$v] as $f => $_) {
            $t = $this->faces[$f];
            $k = array_search($v, $t, true);
            [$a, $b] = [$t[((int) $k + 1) % 3], $t[((int) $k + 2) % 3]];
            $ends[$a] = ($ends[$a] ?? 0) + 1;
            $ends[$b] = ($ends[$b] ?? 0) + 1;
            $u = [$this->x[$a] - $this->x[$v], $this->y[$a] - $this->y[$v], $this->z[$a] - $this->z[$v]];
            $w = [$this->x[$b] - $this->x[$v], $this->y[$b] - $this->y[$v], $this->z[$b] - $this->z[$v]];
            $angle += atan2(self::doubleArea([0.0, 0.0, 0.0], $u, $w), $u[0] * $w[0] + $u[1] * $w[1] + $u[2] * $w[2]);
        }

        return $angle > M_PI && in_array(1, $ends, true);
    }

    /** Whether the edge's ends have no other neighbours in common than the corners across from it (link condition). */
    private function linked(int $a, int $b, int $beside): bool
    {
        return count(array_intersect_key($this->neighbours($a), $this->neighbours($b))) === $beside;
    }

    /** @return array<int, true> */
    private function neighbours(int $v): array
    {
        $found = [];
        foreach ($this->around[$v] as $f => $_) {
            foreach ($this->faces[$f] as $w) {
                $found[$w] = true;
            }
        }
        unset($found[$v]);

        return $found;
    }

    private function fits(int $gone, int $keep, float $most): bool
    {
        foreach ($this->around[$gone] as $f => $_) {
            $t = $this->faces[$f];
            if (in_array($keep, $t, true)) {
                continue;
            }
            $before = $this->normal($t);
            $moved = self::with($t, $gone, $keep);
            $after = $this->normal($moved);
            if ($before[0] * $after[0] + $before[1] * $after[1] + $before[2] * $after[2] < 0.5) {
                return false;
            }
            foreach ($moved as $w) {
                if ($w !== $keep && $this->length($w, $keep) > $most) {
                    return false;
                }
            }
        }

        return true;
    }

    private function collapseEdge(int $keep, int $gone): void
    {
        foreach (array_keys($this->around[$gone]) as $f) {
            $t = $this->faces[$f];
            $chart = $this->chart[$f];
            $this->drop($f);
            if (! in_array($keep, $t, true)) {
                $this->add($f, self::with($t, $gone, $keep), $chart);
            }
        }
        foreach ($this->lines[$gone] ?? [] as $v => $_) {
            unset($this->lines[$v][$gone]);
            if ($v !== $keep) {
                $this->lines[$v][$keep] = $this->lines[$keep][$v] = true;
            }
        }
        unset($this->lines[$gone], $this->around[$gone]);
    }

    /** Towards six edges a vertex, four on a line's side. */
    private function flip(): void
    {
        foreach ($this->edges() as [$a, $b]) {
            if (isset($this->lines[$a][$b])) {
                continue;
            }
            $beside = $this->beside($a, $b);
            if (count($beside) !== 2) {
                continue;
            }
            [$f, $g] = $beside;
            $c = self::across($this->faces[$f], $a, $b);
            $d = self::across($this->faces[$g], $a, $b);
            if ($c === $d || isset($this->neighbours($c)[$d])) {
                continue;
            }
            $off = 0;
            foreach ([[$a, -1], [$b, -1], [$c, 1], [$d, 1]] as [$v, $change]) {
                $ideal = ($this->lines[$v] ?? []) === [] ? 6 : 4;
                $now = count($this->neighbours($v)) - $ideal;
                $off += abs($now + $change) - abs($now);
            }
            if ($off >= 0) {
                continue;
            }
            // As (a, b, c) and (b, a, d), so the new ones are (c, d, b) and (d, c, a).
            $forward = self::follows($this->faces[$f], $a, $b);
            $new = $forward ? [[$c, $d, $b], [$d, $c, $a]] : [[$d, $c, $b], [$c, $d, $a]];
            $n = $this->normal($this->faces[$f]);
            $m = $this->normal($this->faces[$g]);
            $fine = true;
            foreach ($new as $t) {
                $k = $this->normal($t);
                $fine = $fine && $k[0] * $n[0] + $k[1] * $n[1] + $k[2] * $n[2] > 0.8 && $k[0] * $m[0] + $k[1] * $m[1] + $k[2] * $m[2] > 0.8;
            }
            if ($fine) {
                [$p, $q] = [$this->chart[$f], $this->chart[$g]];
                $this->drop($f);
                $this->drop($g);
                $this->add($f, $new[0], $p);
                $this->add($g, $new[1], $q);
            }
        }
    }

    /** @param array{int, int, int} $t */
    private static function across(array $t, int $a, int $b): int
    {
        return $t[0] !== $a && $t[0] !== $b ? $t[0] : ($t[1] !== $a && $t[1] !== $b ? $t[1] : $t[2]);
    }

    /** @param array{int, int, int} $t */
    private static function follows(array $t, int $a, int $b): bool
    {
        return ($t[0] === $a && $t[1] === $b) || ($t[1] === $a && $t[2] === $b) || ($t[2] === $a && $t[0] === $b);
    }

    private function relax(): void
    {
        foreach ($this->around as $v => $faces) {
            if ($faces === [] || ($this->lines[$v] ?? []) !== []) {
                continue;
            }
            $mx = $my = $mz = 0.0;
            $neighbours = $this->neighbours($v);
            foreach ($neighbours as $w => $_) {
                $mx += $this->x[$w];
                $my += $this->y[$w];
                $mz += $this->z[$w];
            }
            $s = 1.0 / count($neighbours);
            $old = [$this->x[$v], $this->y[$v], $this->z[$v]];
            $before = array_map(fn (int $f): array => $this->normal($this->faces[$f]), array_keys($faces));
            [, [$this->x[$v], $this->y[$v], $this->z[$v]]] = $this->grid->nearest($mx * $s, $my * $s, $mz * $s, $this->charts, $this->chart[array_key_first($faces)]);
            foreach (array_keys($faces) as $k => $f) {
                $n = $this->normal($this->faces[$f]);
                // A triangle that would turn over keeps its corner where it was.
                if ($n[0] * $before[$k][0] + $n[1] * $before[$k][1] + $n[2] * $before[$k][2] < 0.3) {
                    [$this->x[$v], $this->y[$v], $this->z[$v]] = $old;
                    break;
                }
            }
        }
    }

    /**
     * Texture coordinates at a vertex, as the chart has them there.
     *
     * @param list<int> $charts of each old triangle
     * @param array<int, float> $uvs the old surface's
     *
     * @return array{float, float}
     */
    private function uv(int $v, array $charts, int $chart, array $uvs): array
    {
        [$f, [$px, $py, $pz]] = $this->grid->nearest($this->x[$v], $this->y[$v], $this->z[$v], $charts, $chart);
        if ($f < 0) {
            return [0.0, 0.0];
        }
        $m = $this->old;
        [$a, $b, $c] = [$m->triangles[3 * $f], $m->triangles[3 * $f + 1], $m->triangles[3 * $f + 2]];
        $p = [$px, $py, $pz];
        [$ca, $cb, $cc] = [[$m->x[$a], $m->y[$a], $m->z[$a]], [$m->x[$b], $m->y[$b], $m->z[$b]], [$m->x[$c], $m->y[$c], $m->z[$c]]];
        $wa = self::doubleArea($p, $cb, $cc);
        $wb = self::doubleArea($ca, $p, $cc);
        $wc = self::doubleArea($ca, $cb, $p);
        $sum = $wa + $wb + $wc;
        if ($sum <= 0.0) {
            return [$uvs[6 * $f], $uvs[6 * $f + 1]];
        }

        return [
            ($wa * $uvs[6 * $f] + $wb * $uvs[6 * $f + 2] + $wc * $uvs[6 * $f + 4]) / $sum,
            ($wa * $uvs[6 * $f + 1] + $wb * $uvs[6 * $f + 3] + $wc * $uvs[6 * $f + 5]) / $sum,
        ];
    }

    /**
     * @param array{float, float, float} $p
     * @param array{float, float, float} $q
     * @param array{float, float, float} $r
     */
    private static function doubleArea(array $p, array $q, array $r): float
    {
        $u = [$q[0] - $p[0], $q[1] - $p[1], $q[2] - $p[2]];
        $w = [$r[0] - $p[0], $r[1] - $p[1], $r[2] - $p[2]];

        return sqrt(($u[1] * $w[2] - $u[2] * $w[1]) ** 2 + ($u[2] * $w[0] - $u[0] * $w[2]) ** 2 + ($u[0] * $w[1] - $u[1] * $w[0]) ** 2);
    }

    /**
     * On which side of seams the middle of a triangle lies.
     *
     * @param array{int, int, int} $corners
     * @param list<int> $sides of each old triangle
     */
    private function side(array $corners, int $chart, array $sides): int
    {
        [$a, $b, $c] = $corners;
        [$f] = $this->grid->nearest(($this->x[$a] + $this->x[$b] + $this->x[$c]) / 3.0, ($this->y[$a] + $this->y[$b] + $this->y[$c]) / 3.0, ($this->z[$a] + $this->z[$b] + $this->z[$c]) / 3.0, $this->charts, $chart);

        return $sides[$f] ?? $chart;
    }

    private function result(): TriangleMesh
    {
        $m = $this->old;
        $number = $x = $y = $z = $triangles = $uvs = $looks = [];
        $sides = $this->loosely && $m->uvs !== null ? Charts::of($m, true) : $this->charts;
        ksort($this->faces);
        foreach ($this->faces as $f => $corners) {
            $chart = $this->chart[$f];
            $side = $sides === $this->charts ? $chart : $this->side($corners, $chart, $sides);
            foreach ($corners as $v) {
                if (! isset($number[$v])) {
                    $number[$v] = count($x);
                    $x[] = $this->x[$v];
                    $y[] = $this->y[$v];
                    $z[] = $this->z[$v];
                }
                $triangles[] = $number[$v];
                if ($m->uvs !== null) {
                    array_push($uvs, ...$this->uv($v, $sides, $side, $m->uvs));
                }
            }
            $looks[] = $m->looks[$chart] ?? TriangleMesh::LOOK_OUTER;
        }

        return new TriangleMesh($x, $y, $z, $triangles, null, $m->uvs === null ? null : $uvs, $m->looks === null ? null : $looks);
    }
}
