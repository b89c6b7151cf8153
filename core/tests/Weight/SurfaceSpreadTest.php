<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\EdgeSplit;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\SurfaceMarch;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\SurfaceWays;
use YardBreak\Core\Stage\Weighing;
use YardBreak\Core\Weight\Samples;

/** Ways over surfaces beside the formulas of plane, cylinder, ball and torus, and the weight that grows over them. */
final class SurfaceSpreadTest extends TestCase
{
    /** A weight of 0.5 to 1 lies at most half of the soft edge ahead of the front. */
    private const SOFT = 0.2;

    /**
     * @param array<string, mixed> $source
     * @param array<string, mixed> $settings
     * @param array<string, mixed> $prop
     * @param list<array<string, mixed>> $others
     */
    private static function prop(array $source, array $settings = [], array $prop = [], array $others = []): Shot
    {
        return Shot::read(['version' => 2, 'fps' => 24, 'frames' => 60, 'props' => [
            ['id' => 'thing', 'name' => 'Thing', 'source' => $source, 'weight' => ['stack' => [['source' => 'spread', 'spread' => ['softness' => self::SOFT, 'edge' => 'linear', ...$settings]]]], ...$prop], ...$others,
        ]]);
    }

    /**
     * @param array<string, mixed> $source
     * @param array{float, float, float} $from
     *
     * @return list<float> ways over its surface to places
     */
    private static function ways(array $source, array $from, Samples $to): array
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $ways = SurfaceWays::of(self::prop($source)->props[0], $pipeline->surfaces);
        $near = $ways->near([$from]);

