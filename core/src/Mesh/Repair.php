<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Makes a mesh fit for breaking: doubled vertices become one, faces without area and doubled faces go, and so do tangles where
 * more than two faces share an edge; faces are turned to look the same way (outwards), and holes are filled. Says what it did. What cannot be mended stays, and is counted by
 * {@see Topology}.
 */
final readonly class Repair
{
    /** Vertices nearer than this are one, in parts of the mesh's size: far below what one sees, far above rounding of floats. */
    private const WELD = 1e-6;

    /** Tangles are taken out this often; what is left then stays. */
    private const ROUNDS = 4;

    /** How far a vertex that was parted moves towards its neighbours. */
    private const DRAWN_IN = 0.02;

    /** Parts of fewer faces are scraps of a tangle. */
    private const SCRAP = 4;

    /**
     * @param TriangleMesh $mesh the mended mesh
     * @param list<string> $done what was done, in words; empty if nothing was needed
     */
    private function __construct(public TriangleMesh $mesh, public array $done)
    {
    }

    public static function of(TriangleMesh $mesh): self
    {
        $done = [];
        [$mesh, $welded] = self::weld($mesh);
        if ($welded > 0) {
            $done[] = self::count($welded, 'doubled vertex joined', 'doubled vertices joined');
        }
        [$mesh, $dropped] = self::dropUseless($mesh);
        if ($dropped > 0) {
            $done[] = self::count($dropped, 'empty or doubled face removed', 'empty or doubled faces removed');
        }
        [$mesh, $dropped] = self::untangle($mesh);
        if ($dropped > 0) {
            $done[] = self::count($dropped, 'face removed where more than two met in an edge', 'faces removed where more than two met in an edge');
        }
        [$mesh, $split] = self::splitFans($mesh);
        if ($split > 0) {
            $done[] = self::count($split, 'vertex parted where only corners touched', 'vertices parted where only corners touched');
        }
        [$mesh, $turned] = self::orient($mesh);
        if ($turned > 0) {
            $done[] = self::count($turned, 'face turned around', 'faces turned around');
        }
        [$mesh, $filled] = self::fill($mesh);
        if ($filled > 0) {
            $done[] = self::count($filled, 'hole filled', 'holes filled');
        }
        // Filling closes the surface, and only a closed one has an outside.
        [$mesh, $turned] = self::faceOutwards($mesh);
        if ($turned > 0) {
            $done[] = self::count($turned, 'face turned outwards', 'faces turned outwards');
        }

        return new self($mesh, $done);
    }

    private static function count(int $number, string $one, string $many): string
    {
        return number_format($number) . ' ' . ($number === 1 ? $one : $many);
    }

    /** @return array{TriangleMesh, int} */
    private static function weld(TriangleMesh $mesh): array
    {
        $limit = self::WELD * max($mesh->size(), 1e-300);
        $cell = 2.0 * $limit;
        $grid = [];
        $number = $x = $y = $z = [];
        foreach ($mesh->x as $v => $px) {
            $py = $mesh->y[$v];
            $pz = $mesh->z[$v];
            $i = (int) floor($px / $cell);
            $j = (int) floor($py / $cell);
            $k = (int) floor($pz / $cell);
            $found = -1;
            for ($di = -1; $di <= 1 && $found < 0; $di++) {
                for ($dj = -1; $dj <= 1 && $found < 0; $dj++) {
                    for ($dk = -1; $dk <= 1 && $found < 0; $dk++) {
                        foreach ($grid[($i + $di) . ',' . ($j + $dj) . ',' . ($k + $dk)] ?? [] as $w) {
                            if (($x[$w] - $px) ** 2 + ($y[$w] - $py) ** 2 + ($z[$w] - $pz) ** 2 <= $limit * $limit) {
                                $found = $w;
                                break;
                            }
                        }
                    }
                }
            }
            if ($found < 0) {
                $found = count($x);
                $x[] = $px;
                $y[] = $py;
                $z[] = $pz;
                $grid["{$i},{$j},{$k}"][] = $found;
            }
            $number[$v] = $found;
        }
        $welded = count($mesh->x) - count($x);
        if ($welded === 0) {
            return [$mesh, 0];
        }

        return [new TriangleMesh($x, $y, $z, array_map(static fn (int $v): int => $number[$v], $mesh->triangles), $mesh->normals, $mesh->uvs, $mesh->looks), $welded];
    }

    /** @return array{TriangleMesh, int} */
    private static function dropUseless(TriangleMesh $mesh): array
    {
        $seen = $keep = [];
        $t = $mesh->triangles;
        for ($f = 0, $end = $mesh->triangleCount(); $f < $end; $f++) {
            $corners = [$t[3 * $f], $t[3 * $f + 1], $t[3 * $f + 2]];
            if ($corners[0] === $corners[1] || $corners[1] === $corners[2] || $corners[2] === $corners[0]) {
                continue;
            }
            sort($corners);
            $key = implode(',', $corners);
            if (! isset($seen[$key])) {
                $seen[$key] = true;
                $keep[] = $f;
            }
        }

        $dropped = $mesh->triangleCount() - count($keep);

        return [$dropped === 0 ? $mesh : $mesh->picked($keep), $dropped];
    }

    /**
     * Where more than two faces share an edge nobody can tell which of them belong together: they go, and the hole is filled
     * later. Scraps of a few faces that are left over go as well.
     *
     * @return array{TriangleMesh, int}
     */
    private static function untangle(TriangleMesh $mesh): array
    {
        $before = $mesh->triangleCount();
        for ($round = 0; $round < self::ROUNDS; $round++) {
            /** @var array<string, list<int>> $users */
            $users = [];
            foreach ($mesh->triangles as $k => $a) {
                $b = $mesh->triangles[$k % 3 === 2 ? $k - 2 : $k + 1];
                $users[$a < $b ? "{$a},{$b}" : "{$b},{$a}"][] = intdiv($k, 3);
            }
            /** @var array<int, int> $gone */
            $gone = [];
            foreach ($users as $faces) {
                $gone += count($faces) > 2 ? array_flip($faces) : [];
            }
            if ($gone === []) {
                break;
            }
            $mesh = $mesh->picked(array_values(array_diff(range(0, $mesh->triangleCount() - 1), array_keys($gone))));
            $keep = [];
            foreach (Topology::parts($mesh) as $part) {
                if (count($part) >= self::SCRAP) {
                    array_push($keep, ...$part);
                }
            }
            sort($keep);
            $mesh = $mesh->picked($keep);
        }

        return [$mesh, $before - $mesh->triangleCount()];
    }

    /**
     * A vertex in which faces meet that hang together over no edge becomes several, one for each fan of faces.
     *
     * @return array{TriangleMesh, int}
     */
    private static function splitFans(TriangleMesh $mesh): array
    {
        $t = $mesh->triangles;
        $parent = array_keys($t);
        $root = static function (int $k) use (&$parent): int {
            while ($parent[$k] !== $k) {
                $k = $parent[$k] = $parent[$parent[$k]];
            }

            return $k;
        };
        // Corners of faces that share an edge belong to one fan at each of its ends.
        $edges = [];
        foreach ($t as $k => $a) {
            $n = $k % 3 === 2 ? $k - 2 : $k + 1;
            $b = $t[$n];
            [$low, $high, $p, $q] = $a < $b ? [$a, $b, $k, $n] : [$b, $a, $n, $k];
            if (isset($edges[$low][$high])) {
                [$r, $s] = $edges[$low][$high];
                $parent[$root($p)] = $root($r);
                $parent[$root($q)] = $root($s);
            } else {
                $edges[$low][$high] = [$p, $q];
            }
        }
        $name = [];
        [$x, $y, $z] = [$mesh->x, $mesh->y, $mesh->z];
        $split = 0;
        $seen = [];
        foreach ($t as $k => $v) {
            $fan = $root($k);
            if (! isset($name[$fan])) {
                $name[$fan] = $v;
                if (isset($seen[$v])) {
                    $name[$fan] = count($x);
                    $x[] = $x[$v];
                    $y[] = $y[$v];
                    $z[] = $z[$v];
                    $split++;
                }
                $seen[$v] = true;
            }
            $t[$k] = $name[$fan];
        }

        // The new ones are drawn a little into their fans, so that no filled hole has two corners in one place.
        $sum = [];
        foreach ($t as $k => $v) {
            foreach ($v >= $mesh->vertexCount() ? [1, 2] : [] as $step) {
                $w = $t[3 * intdiv($k, 3) + ($k + $step) % 3];
                $sum[$v] ??= [0.0, 0.0, 0.0, 0];
                $sum[$v] = [$sum[$v][0] + $x[$w], $sum[$v][1] + $y[$w], $sum[$v][2] + $z[$w], $sum[$v][3] + 1];
            }
        }
        foreach ($sum as $v => [$sx, $sy, $sz, $n]) {
            $x[$v] += self::DRAWN_IN * ($sx / $n - $x[$v]);
            $y[$v] += self::DRAWN_IN * ($sy / $n - $y[$v]);
            $z[$v] += self::DRAWN_IN * ($sz / $n - $z[$v]);
        }

        return $split === 0 ? [$mesh, 0] : [new TriangleMesh($x, $y, $z, $t, $mesh->normals, $mesh->uvs, $mesh->looks), $split];
    }

    /**
     * Neighbours look the same way: from a first face of each part over all edges that two faces share.
     *
     * @return array{TriangleMesh, int}
     */
    private static function orient(TriangleMesh $mesh): array
    {
        $byEdge = [];
        $t = $mesh->triangles;
        $faces = $mesh->triangleCount();
        for ($k = 0; $k < 3 * $faces; $k++) {
            $a = $t[$k];
            $b = $t[$k % 3 === 2 ? $k - 2 : $k + 1];
            $byEdge[$a < $b ? "{$a},{$b}" : "{$b},{$a}"][] = $k;
        }
        /** @var array<int, bool> $turn */
        $turn = [];
        $turned = 0;
        for ($start = 0; $start < $faces; $start++) {
            if (isset($turn[$start])) {
                continue;
            }
            $turn[$start] = false;
            $queue = [$start];
            $part = [$start];
            while ($queue !== []) {
                $f = array_pop($queue);
                for ($k = 3 * $f; $k < 3 * $f + 3; $k++) {
                    $a = $t[$k];
                    $b = $t[$k % 3 === 2 ? $k - 2 : $k + 1];
                    $users = $byEdge[$a < $b ? "{$a},{$b}" : "{$b},{$a}"];
                    if (count($users) !== 2) {
                        continue;
                    }
                    $other = $users[0] === $k ? $users[1] : $users[0];
                    $g = intdiv($other, 3);
                    if (! isset($turn[$g])) {
                        // The same direction along the edge means that one of the two is turned.
                        $turn[$g] = ($t[$other] === $a) !== $turn[$f];
                        $queue[] = $g;
                        $part[] = $g;
                    }
                }
            }
            // The fewest are turned.
            $count = count(array_filter($part, static fn (int $f): bool => $turn[$f]));
            if (2 * $count > count($part)) {
                foreach ($part as $f) {
                    $turn[$f] = ! $turn[$f];
                }
                $count = count($part) - $count;
            }
            $turned += $count;
        }

        return $turned === 0 ? [$mesh, 0] : [$mesh->turned(array_keys(array_filter($turn))), $turned];
    }

    /** @return array{TriangleMesh, int} */
    private static function fill(TriangleMesh $mesh): array
    {
        $t = $mesh->triangles;
        $next = [];
        $used = [];
        $open = Topology::of($mesh)->openEdges;
        for ($k = 0, $end = count($open); $k < $end; $k += 2) {
            // A hole's rim runs against the edges of the faces around it.
            [$a, $b] = [$open[$k], $open[$k + 1]];
            if (isset($next[$b])) {
                // Two holes meet in a vertex: which way to go cannot be told.
                $used[$b] = true;
            }
            $next[$b] = $a;
        }
        foreach (array_keys($used) as $v) {
            unset($next[$v]);
        }
        $edges = [];
        foreach ($t as $k => $a) {
            $edges[self::edge($a, $t[$k % 3 === 2 ? $k - 2 : $k + 1])] = true;
        }
        [$x, $y, $z] = [$mesh->x, $mesh->y, $mesh->z];
        $filled = 0;
        $more = $direction = [];
        while (($start = array_key_first($next)) !== null) {
            $loop = [];
            $at = $start;
            while (isset($next[$at])) {
                $loop[] = $at;
                $to = $next[$at];
                unset($next[$at]);
                $at = $to;
            }
            if ($at !== $start || count($loop) < 3) {
                continue;
            }
            [$triangles, $normal] = self::cap($mesh, $loop);
            if (self::meets($triangles, $loop, $edges)) {
                // Across the hole there is an edge already: all go to a new vertex in the middle instead.
                $middle = count($x);
                foreach ([&$x, &$y, &$z] as &$axis) {
                    $axis[] = array_sum(array_map(static fn (int $v): float => $axis[$v], $loop)) / count($loop);
                }
                unset($axis);
                $triangles = [];
                foreach ($loop as $k => $a) {
                    array_push($triangles, $a, $loop[$k + 1] ?? $loop[0], $middle);
                }
            }
            foreach ($triangles as $k => $a) {
                $edges[self::edge($a, $triangles[$k % 3 === 2 ? $k - 2 : $k + 1])] = true;
            }
            array_push($more, ...$triangles);
            for ($k = 0, $end = count($triangles); $k < $end; $k++) {
                array_push($direction, ...$normal);
            }
            $filled++;
        }
        if ($filled === 0) {
            return [$mesh, 0];
        }

        return [new TriangleMesh(
            $x,
            $y,
            $z,
            [...$t, ...$more],
            $mesh->normals === null ? null : [...$mesh->normals, ...$direction],
            $mesh->uvs === null ? null : [...$mesh->uvs, ...array_fill(0, 2 * count($more), 0.0)],
            $mesh->looks === null ? null : [...$mesh->looks, ...array_fill(0, intdiv(count($more), 3), TriangleMesh::LOOK_OUTER)],
        ), $filled];
    }

    private static function edge(int $a, int $b): string
    {
        return $a < $b ? "{$a},{$b}" : "{$b},{$a}";
    }

    /**
     * Whether an edge across a hole is one that the mesh has already.
     *
     * @param list<int> $triangles
     * @param list<int> $loop
     * @param array<string, true> $edges
     */
    private static function meets(array $triangles, array $loop, array $edges): bool
    {
        $rim = [];
        foreach ($loop as $k => $a) {
            $rim[self::edge($a, $loop[$k + 1] ?? $loop[0])] = true;
        }
        foreach ($triangles as $k => $a) {
            $edge = self::edge($a, $triangles[$k % 3 === 2 ? $k - 2 : $k + 1]);
            if (isset($edges[$edge]) && ! isset($rim[$edge])) {
                return true;
            }
        }

        return false;
    }

    /**
     * A rim closed by triangles, seen along its mean normal (Newell's method).
     *
     * @param list<int> $loop
     *
     * @return array{list<int>, array{float, float, float}}
     */
    private static function cap(TriangleMesh $mesh, array $loop): array
    {
        $nx = $ny = $nz = 0.0;
        foreach ($loop as $k => $a) {
            $b = $loop[$k + 1 === count($loop) ? 0 : $k + 1];
            $nx += ($mesh->y[$a] - $mesh->y[$b]) * ($mesh->z[$a] + $mesh->z[$b]);
            $ny += ($mesh->z[$a] - $mesh->z[$b]) * ($mesh->x[$a] + $mesh->x[$b]);
            $nz += ($mesh->x[$a] - $mesh->x[$b]) * ($mesh->y[$a] + $mesh->y[$b]);
        }
        $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        $normal = $length > 0.0 ? [$nx / $length, $ny / $length, $nz / $length] : [0.0, 1.0, 0.0];
        [$first, $second, $sign] = match (true) {
            abs($nx) >= abs($ny) && abs($nx) >= abs($nz) => [$mesh->y, $mesh->z, $nx],
            abs($ny) >= abs($nz) => [$mesh->z, $mesh->x, $ny],
            default => [$mesh->x, $mesh->y, $nz],
        };
        if ($sign < 0.0) {
            [$first, $second] = [$second, $first];
        }
        $u = $v = [];
        foreach ($loop as $p) {
            $u[$p] = $first[$p];
            $v[$p] = $second[$p];
        }

        return [PolygonTriangulator::triangulate([$loop], $u, $v), $normal];
    }

    /**
     * Closed parts look outwards, or inwards where they are hollows inside another part.
     *
     * @return array{TriangleMesh, int}
     */
    private static function faceOutwards(TriangleMesh $mesh): array
    {
        $parts = Topology::parts($mesh);
        $meshes = array_map(static fn (array $faces): TriangleMesh => $mesh->picked($faces), $parts);
        $turn = [];
        foreach ($parts as $k => $faces) {
            if (! Topology::of($meshes[$k])->isWatertight()) {
                continue;
            }
            $depth = 0;
            $v = $mesh->triangles[3 * $faces[0]];
            foreach ($meshes as $j => $other) {
                if ($j !== $k && abs(WindingNumber::at($other, $mesh->x[$v], $mesh->y[$v], $mesh->z[$v])) > 0.5) {
                    $depth++;
                }
            }
            if ((MassProperties::of($meshes[$k])->volume > 0.0) !== ($depth % 2 === 0)) {
                array_push($turn, ...$faces);
            }
        }

        return $turn === [] ? [$mesh, 0] : [$mesh->turned($turn), count($turn)];
    }
}
