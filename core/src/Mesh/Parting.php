<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * A solid that touches itself along an edge or in a corner, parted there: the vertices become several in one place, one for
 * each fan of faces that hang together, so that every edge has two faces. About an edge, two faces belong together that have
 * solid between them; so nothing moves, and a solid keeps its volume.
 */
final class Parting
{
    /**
     * Where more than two faces share an edge; a mesh without such edges stays as it is, corners that touch too.
     */
    public static function whereCrowded(TriangleMesh $mesh): TriangleMesh
    {
        return self::isCrowded($mesh) ? self::of($mesh)[0] : $mesh;
    }

    /** Whether more than two faces share some edge. */
    public static function isCrowded(TriangleMesh $mesh): bool
    {
        $t = $mesh->triangles;
        $seen = [];
        for ($k = 0, $end = count($t); $k < $end; $k += 3) {
            $a = $t[$k];
            $b = $t[$k + 1];
            $c = $t[$k + 2];
            // Of three faces on an edge two run along it the same way.
            if (isset($seen[$a << 32 | $b]) || isset($seen[$b << 32 | $c]) || isset($seen[$c << 32 | $a])) {
                return true;
            }
            $seen[$a << 32 | $b] = $seen[$b << 32 | $c] = $seen[$c << 32 | $a] = true;
        }

        return false;
    }

    /**
     * At every edge and corner. Edges about which it cannot be told what belongs together stay as they are.
     *
     * @return array{TriangleMesh, list<int>} the mesh, and those of its vertices that are new where fans were parted
     */
    public static function of(TriangleMesh $mesh): array
    {
        [$mesh, $new] = self::atFans($mesh);
        while (($divided = self::divided($mesh)) !== null) {
            $mesh = $divided;
        }

        return [$mesh, $new];
    }

    /** @return array{TriangleMesh, list<int>} */
    private static function atFans(TriangleMesh $mesh): array
    {
        $t = $mesh->triangles;
        $parent = array_keys($t);
        $root = static function (int $k) use (&$parent): int {
            while ($parent[$k] !== $k) {
                $k = $parent[$k] = $parent[$parent[$k]];
            }

            return $k;
        };
        foreach (self::users($mesh) as $users) {
            foreach (count($users) > 2 ? self::wedges($mesh, $users) ?? self::chain($users) : self::chain($users) as [$k, $l]) {
                // Corners of two faces that share an edge belong to one fan at each of its ends.
                [$p, $q] = [self::next($k), self::next($l)];
                [$l, $q] = $t[$k] === $t[$l] ? [$l, $q] : [$q, $l];
                $parent[$root($k)] = $root($l);
                $parent[$root($p)] = $root($q);
            }
        }
        [$x, $y, $z] = [$mesh->x, $mesh->y, $mesh->z];
        $name = $seen = $new = [];
        foreach ($t as $k => $v) {
            $fan = $root($k);
            if (! isset($name[$fan])) {
                $name[$fan] = $v;
                if (isset($seen[$v])) {
                    $name[$fan] = $new[] = count($x);
                    [$x[], $y[], $z[]] = [$x[$v], $y[$v], $z[$v]];
                }
                $seen[$v] = true;
            }
            $t[$k] = $name[$fan];
        }

        return $new === [] ? [$mesh, []] : [new TriangleMesh($x, $y, $z, $t, $mesh->normals, $mesh->uvs, $mesh->looks), $new];
    }

    /**
     * Where the surface touches itself along an edge between corners about which it hangs together: each two faces that
     * belong together get a vertex of their own in the middle of the edge. Null if there is no such edge.
     */
    private static function divided(TriangleMesh $mesh): ?TriangleMesh
    {
        $middles = [];
        [$x, $y, $z] = [$mesh->x, $mesh->y, $mesh->z];
        foreach (self::users($mesh) as $users) {
            $faces = array_map(static fn (int $k): int => intdiv($k, 3), $users);
            $pairs = count($users) > 2 ? self::wedges($mesh, $users) : null;
            // One edge of a face at a time.
            if ($pairs === null || array_intersect_key($middles, array_flip($faces)) !== []) {
                continue;
            }
            foreach ($pairs as [$k, $l]) {
                [$a, $b] = [$mesh->triangles[$k], $mesh->triangles[self::next($k)]];
                $middles[intdiv($k, 3)] = [$k % 3, count($x)];
                $middles[intdiv($l, 3)] = [$l % 3, count($x)];
                [$x[], $y[], $z[]] = [0.5 * ($x[$a] + $x[$b]), 0.5 * ($y[$a] + $y[$b]), 0.5 * ($z[$a] + $z[$b])];
            }
        }

        return $middles === [] ? null : self::withMiddles(new TriangleMesh($x, $y, $z, $mesh->triangles, $mesh->normals, $mesh->uvs, $mesh->looks), $middles);
    }

