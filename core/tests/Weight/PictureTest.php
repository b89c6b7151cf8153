<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Weighing;
use YardBreak\Core\Tests\Fixture\Pictures;
use YardBreak\Core\Weight\Samples;

/** What a picture says of a box of 2 by 1 by 1 m, worked out by hand: five pixels, black to white, each in the middle of a fifth. */
final class PictureTest extends TestCase
{
    /** @param array<string, mixed> $picture */
    private static function shot(array $picture): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 48, 'props' => [
            ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 2, 'height' => 1, 'depth' => 1, 'divisions' => 4]],
                'release' => ['trigger' => 'weight'], 'weight' => ['stack' => [['source' => 'picture', 'picture' => $picture]]]],
        ]]);
    }

    /**
     * @param array<string, mixed> $picture
     * @param list<array{float, float, float}> $places
     *
     * @return list<float>
     */
    private static function weights(array $picture, array $places, float $frame = 1.0): array
    {
        $pipeline = new Pipeline(new MemoryStore(), new Pictures());
        $prop = self::shot($picture)->props[0];
        Weighing::check($prop);

        return Weighing::of($prop, PropShape::of($pipeline->prepared($prop), $pipeline->surfaces))->evaluate(Samples::of($places), $frame);
    }

    public function testTonesAreTheWeight(): void
    {
        $across = ['picture' => ['asset' => Pictures::ACROSS]];
        // In the middle of each pixel its tone, between two of them half of both, past the outer ones as they are.
        $places = [[-0.8, 0.3, 0.5], [-0.4, -0.2, -0.5], [0.0, 0.0, 0.0], [0.2, 0.1, 0.0], [0.8, 0.0, 0.0], [1.0, 0.0, 0.0], [-1.0, 0.0, 0.0]];
        $tones = [0.0, 64 / 255, 128 / 255, (128 + 191) / 510, 1.0, 1.0, 0.0];
        self::assertEqualsWithDelta(array_map(static fn (float $tone): float => 1.0 - $tone, $tones), self::weights($across, $places), 1e-9);
        self::assertEqualsWithDelta($tones, self::weights(['dark' => false] + $across, $places), 1e-9);
        // Seen from the front up is up.
        self::assertEqualsWithDelta([1.0, 0.0], self::weights(['dark' => false, 'picture' => ['asset' => Pictures::UPWARD]], [[0.0, 0.4, 0.0], [0.0, -0.4, 0.0]]), 1e-9);
    }

    public function testTonesAreTheOrder(): void
    {
        $order = ['picture' => ['asset' => Pictures::ACROSS], 'tells' => 'order', 'from' => 1, 'to' => 41, 'blend' => 0.0];
        $places = [[-0.8, 0.0, 0.0], [0.0, 0.0, 0.0], [0.8, 0.0, 0.0]];
        self::assertSame([0.0, 0.0, 0.0], self::weights($order, $places, 1.0));
        self::assertSame([1.0, 0.0, 0.0], self::weights($order, $places, 20.0));
        self::assertSame([1.0, 1.0, 0.0], self::weights($order, $places, 22.0));
        self::assertSame([1.0, 1.0, 1.0], self::weights($order, $places, 41.0));
        self::assertSame([0.0, 0.0, 1.0], self::weights(['dark' => false] + $order, $places, 20.0));
        // With a soft edge half way when the middle of the edge is there.
        self::assertEqualsWithDelta([0.5], self::weights(['dark' => false, 'blend' => 0.2] + $order, [[0.8, 0.0, 0.0]], 1.0 + 40.0 * 0.1 / 1.2), 1e-9);
    }

    public function testWithoutAPictureItIsSaid(): void
    {
        self::assertSame([0.0], self::weights([], [[0.0, 0.0, 0.0]]));
        $texts = static fn (array $picture): string => implode(' ', array_map(static fn ($finding): string => $finding->text, Checks::of(self::shot($picture), new Pipeline(new MemoryStore(), new Pictures()))));
        self::assertStringContainsString('none has been brought in', $texts([]));
        self::assertStringNotContainsString('brought in', $texts(['picture' => ['asset' => Pictures::ACROSS]]));
        try {
            self::weights(['picture' => ['asset' => str_repeat('c', 64)]], [[0.0, 0.0, 0.0]]);
            self::fail('a picture that is gone');
        } catch (BadFile $bad) {
            self::assertStringContainsString('missing from the store', $bad->getMessage());
        }
        $this->expectException(BadDocument::class);
        self::weights(['tells' => 'order', 'from' => 20, 'to' => 10], [[0.0, 0.0, 0.0]]);
    }
}
