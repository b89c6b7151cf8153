<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\EvenFlakes;
use YardBreak\Core\Break\FlakesPattern;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Lathe;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\MeshCodec;

final class EvenFlakesTest extends TestCase
{
    private const EDGE = 0.02;

    /** Triangles of a shape below this are needles. */
    private const NEEDLE = 0.2;

    private static function churn(): TriangleMesh
    {
        return Normals::computed(Lathe::turn([[0.0, 0.0], [0.18, 0.01], [0.15, 0.42], [0.15, 0.52], [0.0, 0.55]], 40));
    }

    /** @return list<TriangleMesh> */
    private static function flakes(float $edge): array
    {
        $flakes = new FlakesPattern(60, 3, 0.7, 0.0, 0.0, false);

        return array_values(iterator_to_array(($edge > 0.0 ? new EvenFlakes($flakes, $edge) : $flakes)->flakes(self::churn(), new Progress()), false));
    }

    /** @param list<TriangleMesh> $flakes */
    private static function needles(array $flakes, float $needle = self::NEEDLE): float
    {
        $needles = $all = 0;
        foreach ($flakes as $flake) {
            for ($t = 0, $count = $flake->triangleCount(); $t < $count; $t++, $all++) {
                $needles += $flake->shape($t) < $needle ? 1 : 0;
            }
        }

        return $needles / $all;
    }

    #[Group('slow')]
    public function testTrianglesAreEvenAndLieWhereTheSurfaceIs(): void
    {
        [$cut, $even] = [self::flakes(0.0), self::flakes(self::EDGE)];
        self::assertCount(count($cut), $even);
        self::assertGreaterThan(0.4, self::needles($cut), 'as they are cut');
        self::assertLessThan(0.02, self::needles($even));
        // Where flakes are small for their triangles, corners of a rim come to lie in line.
        self::assertSame(0.0, self::needles(self::flakes(10.0 * self::EDGE), 1e-6), 'none is nothing');
        $surface = SurfaceTree::of(self::churn(), true);
        foreach ($even as $k => $flake) {
            self::assertEqualsWithDelta($cut[$k]->area(), $flake->area(), 0.06 * $cut[$k]->area(), "flake {$k}");
            self::assertEqualsWithDelta(self::EDGE, $flake->meanEdge(), 0.3 * self::EDGE);
            foreach ($flake->x as $v => $x) {
                $t = $surface->nearest($x, $flake->y[$v], $flake->z[$v], 0.1);
                $surface->look($t, $x, $flake->y[$v], $flake->z[$v]);
                self::assertLessThan(0.1 * self::EDGE, abs($surface->distance));
            }
        }
    }

    /** All of a closed surface comes off: each edge of a rim is one of the neighbour's too, to the last bit, however both were straightened. */
    #[Group('slow')]
    public function testNeighboursShareTheirRims(): void
    {
        $rims = [];
        foreach (self::flakes(self::EDGE) as $flake) {
            $edges = [];
            foreach ($flake->triangles as $c => $a) {
                $ends = [pack('e3', $flake->x[$a], $flake->y[$a], $flake->z[$a]), ''];
                $b = $flake->triangles[$c % 3 === 2 ? $c - 2 : $c + 1];
                $ends[1] = pack('e3', $flake->x[$b], $flake->y[$b], $flake->z[$b]);
                sort($ends);
                $edges[implode('', $ends)] = ($edges[implode('', $ends)] ?? 0) + 1;
            }
            foreach (array_keys($edges, 1, true) as $edge) {
                $rims[$edge] = ($rims[$edge] ?? 0) + 1;
            }
        }
        self::assertGreaterThan(500, count($rims));
        self::assertSame([2], array_values(array_unique($rims)));
    }

    /** About its axis a turned shape has a seam; towards its ends the meridians meet, and each triangle there has coordinates of its own. */
    #[Group('slow')]
    public function testNoTriangleHasTextureCoordinatesOfTwoSidesOfASeam(): void
    {
        foreach (self::flakes(self::EDGE) as $flake) {
            self::assertNotNull($flake->uvs);
            for ($t = 0, $count = $flake->triangleCount(); $t < $count; $t++) {
                $u = [$flake->uvs[6 * $t], $flake->uvs[6 * $t + 2], $flake->uvs[6 * $t + 4]];
                self::assertLessThan(0.3, max($u) - min($u));
            }
        }
    }

    #[Group('long')]
    public function testTheSameSeedTheSameBytes(): void
    {
        $bytes = static fn (): string => implode('', array_map(MeshCodec::encode(...), self::flakes(self::EDGE)));
        self::assertSame(md5($bytes()), md5($bytes()));
    }

    public function testTooFineOnesAreRefusedWithWhatWouldDo(): void
    {
        try {
            self::flakes(0.0001);
            self::fail('It is made.');
        } catch (BreakFailed $refused) {
            self::assertMatchesRegularExpression('/more than 150,000 triangles. Make the edges (0.\d+) m long, or longer\.$/', $refused->getMessage());
        }
    }
}
