<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Makes a mesh fit for breaking: doubled vertices become one, faces without area and doubled faces go, and so do tangles where
 * more than two faces share an edge and it cannot be told which belong together; faces are turned to look the same way
 * (outwards), and holes are filled. Says what it did. What is sound stays as it is; what cannot be mended stays too, and is
 * counted by {@see Topology}.
 */
final readonly class Repair
{
    /** Vertices on rims nearer than this are one, in parts of the mesh's size: far below what one sees, far above rounding of floats. */
    private const WELD = 1e-6;

    /** Tangles are taken out this often; what is left then stays. */
    private const ROUNDS = 12;

    /** How far a vertex of a rim that was parted moves towards its neighbours. */
    private const DRAWN_IN = 0.02;

    /** Parts of fewer faces are scraps of a tangle. */
    private const SCRAP = 4;

    private const PARTED = ['vertex parted where only corners or edges touched', 'vertices parted where only corners or edges touched'];

    /** A change of a solid's volume by less than this part is rounding. */
    private const SAME_VOLUME = 1e-9;

    /**
     * @param TriangleMesh $mesh the mended mesh
     * @param list<string> $done what was done, in words; empty if nothing was needed
     */
    private function __construct(public TriangleMesh $mesh, public array $done)
    {
    }

    public static function of(TriangleMesh $mesh): self
    {
        $before = Parting::whereCrowded($mesh);
        $volume = MassProperties::of($before)->volume;
        // A sheet that is there twice is closed, too.
        $solid = $volume !== 0.0 && Topology::of($before)->isWatertight();
        if ($solid && ! self::hasDoubledFaces($mesh)) {
            [$turned, $count] = self::faceOutwards($before);

            return new self($turned, self::told([[$before->vertexCount() - $mesh->vertexCount(), ...self::PARTED], [$count, 'face turned outwards', 'faces turned outwards']]));
        }
        $mended = self::mend($mesh);
        if ($solid) {
            if (! Topology::of($mended->mesh)->isWatertight()) {
                return new self($before, ['left as it was: mending would have opened it']);
            }
            $change = MassProperties::of($mended->mesh)->volume / $volume - 1.0;
            if (abs($change) > self::SAME_VOLUME) {
                return new self($mended->mesh, [...$mended->done, sprintf('volume %+.3g %%', 100.0 * $change)]);
            }
        }

        return $mended;
    }

    private static function mend(TriangleMesh $mesh): self
    {
        $vertices = $mesh->vertexCount();
        $faces = $mesh->triangleCount();
        $mesh = self::weld($mesh->joined());
        $welded = $vertices - $mesh->vertexCount();
        $mesh = self::dropUseless($mesh);
        $useless = $faces - $mesh->triangleCount();
        [$mesh, $tangled] = self::untangle($mesh);
        [$mesh, $parted] = self::part($mesh);
        [$mesh, $turned] = self::orient($mesh);
        [$mesh, $filled] = HoleFiller::fill($mesh);
        // Filling closes the surface, and only a closed one has an outside.
        [$mesh, $outwards] = self::faceOutwards($mesh);

        return new self($mesh, self::told([
            [$welded, 'doubled vertex joined', 'doubled vertices joined'],
            [$useless, 'empty or doubled face removed', 'empty or doubled faces removed'],
            [$tangled, 'face removed where more than two met in an edge', 'faces removed where more than two met in an edge'],
            [$parted, ...self::PARTED],
            [$turned, 'face turned around', 'faces turned around'],
            [$filled, 'hole filled', 'holes filled'],
            [$outwards, 'face turned outwards', 'faces turned outwards'],
        ]));
    }

    /**
     * @param list<array{int, string, string}> $counts how often, in words for once and for more
     *
     * @return list<string> of what happened at all
     */
    private static function told(array $counts): array
    {
        return array_values(array_map(
            static fn (array $count): string => number_format($count[0]) . ' ' . $count[$count[0] === 1 ? 1 : 2],
            array_filter($counts, static fn (array $count): bool => $count[0] > 0),
        ));
    }

    /** Vertices of rims that are nearly in one place become one; what is closed already stays. */
    private static function weld(TriangleMesh $mesh): TriangleMesh
    {
        $limit = self::WELD * max($mesh->size(), 1e-300);
        $cell = 2.0 * $limit;
        $topology = Topology::of($mesh);
        $rim = array_flip([...$topology->openEdges, ...$topology->crowdedEdges]);
        ksort($rim);
        $grid = $into = [];
        foreach (array_keys($rim) as $v) {
            [$px, $py, $pz] = [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]];
            $i = (int) floor($px / $cell);
            $j = (int) floor($py / $cell);
            $k = (int) floor($pz / $cell);
            for ($near = 0; $near < 27 && ! isset($into[$v]); $near++) {
                foreach ($grid[($i + $near % 3 - 1) . ',' . ($j + intdiv($near, 3) % 3 - 1) . ',' . ($k + intdiv($near, 9) - 1)] ?? [] as $w) {
                    if (($mesh->x[$w] - $px) ** 2 + ($mesh->y[$w] - $py) ** 2 + ($mesh->z[$w] - $pz) ** 2 <= $limit * $limit) {
                        $into[$v] = $w;
                        break;
                    }
                }
            }
            if (! isset($into[$v])) {
                $grid["{$i},{$j},{$k}"][] = $v;
            }
        }
        if ($into === []) {
            return $mesh;
        }
        [$x, $y, $z] = [$mesh->x, $mesh->y, $mesh->z];
        foreach ($into as $v => $w) {
            [$x[$v], $y[$v], $z[$v]] = [$x[$w], $y[$w], $z[$w]];
        }

        return (new TriangleMesh($x, $y, $z, $mesh->triangles, $mesh->normals, $mesh->uvs, $mesh->looks))->joined();
    }

    private static function hasDoubledFaces(TriangleMesh $mesh): bool
    {
        $places = $mesh->places();
        $seen = [];
        for ($k = 0, $end = count($mesh->triangles); $k < $end; $k += 3) {
            $key = self::key([$places[$mesh->triangles[$k]], $places[$mesh->triangles[$k + 1]], $places[$mesh->triangles[$k + 2]]]);
            if (isset($seen[$key])) {
                return true;
            }
            $seen[$key] = true;
        }

        return false;
    }

    /** @param array{int, int, int} $corners */
    private static function key(array $corners): string
    {
        sort($corners);

        return implode(',', $corners);
    }

    /**
     * Without faces that have lost a corner, and of doubled ones only one; none where they lie between two solids, which
     * thereby become one.
     */
    private static function dropUseless(TriangleMesh $mesh): TriangleMesh
    {
        $t = $mesh->triangles;
        $same = [];
        for ($f = 0, $end = $mesh->triangleCount(); $f < $end; $f++) {
            $corners = [$t[3 * $f], $t[3 * $f + 1], $t[3 * $f + 2]];
            if (count(array_unique($corners)) === 3) {
                $same[self::key($corners)][] = $f;
            }
        }
        $inner = self::between($mesh, array_filter($same, static fn (array $faces): bool => count($faces) === 2));
        $keep = array_column(array_diff_key($same, $inner), 0);
        sort($keep);

        return count($keep) === $mesh->triangleCount() ? $mesh : $mesh->picked($keep);
    }

    /**
     * Those faces that are there twice and part two solids: each patch of them ends everywhere at two other faces.
     *
     * @param array<string, array<int, int>> $doubled the two, by their corners
     *
     * @return array<string, true>
     */
    private static function between(TriangleMesh $mesh, array $doubled): array
    {
        if ($doubled === []) {
            return [];
        }
        $isDoubled = [];
        foreach ($doubled as [$f, $g]) {
            $isDoubled[$f] = $isDoubled[$g] = true;
        }
        /** @var array<string, int> $others faces at each edge that are there once */
        $others = [];
        /** @var array<string, list<string>> $patches doubled faces at each edge */
        $patches = [];
        foreach ($mesh->triangles as $k => $a) {
            $edge = self::key([$a, $mesh->triangles[$k % 3 === 2 ? $k - 2 : $k + 1], -1]);
            if (! isset($isDoubled[intdiv($k, 3)])) {
                $others[$edge] = ($others[$edge] ?? 0) + 1;
            }
        }
        foreach ($doubled as $key => [$f]) {
            foreach ([0, 1, 2] as $e) {
                $patches[self::key([$mesh->triangles[3 * $f + $e], $mesh->triangles[3 * $f + ($e + 1) % 3], -1])][] = $key;
            }
        }
        $beside = $free = $ends = [];
        foreach ($patches as $edge => $keys) {
            if (count($keys) > 1) {
                foreach ($keys as $key) {
                    $beside[$key] = [...$beside[$key] ?? [], ...$keys];
                }
            } elseif (($others[$edge] ?? 0) > 1) {
                $ends[] = $keys[0];
            } else {
                $free[] = $keys[0];
            }
        }

        // What ends freely somewhere is a sheet that is there twice, and what ends nowhere a part.
        return array_diff_key(self::reached($ends, $beside), self::reached($free, $beside));
    }

    /**
     * @param list<string> $from
     * @param array<string, list<string>> $beside
     *
     * @return array<string, true> those, and all that hangs on them
     */
    private static function reached(array $from, array $beside): array
    {
        $reached = [];
        while ($from !== []) {
            $key = array_pop($from);
            if (! isset($reached[$key])) {
                $reached[$key] = true;
                array_push($from, ...$beside[$key] ?? []);
            }
        }

        return $reached;
    }

    /**
     * Where more than two faces share an edge and nobody can tell which of them belong together they go, and the hole is
     * filled later. Scraps of a few faces that are left over go as well.
     *
     * @return array{TriangleMesh, int}
     */
    private static function untangle(TriangleMesh $mesh): array
    {
        $before = $mesh->triangleCount();
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $gone = Parting::tangled($mesh);
            if ($gone === []) {
                break;
            }
            $mesh = $mesh->picked(array_values(array_diff(range(0, $mesh->triangleCount() - 1), $gone)));
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
     * Parted where only corners or edges touch. New vertices on rims are drawn a little into their fans, so that no filled hole
     * has two corners in one place.
     *
     * @return array{TriangleMesh, int}
     */
    private static function part(TriangleMesh $mesh): array
    {
        [$mesh, $new] = Parting::of($mesh);
        $move = array_intersect_key(array_flip($new), array_flip(Topology::of($mesh)->openEdges));
        if ($move === []) {
            return [$mesh, count($new)];
        }
        $t = $mesh->triangles;
        [$x, $y, $z] = [$mesh->x, $mesh->y, $mesh->z];
        $sum = [];
        foreach ($t as $k => $v) {
            foreach (isset($move[$v]) ? [1, 2] : [] as $step) {
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

        return [new TriangleMesh($x, $y, $z, $t, $mesh->normals, $mesh->uvs, $mesh->looks), count($new)];
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
