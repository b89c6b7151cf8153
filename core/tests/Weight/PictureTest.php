<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Weighing;
use YardBreak\Core\Tests\Fixture\Pictures;
use YardBreak\Core\Weight\Samples;

/** What a picture says of a box of 2 by 1 by 1 m, worked out by hand: five pixels, black to white, each in the middle of a fifth. */
final class PictureTest extends TestCase
{
    /**
     * @param array<string, mixed> $picture
     * @param array<string, mixed> $source
     */
    private static function shot(array $picture, array $source = ['box' => ['width' => 2, 'height' => 1, 'depth' => 1, 'divisions' => 4]]): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 48, 'props' => [
            ['id' => 'block', 'name' => 'Block', 'source' => $source,
                'release' => ['trigger' => 'weight'], 'weight' => ['stack' => [['source' => 'picture', 'picture' => $picture]]]],
        ]]);
    }

    /**
     * @param array<string, mixed> $picture
     * @param list<array{float, float, float}> $places
     * @param array<string, mixed> $source
     *
     * @return list<float>
     */
    private static function weights(array $picture, array $places, float $frame = 1.0, array $source = ['box' => ['width' => 2, 'height' => 1, 'depth' => 1, 'divisions' => 4]]): array
    {
        $pipeline = new Pipeline(new MemoryStore(), new Pictures());
        $prop = self::shot($picture, $source)->props[0];
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

    /** A sheet of 2 by 1 m: to the right along x, up along z. */
    public function testItLiesByTextureCoordinates(): void
    {
        $sheet = ['kind' => 'sheet', 'sheet' => ['width' => 2, 'depth' => 1, 'divisions' => 7]];
        $places = [[-0.8, 0.0, 0.3], [-0.4, 0.3, -0.2], [0.0, 0.0, 0.0], [0.2, -0.1, 0.1], [1.0, 0.0, 0.0]];
        $tones = [0.0, 64 / 255, 128 / 255, (128 + 191) / 510, 1.0];
        self::assertEqualsWithDelta($tones, self::weights(['dark' => false, 'lies' => 'texture', 'picture' => ['asset' => Pictures::ACROSS]], $places, 1.0, $sheet), 1e-9);
        // Upward: from z = -0.5 to 0.5, each pixel a fifth of it.
        self::assertEqualsWithDelta([0.0, 64 / 255, 1.0], self::weights(['dark' => false, 'lies' => 'texture', 'picture' => ['asset' => Pictures::UPWARD]], [[0.3, 0.0, -0.5], [0.0, 0.2, -0.2], [0.9, 0.0, 0.45]], 1.0, $sheet), 1e-9);
    }

    /** Two pictures, four frames each, from frame 11: what lies between goes over evenly. */
    public function testNumberedPicturesFollowEachOther(): void
    {
        $numbered = ['dark' => false, 'moves' => 'numbered', 'pictures' => [['asset' => Pictures::ACROSS, 'fileName' => 'a.1.png'], ['asset' => Pictures::UPWARD, 'fileName' => 'a.2.png']], 'starts' => 11, 'every' => 4];
        // At the right and below: white on the one, black on the other.
        foreach ([1 => 1.0, 11 => 1.0, 12 => 0.75, 13 => 0.5, 15 => 0.0, 40 => 0.0] as $frame => $tone) {
            self::assertEqualsWithDelta([$tone], self::weights($numbered, [[1.0, -0.5, 0.0]], (float) $frame), 1e-9, "frame {$frame}");
        }
        foreach ([17 => 0.5, 19 => 1.0, 23 => 0.0, 25 => 0.5] as $frame => $tone) {
            self::assertEqualsWithDelta([$tone], self::weights(['after' => 'repeats'] + $numbered, [[1.0, -0.5, 0.0]], (float) $frame), 1e-9, "repeated, frame {$frame}");
        }
    }

    /** Another second picture changes nothing up to the frame at which it begins to come in. */
    public function testALaterPictureChangesOnlyWhatComesLater(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new Pictures());
        $up = static fn (string $second, int $frame): string => $pipeline->acting(self::shot(['moves' => 'numbered', 'starts' => 20, 'every' => 2, 'pictures' => [['asset' => Pictures::ACROSS], ['asset' => $second]]]))[1]->upTo($frame);
        self::assertSame($up(Pictures::ACROSS, 20), $up(Pictures::UPWARD, 20));
        self::assertNotSame($up(Pictures::ACROSS, 21), $up(Pictures::UPWARD, 21));
    }

    public function testWithoutAPictureItIsSaid(): void
    {
        self::assertSame([0.0], self::weights([], [[0.0, 0.0, 0.0]]));
        $texts = static fn (array $picture): string => implode(' ', array_map(static fn ($finding): string => $finding->text, Checks::of(self::shot($picture), new Pipeline(new MemoryStore(), new Pictures()))));
        self::assertStringContainsString('none has been brought in', $texts([]));
        self::assertStringNotContainsString('brought in', $texts(['picture' => ['asset' => Pictures::ACROSS]]));
        self::assertStringContainsString('none has been brought in', $texts(['moves' => 'numbered']));
        $texture = ['lies' => 'texture', 'picture' => ['asset' => Pictures::ACROSS]];
        self::assertStringNotContainsString('no texture', $texts($texture));
        // A mesh file without any.
        $path = (string) tempnam(sys_get_temp_dir(), 'yard');
        file_put_contents($path, "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n");
        $shot = self::shot($texture, ['kind' => 'file', 'file' => ['asset' => str_repeat('d', 64), 'fileName' => 'a.obj']]);
        $pipeline = new Pipeline(new MemoryStore(), new ListedAssets([str_repeat('d', 64) => $path]));
        self::assertStringContainsString('no texture coordinates', implode(' ', array_map(static fn ($finding): string => $finding->text, Checks::of($shot, $pipeline))));
        self::assertSame([0.0], Weighing::of($shot->props[0], PropShape::of($pipeline->prepared($shot->props[0]), $pipeline->surfaces))->evaluate(Samples::of([[0.1, 0.1, 0.1]]), 1.0));
        unlink($path);
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
