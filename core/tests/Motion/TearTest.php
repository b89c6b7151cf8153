<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Cloth\Fabric;
use YardBreak\Core\Motion\Cloth\Seams;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Cloth of patches: sewn it is one cloth, and it comes apart where it is stretched too far. */
final class TearTest extends TestCase
{
    private const G = ['id' => 'g', 'name' => 'G', 'force' => 'gravity'];

    /**
     * A strip that hangs from its upper end.
     *
     * @param array<string, mixed> $cloth
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed>
     */
    private static function strip(array $cloth, array $more = []): array
    {
        return ['version' => 2, 'frames' => 24, 'forces' => [self::G], 'planes' => [], 'props' => [[
            'id' => 'strip', 'name' => 'Strip', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 1.0, 'depth' => 0.2, 'divisions' => 20]], 'rotation' => ['z' => 90], 'position' => ['y' => 2.0],
            'break' => ['pattern' => 'patches', 'patches' => ['count' => 30, 'seed' => 2]], 'release' => ['trigger' => 'never'],
            // It gives 5 % under 100 N a metre, and weighs 19.6: drawn to 0.98 % by its own weight where it hangs.
            'motion' => ['mover' => 'cloth', 'cloth' => ['mass' => 2000, 'stretch' => 5, 'shear' => 1, 'damping' => 1, 'drag' => 0, 'feelsItself' => false, 'hold' => [['source' => 'rim', 'rim' => ['side' => 'high-x', 'within' => 0.01, 'softness' => 0]]], ...$cloth]],
            ...$more,
        ]]];
    }

    /**
     * @param array<string, mixed> $document
     *
     * @return array<int, Frame>
     */
    private static function frames(array $document): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read($document)));
    }

    /** @return array{float, float} lowest and highest */
    private static function heights(Frame $frame): array
    {
        $y = array_column(array_chunk($frame->of('strip', Track::VERTICES), 3), 1);

        return [min($y), max($y)];
    }

    /** Sewn together it hangs as one that was never cut does. */
    #[Group('slow')]
    public function testSewnItIsOneCloth(): void
    {
        $sewn = self::frames(self::strip(['tears' => 200]));
        $whole = self::frames(self::strip([], ['break' => ['pattern' => 'whole']]));
        foreach ([6, 12, 24] as $n) {
            self::assertEqualsWithDelta(self::heights($whole[$n]), self::heights($sewn[$n]), 0.003, "frame {$n}");
        }
        // More vertices than it has places: each patch has its own along its seams.
        self::assertGreaterThan(count($whole[1]->of('strip', Track::VERTICES)), count($sewn[1]->of('strip', Track::VERTICES)));
    }

    /** The stretch where a strip hangs is its weight over its stiffness: it holds above that, and tears below. */
    #[Group('slow')]
    public function testItTearsWhereItsOwnWeightStretchesItTooFar(): void
    {
        self::assertEqualsWithDelta(1.5, self::heights(self::frames(self::strip(['tears' => 3.0]))[24])[0], 0.05);
        $torn = self::frames(self::strip(['tears' => 0.4]));
        [$low, $high] = self::heights($torn[24]);
        self::assertLessThan(0.5, $low, 'most of it has fallen');
        $released = array_map(static fn (Frame $frame): int => $frame->released(), array_values($torn));
        $sorted = $released;
        sort($sorted);
        self::assertSame($sorted, $released, 'what has come apart stays so');
        self::assertSame(0, $released[0]);
        self::assertGreaterThan(3, $released[23], 'and counts as let go');
        self::assertSame(0, self::frames(self::strip(['tears' => 3.0]))[24]->released(), 'what holds has not');
        self::assertEqualsWithDelta(2.5, $high, 0.01, 'what holds stays');
    }

    /** Not sewn, the patches fall from the first frame on, those that are held not. */
    #[Group('slow')]
    public function testWhatIsNotSewnIsApart(): void
    {
        [$low] = self::heights(self::frames(self::strip(['tears' => 0]))[24]);
        // It loses its speed at 1 / s: g (t - 1 + exp(-t)) over 23 frames.
        self::assertEqualsWithDelta(1.5 - 9.81 * ((23 / 24) - 1.0 + exp(-23 / 24)), $low, 0.2);
    }

    /** Where its weight is full it tears by itself; before the front comes it holds. */
    #[Group('slow')]
    public function testItIsWeakerWhereTheWeightIs(): void
    {
        $weight = ['weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 10, 'to' => 12, 'softness' => 0.01]]]], 'release' => ['trigger' => 'never']];
        $frames = self::frames(self::strip(['tears' => 8.0, 'weaker' => 100], $weight));
        self::assertEqualsWithDelta(1.5, self::heights($frames[10])[0], 0.05);
        self::assertLessThan(1.2, self::heights($frames[24])[0]);
        $firm = self::frames(self::strip(['tears' => 8.0, 'weaker' => 0], $weight));
        self::assertEqualsWithDelta(1.5, self::heights($firm[24])[0], 0.05);
    }

    /** What has torn already, and what is about to, is in its state. */
    #[Group('slow')]
    public function testItGoesOnFromAnyFrameWithTheSameBits(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $shot = Shot::read(self::strip(['tears' => 0.4, 'feelsItself' => true]));
        $simulation = $pipeline->motion($shot);
        $frames = $saved = [];
        foreach ($simulation->frames() as $n => $frame) {
            $frames[$n] = serialize($frame);
            $saved[$n] = $simulation->save();
        }
        foreach (getenv('YARD_BREAK_LONG') ? [2, 5, 12] : [16] as $after) {
            $again = $pipeline->motion($shot);
            $again->restore($saved[$after]);
            foreach ($again->frames() as $n => $frame) {
                self::assertSame(md5($frames[$n]), md5(serialize($frame)), "frame {$n}, restored after {$after}");
            }
        }
    }

    /**
     * What falls on a held sheet is caught, or tears it: it never comes through what still holds. The ball needs some 7,500 N to be stopped in
     * two substeps; the seams around what it meets bear some 600 N for each 3 %.
     */
    #[Group('slow')]
    #[TestWith([3.0, true])]
    #[TestWith([50.0, false])]
    public function testWhatIsTooHeavyTearsIt(float $tears, bool $falls): void
    {
        $frames = self::frames(['version' => 2, 'frames' => 30, 'forces' => [self::G], 'planes' => [], 'props' => [[
            'id' => 'strip', 'name' => 'Sheet', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.8, 'depth' => 0.8, 'divisions' => 12]], 'position' => ['y' => 0.6],
            'break' => ['pattern' => 'patches', 'patches' => ['count' => 40]], 'release' => ['trigger' => 'never'],
            'motion' => ['mover' => 'cloth', 'cloth' => ['tears' => $tears, 'hold' => [['source' => 'rim', 'rim' => ['within' => 0.01, 'softness' => 0]]]]],
        ], [
            'id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.2, 'divisions' => 6]], 'position' => ['y' => 1.0], 'break' => ['pattern' => 'whole'],
            'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'density' => 3000]],
        ]]]);
        self::assertSame($falls, $frames[30]->of('ball', Track::POSE)[1] < 0.4);
        self::assertSame($falls, $frames[30]->released() > 0);
    }

    /** Seams around what is touched bear their pull for each metre; loaded by more, those that are stretched most open first. */
    public function testSeamsBearAsMuchAsTheyAreLong(): void
    {
        // Three squares of 1 m in a row, each a patch.
        [$x, $z, $triangles, $piece] = [[], [], [], []];
        for ($k = 0; $k < 3; $k++) {
            array_push($x, $k, $k + 1, $k + 1, $k);
            array_push($z, 0.0, 0.0, 1.0, 1.0);
            array_push($triangles, 4 * $k, 4 * $k + 1, 4 * $k + 2, 4 * $k, 4 * $k + 2, 4 * $k + 3);
            array_push($piece, $k, $k, $k, $k);
        }
        $mesh = new TriangleMesh(array_map(floatval(...), $x), array_fill(0, 12, 0.0), $z, $triangles);
        $seams = Seams::between($mesh, $piece, new Fabric(0.2, 1e4, 0.2, 1e-6, 0.0, 0.0, 0.4, 0.002));
        $seams->weaken(array_fill(0, 12, 0.05));
        $nodes = $seams->nodes();
        [$left, $right] = [$nodes[0], $nodes[9]];
        self::assertEqualsWithDelta(1e4 * 0.05, $seams->bears([$left]), 1e-9);
        self::assertEqualsWithDelta(1e4 * 0.05, $seams->bears([$left, $nodes[1]]), 1e-9, 'what is sewn is of both: the seam to the third');
        self::assertSame(0.0, $seams->bears([$left, $nodes[1], $right]), 'nothing is around all of it');
        $places = $seams->sewn($mesh);
        $longer = static fn (int $a, int $b, float $x, float $y, float $z): float => 1.0;
        $seams->load([$left], 0.9);
        $seams->strain($places->x, $places->y, $places->z, $longer);
        self::assertNull($seams->open(), 'it bears that');
        $seams->load([$left], 1.1);
        $seams->strain($places->x, $places->y, $places->z, $longer);
        self::assertNotNull($seams->open());
        self::assertSame(2, $seams->torn(), 'both ends of the first seam');
        $places = $seams->sewn($mesh);
        $seams->strain($places->x, $places->y, $places->z, $longer);
        self::assertNull($seams->open(), 'what was borne does not count twice');
    }
}
