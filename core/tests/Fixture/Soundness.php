<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

use YardBreak\Core\Break\Broken;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

/** What must hold of every break. */
trait Soundness
{
    /** Closed, oriented, in one part, no face without area, volumes add up, and neighbours' inner faces mirror each other. */
    private static function assertSound(Broken $broken, TriangleMesh $mesh, string $message): void
    {
        $sum = $broken->discarded;
        $faces = [];
        $doubled = 0;
        $flat = 0;
        foreach ($broken->pieces as $k => $piece) {
            $m = $piece->mesh;
            $topology = Topology::of($m);
            self::assertTrue($topology->isWatertight(), "{$message}, piece {$k}: {$topology->openEdgeCount()} open, {$topology->crowdedEdgeCount()} crowded edges");
            self::assertSame(1, $topology->parts, "{$message}, piece {$k}");
            self::assertGreaterThan(0.0, $piece->mass->volume, "{$message}, piece {$k}");
            $sum += $piece->mass->volume;
            $place = [];
            foreach ($m->x as $v => $x) {
                $place[$v] = pack('e3', $x, $m->y[$v], $m->z[$v]);
            }
            foreach (array_chunk($m->triangles, 3) as $f => $corners) {
                [$a, $b, $c] = [$place[$corners[0]], $place[$corners[1]], $place[$corners[2]]];
                $doubled += $a === $b || $b === $c || $c === $a ? 1 : 0;
                $flat += self::area($m, $corners) === 0.0 ? 1 : 0;
                if (($m->looks[$f] ?? 0) === TriangleMesh::LOOK_INNER) {
                    while ($a > $b || $a > $c) {
                        [$a, $b, $c] = [$b, $c, $a];
                    }
                    $faces["{$a}{$b}{$c}"] = "{$a}{$c}{$b}";
                }
            }
        }
        self::assertSame(0, $doubled, "{$message}: faces with a doubled corner");
        self::assertSame(0, $flat, "{$message}: faces without area");
        $whole = MassProperties::of($mesh)->volume;
        self::assertEqualsWithDelta($whole, $sum, 1e-9 * $whole, $message);
        if ($broken->discarded === 0.0) {
            self::assertSame([], array_diff_key(array_flip($faces), $faces), "{$message}: inner faces without their mirror images");
        }
    }

    /** @param array<int, int> $corners */
    private static function area(TriangleMesh $m, array $corners): float
    {
        [$a, $b, $c] = array_values($corners);
        $u = [$m->x[$b] - $m->x[$a], $m->y[$b] - $m->y[$a], $m->z[$b] - $m->z[$a]];
        $v = [$m->x[$c] - $m->x[$a], $m->y[$c] - $m->y[$a], $m->z[$c] - $m->z[$a]];

        return hypot(hypot($u[1] * $v[2] - $u[2] * $v[1], $u[2] * $v[0] - $u[0] * $v[2]), $u[0] * $v[1] - $u[1] * $v[0]);
    }
}
