<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\RoundedDrawing;
use YardBreak\Core\Mesh\Subdivision;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** What bends is drawn finer than it is computed. */
final class DrawnSmoothTest extends TestCase
{
    public function testWhatWasMadeFinerIsAsItWasBefore(): void
    {
        foreach ([Solids::ball(1.0, 4), Solids::sheet(1.0, 0.5, 5, 3), Solids::torus(0.6, 0.2, 9, 5)] as $mesh) {
            $finest = Subdivision::flat(Subdivision::flat($mesh));
            self::assertEquals($mesh, Subdivision::coarser(Subdivision::coarser($finest)));
        }
    }

    /** A ball of 6 by 16 squares: what lies between its vertices is more than three times nearer to the ball than straight edges are. */
    public function testABallIsRoundBetweenItsVertices(): void
    {
        $ball = Solids::ball(1.0, 4);
        $fine = Subdivision::flat(Subdivision::flat($ball));
        $drawing = RoundedDrawing::of([$fine], 2);
        self::assertSame($fine->vertexCount(), $drawing->count);
        $flat = $round = 0.0;
        $places = [];
        foreach ($ball->x as $v => $x) {
            array_push($places, $x, $ball->y[$v], $ball->z[$v]);
        }
        foreach (array_chunk($drawing->places($places), 3) as $v => [$x, $y, $z]) {
            $round = max($round, abs(sqrt($x * $x + $y * $y + $z * $z) - 1.0));
            $flat = max($flat, abs(sqrt($fine->x[$v] ** 2 + $fine->y[$v] ** 2 + $fine->z[$v] ** 2) - 1.0));
            if ($v < $ball->vertexCount()) {
                self::assertSame([$ball->x[$v], $ball->y[$v], $ball->z[$v]], [$x, $y, $z], 'the vertices stay');
            }
        }
        self::assertGreaterThan(0.03, $flat);
        self::assertLessThan(0.3 * $flat, $round);
    }

    /** Two patches side by side, folded where they meet: what they share is in one place, also between its vertices; what is flat stays flat; a core is not rounded. */
    public function testPatchesStayTogether(): void
    {
        $one = new TriangleMesh([0.0, 1.0, 0.0, 1.0], [0.0, 0.0, 0.0, 0.0], [0.0, 0.0, 1.0, 1.0], [0, 2, 1, 1, 2, 3]);
        $other = new TriangleMesh([1.0, 1.0, 2.0], [0.0, 0.0, 0.0], [0.0, 1.0, 0.5], [0, 1, 2]);
        $pieces = array_map(Subdivision::flat(...), [$one, $other]);
        $places = [0, 0, 0, 1, 0, 0, 0, 0, 1, 1, 0.2, 1, 1, 0, 0, 1, 0.2, 1, 1.5, -0.8, 0.5];
        $drawn = array_chunk(RoundedDrawing::of($pieces, 1)->places(array_map(floatval(...), $places)), 3);
        $shared = static fn (TriangleMesh $mesh): array => array_values(array_filter(array_keys($mesh->x), static fn (int $v): bool => $mesh->x[$v] === 1.0 && $mesh->z[$v] === 0.5));
        [$a, $b] = [$shared($pieces[0])[0], $pieces[0]->vertexCount() + $shared($pieces[1])[0]];
        self::assertEqualsWithDelta($drawn[$a], $drawn[$b], 1e-12);
        self::assertNotEqualsWithDelta([1.0, 0.1, 0.5], $drawn[$a], 1e-3, 'rounded');
        $flat = array_chunk(RoundedDrawing::of($pieces, 1, 2)->places(array_map(floatval(...), $places)), 3);
        self::assertEqualsWithDelta([1.0, 0.1, 0.5], $flat[$a], 1e-12);
        self::assertSame(0.5, RoundedDrawing::of($pieces, 1)->values([0.0, 0.0, 1.0, 1.0, 0.0, 1.0, 0.0])[$a], 'weights lie between');
    }

    /**
     * @param array<string, mixed> $cloth
     *
     * @return list<Frame>
     */
    private static function frames(array $cloth): array
    {
        $shot = Shot::read(['version' => 2, 'frames' => 20, 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'planes' => [['id' => 'f', 'name' => 'F']], 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.4, 'depth' => 0.4, 'divisions' => 6]], 'position' => ['y' => 0.4], 'rotation' => ['z' => 30], 'break' => ['pattern' => 'patches', 'patches' => ['count' => 4]],
            'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 1, 'to' => 10]]]], 'release' => ['trigger' => 'weight'], 'motion' => ['mover' => 'cloth', 'cloth' => $cloth],
        ]]]);

        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot), false);
    }

    /** The motion is the same to the bit; only more of it is drawn, piece by piece. */
    public function testWhatIsComputedStays(): void
    {
        [$plain, $smooth] = [self::frames([]), self::frames(['finer' => 2])];
        foreach ([0, 8, 19] as $n) {
            self::assertSame($plain[$n]->readout, $smooth[$n]->readout);
            [$few, $many] = [array_chunk($plain[$n]->of('a', Track::VERTICES), 3), array_chunk($smooth[$n]->of('a', Track::VERTICES), 3)];
            self::assertGreaterThan(10 * count($few), count($many));
            self::assertSame(count($many), count($smooth[$n]->of('a', Track::WEIGHT)));
            // The first piece begins as it did.
            self::assertSame(array_slice($few, 0, 8), array_slice($many, 0, 8));
            $there = array_fill_keys(array_map(serialize(...), $many), true);
            foreach ($few as $place) {
                self::assertArrayHasKey(serialize($place), $there, "frame {$n}: every vertex is drawn where it is");
            }
        }
    }
}