    /**
     * @param array<int, array{int, int}> $middles by face: the corner at which the edge begins, and the vertex in its middle
     */
    private static function withMiddles(TriangleMesh $mesh, array $middles): TriangleMesh
    {
        [$t, $normals, $uvs, $looks] = [$mesh->triangles, $mesh->normals, $mesh->uvs, $mesh->looks];
        foreach ($middles as $f => [$c, $middle]) {
            $corners = [3 * $f + $c, 3 * $f + ($c + 1) % 3, 3 * $f + ($c + 2) % 3];
            array_push($t, $middle, $t[$corners[1]], $t[$corners[2]]);
            $t[$corners[1]] = $middle;
            if ($normals !== null) {
                $normals = self::halved($normals, 3, $corners);
            }
            if ($uvs !== null) {
                $uvs = self::halved($uvs, 2, $corners);
            }
            if ($looks !== null) {
                $looks[] = $looks[$f];
            }
        }

        return new TriangleMesh($mesh->x, $mesh->y, $mesh->z, $t, $normals, $uvs, $looks);
    }

    /**
     * What corners have, when the edge between the first two of a face gets a middle: that of the new face comes last.
     *
     * @param array<int, float> $values
     * @param array{int, int, int} $corners
     *
     * @return array<int, float>
     */
    private static function halved(array $values, int $each, array $corners): array
    {
        $own = array_map(static fn (int $corner): array => array_slice($values, $each * $corner, $each), $corners);
        $middle = array_map(static fn (float $a, float $b): float => 0.5 * ($a + $b), $own[0], $own[1]);
        array_push($values, ...$middle, ...$own[1], ...$own[2]);
        foreach ($middle as $axis => $value) {
            $values[$each * $corners[1] + $axis] = $value;
        }

        return $values;
    }

    /**
     * Faces that meet in an edge with more than two of which it cannot be told which belong together.
     *
     * @return list<int>
     */
    public static function tangled(TriangleMesh $mesh): array
    {
        $faces = [];
        foreach (self::users($mesh) as $users) {
            if (count($users) > 2 && self::wedges($mesh, $users) === null) {
                foreach ($users as $k) {
                    $faces[intdiv($k, 3)] = true;
                }
            }
        }
        ksort($faces);

        return array_keys($faces);
    }

    /** @return array<string, list<int>> by edge: the corners at which it begins */
    private static function users(TriangleMesh $mesh): array
    {
        $users = [];
        foreach ($mesh->triangles as $k => $a) {
            $b = $mesh->triangles[self::next($k)];
            $users[$a < $b ? "{$a},{$b}" : "{$b},{$a}"][] = $k;
        }

        return $users;
    }

    private static function next(int $corner): int
    {
        return $corner % 3 === 2 ? $corner - 2 : $corner + 1;
    }

    /**
     * All as one.
     *
     * @param list<int> $users
     *
     * @return list<array{int, int}>
     */
    private static function chain(array $users): array
    {
        return array_map(static fn (int $a, int $b): array => [$a, $b], array_slice($users, 0, -1), array_slice($users, 1));
    }

    /**
     * The faces about an edge in pairs with solid between them: going round it, one leaves the solid through a face that runs
     * along the edge, and has come into it through the last one that runs against it.
     *
     * @param list<int> $users corners at which the edge begins
     *
     * @return list<array{int, int}>|null null if they do not come in turn, or two lie in one direction
     */
    private static function wedges(TriangleMesh $mesh, array $users): ?array
    {
        $t = $mesh->triangles;
        [$a, $b] = [$t[$users[0]], $t[self::next($users[0])]];
        [$dx, $dy, $dz] = [$mesh->x[$b] - $mesh->x[$a], $mesh->y[$b] - $mesh->y[$a], $mesh->z[$b] - $mesh->z[$a]];
        $d = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
        /** @var array{float, float, float}|null $u the first face's direction across the edge */
        $u = null;
        $angles = [];
        foreach ($users as $k) {
            $c = $t[3 * intdiv($k, 3) + ($k + 2) % 3];
            [$cx, $cy, $cz] = [$mesh->x[$c] - $mesh->x[$a], $mesh->y[$c] - $mesh->y[$a], $mesh->z[$c] - $mesh->z[$a]];
            $s = ($cx * $dx + $cy * $dy + $cz * $dz) / max(1e-300, $d * $d);
            [$cx, $cy, $cz] = [$cx - $s * $dx, $cy - $s * $dy, $cz - $s * $dz];
            $u ??= [$cx, $cy, $cz];
            $across = ($dy * $u[2] - $dz * $u[1]) * $cx + ($dz * $u[0] - $dx * $u[2]) * $cy + ($dx * $u[1] - $dy * $u[0]) * $cz;
            $angles[] = atan2($across / max(1e-300, $d), $u[0] * $cx + $u[1] * $cy + $u[2] * $cz);
        }
        asort($angles);
        $order = array_keys($angles);
        $pairs = [];
        foreach ($order as $place => $i) {
            $j = $order[$place + 1] ?? $order[0];
            $leaves = $t[$users[$j]] === $a;
            if ($leaves === ($t[$users[$i]] === $a) || $angles[$i] === $angles[$j]) {
                return null;
            }
            if ($leaves) {
                $pairs[] = [$users[$i], $users[$j]];
            }
        }

        return $pairs;
    }
}
