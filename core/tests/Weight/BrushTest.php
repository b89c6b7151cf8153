<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Consistency;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Weighing;
use YardBreak\Core\Weight\Samples;

/** What is painted by hand, worked out by hand: half way along a soft edge half of it is there. */
final class BrushTest extends TestCase
{
    private const ALONG = ['mode' => 'add', 'radius' => 0.4, 'softness' => 0.5, 'points' => [[-0.5, 0.5, 0.0], [0.5, 0.5, 0.0]]];

    /**
     * As a document has it.
     *
     * @param array<string, mixed> $stroke
     *
     * @return array<string, mixed>
     */
    private static function packed(array $stroke): array
    {
        self::assertIsArray($stroke['points']);

        return ['points' => base64_encode(pack('g*', ...array_merge(...$stroke['points'])))] + $stroke;
    }

    /**
     * @param list<array<string, mixed>> $strokes
     * @param list<array{float, float, float}> $places
     * @param array<string, mixed> $source
     *
     * @return list<float>
     */
    private static function weights(array $strokes, array $places, float $ground = 0.0, array $source = ['box' => ['width' => 2, 'height' => 1, 'depth' => 1, 'divisions' => 4]]): array
    {
        $shot = Shot::read(['version' => 2, 'frames' => 4, 'props' => [
            ['id' => 'block', 'name' => 'Block', 'source' => $source, 'weight' => ['stack' => [['source' => 'brush', 'brush' => ['strokes' => array_map(self::packed(...), $strokes), 'ground' => $ground]]]]],
        ]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $prop = $shot->props[0];

        return Weighing::of($prop, PropShape::of($pipeline->prepared($prop), $pipeline->surfaces))->evaluate(Samples::of($places), 2.0);
    }

    public function testAStrokeIsABallLedAlongALine(): void
    {
        // On the line, beside it in the full part, half way along the soft edge (0.3), beyond it, and past its end.
        $places = [[0.0, 0.5, 0.0], [0.2, 0.5, 0.15], [0.2, 0.5, 0.3], [0.2, 0.5, 0.41], [0.8, 0.5, 0.0], [0.91, 0.5, 0.0]];
        self::assertEqualsWithDelta([1.0, 1.0, 0.5, 0.0, 0.5, 0.0], self::weights([self::ALONG], $places), 1e-12);
        // A dab, and one with a hard edge.
        $dab = ['points' => [[0.0, 0.5, 0.0]]] + self::ALONG;
        self::assertEqualsWithDelta([1.0, 0.5, 0.0], self::weights([$dab], [[0.0, 0.5, 0.1], [0.0, 0.2, 0.0], [0.5, 0.5, 0.0]]), 1e-12);
        self::assertSame([1.0, 0.0], self::weights([['softness' => 0.0] + $dab], [[0.0, 0.5, 0.399], [0.0, 0.5, 0.401]]));
    }

    public function testStrokesLieOneOverTheOther(): void
    {
        $there = [[0.0, 0.5, 0.0]];
        self::assertEqualsWithDelta([0.75], self::weights([['strength' => 0.5] + self::ALONG, ['strength' => 0.5] + self::ALONG], $there), 1e-12);
        self::assertEqualsWithDelta([0.4], self::weights([self::ALONG, ['mode' => 'remove', 'strength' => 0.6] + self::ALONG], $there), 1e-12);
        self::assertEqualsWithDelta([0.6], self::weights([['mode' => 'remove', 'strength' => 0.6] + self::ALONG, ['strength' => 0.6] + self::ALONG], $there), 1e-12);
        // Where nothing is painted it is as it was; painting out leaves a hole.
        self::assertEqualsWithDelta([0.0, 0.8], self::weights([['mode' => 'remove'] + self::ALONG], [[0.0, 0.5, 0.0], [0.0, -0.5, 0.0]], 0.8), 1e-12);
    }

    public function testWhatSoftensWidensTheEdgesBeforeIt(): void
    {
        $hard = ['softness' => 0.0] + self::ALONG;
        $soften = ['mode' => 'soften', 'radius' => 0.2, 'softness' => 0.0, 'points' => [[0.3, 0.5, 0.4]]];
        // Under it the edge runs from 0.3 to 0.5, its middle where it was; elsewhere it is as hard as before.
        $places = [[0.3, 0.5, 0.3], [0.3, 0.5, 0.4], [0.3, 0.5, 0.45], [-0.3, 0.5, 0.39], [-0.3, 0.5, 0.41]];
        self::assertEqualsWithDelta([1.0, 0.5, 0.25 * 0.25 * 2.5, 1.0, 0.0], self::weights([$hard, $soften], $places), 1e-12);
        // What is painted later stays as hard as it is.
        self::assertEqualsWithDelta([1.0, 1.0, 0.0, 1.0, 0.0], self::weights([$soften, $hard], $places), 1e-12);
        // Twice is wider: from 0.2 to 0.6.
        self::assertEqualsWithDelta([0.84375], self::weights([$hard, $soften, $soften], [[0.3, 0.5, 0.3]]), 1e-12);
    }

    public function testTheOtherSideIsPaintedToo(): void
    {
        $left = ['points' => [[-0.8, 0.5, 0.2]], 'mirror' => 'x'] + self::ALONG;
        self::assertEqualsWithDelta([1.0, 1.0, 0.0], self::weights([$left], [[-0.8, 0.5, 0.2], [0.8, 0.5, 0.2], [0.0, 0.5, 0.2]]), 1e-12);
        // What does not stand about its origin is mirrored across its own middle.
        [$low, $mirrored] = self::weights([['radius' => 0.05, 'points' => [[0.1, 1.02, 0.0]], 'mirror' => 'y'] + self::ALONG], [[0.1, 1.02, 0.0], [0.1, 1.98, 0.0]], 0.0, ['kind' => 'lathe', 'lathe' => ['profile' => [[0, 1], [0.3, 1], [0.3, 2], [0, 2]]]]);
        self::assertEqualsWithDelta([1.0, 1.0], [$low, $mirrored], 1e-12);
    }

    /** Strokes are no numbers of vertices: another mesh of the same prop has the same paint. */
    public function testPaintHoldsWhenTheMeshIsMadeAnew(): void
    {
        $places = [[0.1, 0.5, 0.31], [0.4, 0.5, 0.22], [0.6, 0.4, 0.5]];
        $soften = ['mode' => 'soften', 'radius' => 0.2, 'points' => [[0.3, 0.5, 0.4]]];
        $of = static fn (int $divisions): array => self::weights([self::ALONG, $soften], $places, 0.0, ['box' => ['width' => 2, 'height' => 1, 'depth' => 1, 'divisions' => $divisions]]);
        self::assertSame($of(2), $of(9));
        self::assertGreaterThan(0.0, $of(2)[0]);
    }

    public function testPointsThatAreNoneAreRefused(): void
    {
        foreach (['AAAA' . str_repeat('A', 16), base64_encode(pack('g3', 0.0, NAN, 0.0)), base64_encode(pack('g3', 0.0, 1e5, 0.0))] as $points) {
            try {
                Consistency::check(Shot::read(['version' => 2, 'props' => [['id' => 'block', 'name' => 'Block', 'weight' => ['stack' => [['source' => 'brush', 'brush' => ['strokes' => [['points' => $points]]]]]]]]]));
                self::fail($points);
            } catch (BadDocument $bad) {
                self::assertStringContainsString('/props/0/weight/stack/0/brush/strokes/0/points', $bad->getMessage());
                self::assertStringContainsString('ake the stroke away', $bad->getMessage());
            }
        }
    }
}