        return $ways->reader($ways->march($near, array_fill_keys(array_keys($near), 0.0), null), [$from], true)($to);
    }

    /**
     * Mean difference of 0.2 % of the way at most, and the largest of 1 % of the size.
     *
     * @param list<float> $true
     * @param list<float> $ways
     */
    private static function assertNear(array $true, array $ways, float $size, string $what): void
    {
        $sum = $most = $all = 0.0;
        foreach ($true as $k => $far) {
            self::assertLessThan(INF, $ways[$k], $what);
            $sum += abs($ways[$k] - $far);
            $all += $far;
            $most = max($most, abs($ways[$k] - $far));
        }
        self::assertLessThan(0.002, $sum / $all, "{$what}: mean");
        self::assertLessThan(0.01, $most / $size, "{$what}: largest");
    }

    public function testOnAPlane(): void
    {
        $places = $true = [];
        for ($k = 0; $k < 400; $k++) {
            [$x, $z] = [0.0493 * ($k % 20) - 0.47, 0.0487 * intdiv($k, 20) - 0.46];
            $places[] = [$x, 0.5, $z];
            $true[] = sqrt(($x - 0.137) ** 2 + ($z + 0.211) ** 2);
        }
        self::assertNear($true, self::ways(['kind' => 'box', 'box' => ['divisions' => 8]], [0.137, 0.5, -0.211], Samples::of($places)), 1.0, 'plane');
    }

    /** A cylinder unrolls: straight lines on the strip. */
    #[Group('slow')]
    public function testOnACylinder(): void
    {
        $places = $true = [];
        foreach ([0.4, 0.9, 1.7, 2.6, 3.0] as $angle) {
            for ($k = 0; $k < 20; $k++) {
                $y = -0.9 + 0.09 * $k;
                $places[] = [0.5 * cos($angle), $y, 0.5 * sin($angle)];
                $true[] = sqrt((0.5 * $angle) ** 2 + ($y - 0.05) ** 2);
            }
        }
        $ways = self::ways(['kind' => 'cylinder', 'cylinder' => ['width' => 1, 'height' => 2, 'divisions' => 64]], [0.5, 0.05, 0.0], Samples::of($places));
        // Over the lid it may be shorter: those are left out.
        $keep = array_keys(array_filter($places, static fn (array $p): bool => abs($p[1]) < 0.5));
        self::assertNear(array_map(static fn (int $k): float => $true[$k], $keep), array_map(static fn (int $k): float => $ways[$k], $keep), 2.0, 'cylinder');
    }

    /** Great circles. */
    #[Group('slow')]
    public function testOnABall(): void
    {
        $places = $true = [];
        for ($k = 1; $k < 300; $k++) {
            $z = 1.0 - 2.0 * ($k + 0.5) / 300;
            $r = sqrt(1.0 - $z * $z);
            $places[] = $p = [0.5 * $r * cos(2.4 * $k), 0.5 * $z, 0.5 * $r * sin(2.4 * $k)];
            $true[] = 0.5 * acos(max(-1.0, min(1.0, 2.0 * $p[1])));
        }
        self::assertNear($true, self::ways(['kind' => 'ball', 'ball' => ['width' => 1, 'divisions' => 64]], [0.0, 0.5, 0.0], Samples::of($places)), 1.0, 'ball');
    }

    /** Along the outer equator, and along the small circle, which is a geodesic by symmetry. */
    #[Group('slow')]
    public function testOnATorus(): void
    {
        $places = $true = [];
        // Outer radius 0.5, tube radius 0.1: middle circle 0.4.
        for ($k = 1; $k <= 20; $k++) {
            $a = $k * 0.05;
            $places[] = [0.5 * cos($a), 0.0, 0.5 * sin($a)];
            $true[] = 0.5 * $a;
            $b = $k * 0.15;
            $places[] = [0.4 + 0.1 * cos($b), 0.1 * sin($b), 0.0];
            $true[] = 0.1 * $b;
        }
        self::assertNear($true, self::ways(['kind' => 'torus', 'torus' => ['width' => 1, 'tube' => 0.2, 'divisions' => 32]], [0.5, 0.0, 0.0], Samples::of($places)), 1.0, 'torus');
    }

    /** A coarse mesh is made finer, and stays the same closed body. */
    public function testEdgesAreHalvedUntilTheyAreShort(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $box = $pipeline->prepared(self::prop(['kind' => 'box', 'box' => ['width' => 3, 'height' => 0.4, 'depth' => 1, 'divisions' => 1]])->props[0]);
        $fine = EdgeSplit::of($box, 0.1);
        self::assertTrue(Topology::of($fine)->isWatertight());
        self::assertEqualsWithDelta(1.2, MassProperties::of($fine)->volume, 1e-12);
        foreach ($fine->triangles as $k => $a) {
            $b = $fine->triangles[$k % 3 === 2 ? $k - 2 : $k + 1];
            self::assertLessThanOrEqual(0.1, sqrt(($fine->x[$a] - $fine->x[$b]) ** 2 + ($fine->y[$a] - $fine->y[$b]) ** 2 + ($fine->z[$a] - $fine->z[$b]) ** 2));
        }
        self::assertSame($box->triangles, EdgeSplit::of($box, 10.0)->triangles);
    }

    /** Never more than along the edges, never less than straight through the air; what hangs together is reached, all of it. */
    public function testWaysKeepTheTriangleInequality(): void
    {
        mt_srand(3);
        $x = $y = $z = $triangles = [];
        for ($j = 0; $j <= 20; $j++) {
            for ($i = 0; $i <= 20; $i++) {
                $x[] = $i / 20 + 0.01 * sin(37.0 * $i + $j);
                $y[] = 0.08 * sin(0.9 * $i) * cos(0.7 * $j);
                $z[] = $j / 20 + 0.01 * cos(11.0 * $i - $j);
            }
        }
        for ($j = 0; $j < 20; $j++) {
            for ($i = 0; $i < 20; $i++) {
                $a = 21 * $j + $i;
                array_push($triangles, $a, $a + 21, $a + 1, $a + 1, $a + 21, $a + 22);
            }
        }
        $mesh = new TriangleMesh($x, $y, $z, $triangles);
        $way = SurfaceMarch::over($mesh)->from([220 => 0.0], [220 => 0.0]);
        foreach ($triangles as $k => $a) {
            $b = $triangles[$k % 3 === 2 ? $k - 2 : $k + 1];
            $edge = sqrt(($x[$a] - $x[$b]) ** 2 + ($y[$a] - $y[$b]) ** 2 + ($z[$a] - $z[$b]) ** 2);
            self::assertLessThanOrEqual($edge + 1e-12, abs($way[$a] - $way[$b]));
            self::assertGreaterThanOrEqual(sqrt(($x[$a] - $x[220]) ** 2 + ($y[$a] - $y[220]) ** 2 + ($z[$a] - $z[220]) ** 2) - 1e-12, $way[$a]);
        }
        // Half as fast everywhere: twice as far.
        $slow = SurfaceMarch::over($mesh)->from([220 => 0.0], [220 => 0.0], array_fill(0, 441, 2.0));
        foreach ($way as $v => $far) {
            self::assertEqualsWithDelta(2.0 * $far, $slow[$v], 1e-9);
        }
    }

    /**
     * @param list<array{float, float, float}> $places
     *
     * @return list<float>
     */
    private static function weights(Shot $shot, array $places, float $frame): array
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $prop = $shot->props[0];

        return Weighing::of($prop, PropShape::of($pipeline->prepared($prop), $pipeline->surfaces))->evaluate(Samples::of($places), $frame);
    }

    /** At 1.2 m/s from frame 13 on: half a metre by frame 23; round the corner as far as it is along the surface. */
    #[Group('slow')]
    public function testItGrowsFromPlacesAtItsSpeed(): void
    {
        $shot = self::prop(['kind' => 'box', 'box' => ['divisions' => 2]], ['places' => [['x' => 0, 'y' => 0.5, 'z' => 0]], 'from' => 13, 'speed' => 1.2]);
        self::assertSame([0.0, 0.0], self::weights($shot, [[0.0, 0.5, 0.0], [0.4, 0.5, 0.0]], 13.0));
        self::assertEqualsWithDelta([1.0, 1.0, 0.5, 0.0], self::weights($shot, [[0.0, 0.5, 0.0], [0.3, 0.5, 0.0], [0.0, 0.5, 0.4], [0.5, 0.5, 0.0]], 23.0), 0.01);
        // 0.8 m by frame 29: over the edge and 0.2 m down the side.
        self::assertEqualsWithDelta([0.5, 0.0], self::weights($shot, [[0.5, 0.3, 0.0], [0.0, -0.5, 0.0]], 29.0), 0.02);
        self::assertSame([1.0, 1.0, 1.0], self::weights($shot, [[0.0, 0.5, 0.0], [0.5, -0.5, 0.5], [0.0, -0.5, 0.0]], 60.0));
        self::assertSame([0.0], self::weights(self::prop(['kind' => 'box'], ['places' => []]), [[0.0, 0.5, 0.0]], 60.0));
    }

    /** What touches sets it off where it touches, when it touches; it goes on when that has gone. */
    #[Group('slow')]
    public function testItGrowsFromWhereOthersTouch(): void
    {
        // A ball of 0.2 m passes over the top: it touches the middle at frame 11 and is gone at 21.
        $ball = ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.2, 'divisions' => 24]], 'release' => ['trigger' => 'never'],
            'position' => ['x' => 0, 'y' => ['keys' => [['frame' => 1, 'value' => 1.6, 'ease' => 'linear'], ['frame' => 11, 'value' => 0.6, 'ease' => 'linear'], ['frame' => 21, 'value' => 1.6]]]]];
        $shot = self::prop(['kind' => 'box', 'box' => ['divisions' => 2]], ['begins' => 'touch', 'props' => ['ball'], 'near' => 0.02, 'speed' => 1.2], [], [$ball]);
        self::assertSame([0.0], self::weights($shot, [[0.0, 0.5, 0.0]], 10.0));
        // Ten frames after the touch the front is half a metre out from where they were as near as 0.02 m: 0.066 m about the middle.
        self::assertEqualsWithDelta([1.0, 1.0, 0.5, 0.0], self::weights($shot, [[0.0, 0.5, 0.0], [0.36, 0.5, 0.0], [0.0, 0.5, 0.466], [0.5, 0.5, 0.5]], 21.0), 0.08);
        self::assertSame([1.0], self::weights($shot, [[0.0, -0.5, 0.0]], 60.0));
    }

    /** From where another weight has passed half; round what a weight blocks. */
    #[Group('slow')]
    public function testItGrowsFromAWeightAndIsSlowedByOne(): void
    {
        $hot = ['id' => 'hot', 'name' => 'Hot', 'stack' => [['source' => 'zone', 'zone' => ['at' => ['x' => -0.5, 'y' => 0.5, 'z' => 0], 'within' => 0.1, 'softness' => 0.0]]]];
        // A wall across the top from front to back, but for a gap at the back.
        $wall = ['id' => 'wall', 'name' => 'Wall', 'stack' => [['source' => 'zone', 'zone' => ['shape' => 'box', 'at' => ['x' => 0, 'y' => 0, 'z' => -0.2], 'size' => ['x' => 0.1, 'y' => 3, 'z' => 1], 'softness' => 0.0]]]];
        $free = self::prop(['kind' => 'box', 'box' => ['divisions' => 2]], ['begins' => 'weight', 'weight' => 'hot', 'speed' => 0.48], ['weights' => [$hot, $wall]]);
        // 0.02 m a frame from 0.1 m about the corner: by frame 31 0.6 m.
        self::assertEqualsWithDelta([0.5, 0.0], self::weights($free, [[0.1, 0.5, 0.0], [0.3, 0.5, 0.0]], 31.0), 0.15);
        $blocked = self::prop(['kind' => 'box', 'box' => ['divisions' => 2]], ['begins' => 'weight', 'weight' => 'hot', 'slowedBy' => 'wall', 'speed' => 0.48], ['weights' => [$hot, $wall]]);
        self::assertSame([0.0], self::weights($blocked, [[0.1, 0.5, 0.0]], 31.0));
        // Through the gap at z = 0.4: about 0.9 m instead of 0.5.
        self::assertGreaterThan(0.5, self::weights($blocked, [[0.1, 0.5, 0.0]], 58.0)[0]);
    }

    /** A change of the speed leaves the ways as they are: they are kept. */
    public function testWaysAreMadeOnce(): void
    {
        $store = new MemoryStore();
        $runs = 0;
        foreach ([0.3, 0.3, 0.6] as $speed) {
            $pipeline = new Pipeline($store, new NoAssets());
            $prop = self::prop(['kind' => 'box'], ['places' => [['x' => 0, 'y' => 0.5, 'z' => 0]], 'speed' => $speed])->props[0];
            Weighing::of($prop, PropShape::of($pipeline->prepared($prop), $pipeline->surfaces))->evaluate(Samples::of([[0.0, 0.5, 0.0]]), 20.0);
            $runs += $pipeline->runner->ran('arrival');
        }
        self::assertSame(1, $runs);
    }
}
