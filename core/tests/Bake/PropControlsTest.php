<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\ListedAssets;
use YardBreak\Core\Bake\MemoryStore;
use YardBreak\Core\Bake\MeshCodec;
use YardBreak\Core\Bake\NoAssets;
use YardBreak\Core\Bake\Pipeline;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Shot\Shot;
use YardBreak\Core\Shot\ShotSchema;
use YardBreak\Core\Tests\Fixture\Settings;

/** As for the break ({@see ControlsTest}): what the form shows of a prop, its timing and its motion works, what it hides does not. */
final class PropControlsTest extends TestCase
{
    use Settings;

    private const ASSET = 'cccccccccccccccccccccccccccccccccccccccccccccccccccccccccccccccc';

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function sources(): iterable
    {
        foreach (['box', 'ball', 'cylinder', 'cone', 'pyramid', 'torus', 'sheet', 'jar', 'lathe'] as $kind) {
            yield $kind => [['kind' => $kind, 'divisions' => 2]];
        }
        yield 'a box with a shell and cut lines' => [['kind' => 'box', 'divisions' => 2, 'shell' => 0.05, 'cutLines' => 2]];
        yield 'a file' => [['kind' => 'file', 'asset' => self::ASSET, 'fileName' => 'a.obj']];
        yield 'a file of a set size' => [['kind' => 'file', 'asset' => self::ASSET, 'fileName' => 'a.obj', 'size' => 0.7]];
        yield 'art' => [['kind' => 'art', 'asset' => self::ASSET, 'fileName' => 'a.svg']];
        yield 'art of a set size' => [['kind' => 'art', 'asset' => self::ASSET, 'fileName' => 'a.svg', 'size' => 0.7]];
        yield 'a box of a set size' => [['kind' => 'box', 'divisions' => 2, 'size' => 0.7]];
    }

    /** @param array<string, mixed> $source */
    #[DataProvider('sources')]
    public function testWhatIsShownOfAPropWorks(array $source): void
    {
        // A box with a face missing and another turned, so that there is something to repair.
        $box = Solids::box(1, 2, 3, 2);
        $path = (string) tempnam(sys_get_temp_dir(), 'yard');
        file_put_contents($path, $source['kind'] === 'art'
            ? '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h40v20h-30z" fill="#2468ac"/></svg>'
            : ObjWriter::write([['box', $box->turned([3])->picked(range(0, $box->triangleCount() - 2))]]));
        $bytes = static function (array $settings) use ($path): string {
            $shot = Shot::read(['version' => 1, 'props' => [['id' => 'a', 'name' => 'A', 'source' => $settings]]]);

            return MeshCodec::encode((new Pipeline(new MemoryStore(), new ListedAssets([self::ASSET => $path])))->prepared($shot->props[0]->source));
        };
        $skip = ['kind', 'asset', 'fileName', 'profile', 'painted'];
        self::assertControlsWork('source', $source, $bytes, $skip, ['props' => [['id' => 'a', 'name' => 'A', 'source' => $source]]], ['even' => [300], 'cutLines' => [3], 'divide' => [1], 'smooth' => [1]]);
        unlink($path);
    }

    /** @return iterable<string, array{array<string, mixed>, array<string, mixed>}> */
    public static function motions(): iterable
    {
        yield 'on contact' => [['release' => 'contact', 'contactSpeed' => 1.5], ['before' => 'falls']];
        yield 'on contact, near the blow only' => [['release' => 'contact', 'contactSpeed' => 0.5, 'within' => 0.25], ['before' => 'falls']];
        yield 'at a frame' => [['release' => 'frame', 'frame' => 4], ['before' => 'held']];
        yield 'at a cue' => [['release' => 'cue', 'cue' => 'one'], ['before' => 'held']];
        yield 'by a sweep' => [['release' => 'sweep', 'from' => 2, 'to' => 12], ['before' => 'held']];
        yield 'from the blow' => [['release' => 'blow', 'from' => 2, 'to' => 12], ['before' => 'held']];
        yield 'never' => [['release' => 'never'], ['before' => 'falls']];
    }

    /**
     * @param array<string, mixed> $timing
     * @param array<string, mixed> $motion
     */
    #[DataProvider('motions')]
    public function testWhatIsShownOfTimingAndMotionWorks(array $timing, array $motion): void
    {
        $document = static fn (array $timing, array $motion): array => ['version' => 1, 'frames' => 18, 'cues' => [['id' => 'one', 'name' => 'One', 'frame' => 3], ['id' => 'two', 'name' => 'Two', 'frame' => 9]], 'props' => [
            [
                'id' => 'a', 'name' => 'A', 'source' => ['kind' => 'box', 'width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 1], 'place' => ['y' => 0.35], 'turn' => ['x' => 20, 'z' => 10],
                'break' => ['pattern' => 'web', 'rays' => 4, 'rings' => 2, 'radius' => 0.2, 'at' => ['x' => 0.02, 'y' => 0.15, 'z' => 0.03], 'seed' => 3], 'timing' => $timing, 'motion' => $motion,
            ],
            // Another, so that density tells.
            ['id' => 'b', 'name' => 'B', 'source' => ['kind' => 'box', 'width' => 0.2, 'height' => 0.1, 'depth' => 0.2, 'divisions' => 1], 'place' => ['x' => 0.05, 'y' => 0.05], 'break' => ['pattern' => 'whole'], 'timing' => ['release' => 'never'], 'motion' => ['before' => 'falls', 'density' => 800]],
        ]];
        $frames = static function (array $timing, array $motion) use ($document): string {
            $all = '';
            foreach ((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read($document($timing, $motion))) as $frame) {
                $all .= serialize($frame);
            }

            return $all;
        };
        self::assertControlsWork('timing', $timing, static fn (array $t): string => $frames($t, $motion), ['release'], $document($timing, $motion), [
            'cue' => ['two'], 'contactSpeed' => [50.0, 0.05], 'within' => [0.08, 0.4], 'axis' => ['x', 'z'],
        ]);
        // What a thing at rest would do is not seen while it is held.
        $skip = $timing['release'] === 'never' ? [] : ['before'];
        self::assertControlsWork('motion', $motion, static fn (array $m): string => $frames($timing, $m), $skip, $document($timing, $motion), [
            'velocity' => [['x' => 1.0, 'y' => 0.5, 'z' => 0.0]], 'spin' => [['x' => 90.0, 'y' => 0.0, 'z' => 50.0]], 'bounce' => [0.9, 0.5],
        ]);
    }

    /**
     * @param array<string, mixed> $settings
     * @param callable(array<string, mixed>): string $result
     * @param list<string> $skip
     * @param array<string, mixed> $document
     * @param array<string, list<mixed>> $others instead of the usual ones
     */
    private static function assertControlsWork(string $part, array $settings, callable $result, array $skip, array $document, array $others): void
    {
        $schema = ShotSchema::load();
        $full = $schema->complete(['version' => 1] + $document);
        foreach (['props', 0, $part] as $key) {
            self::assertIsArray($full);
            $full = $full[$key];
        }
        self::assertIsArray($full);
        $before = $result($settings);
        foreach (array_keys((array) ($schema->field(['props', '0', $part])['properties'] ?? [])) as $name) {
            $field = $schema->field(['props', '0', $part, (string) $name]);
            if (in_array($name, $skip, true) || ($field['x-hidden'] ?? false) === true) {
                continue;
            }
            $shown = ! isset($field['x-when']) || self::holds($field['x-when'], $full);
            $works = false;
            foreach ($others[$name] ?? self::others($field, $full[$name]) as $other) {
                $works = $works || $result([...$settings, (string) $name => $other]) !== $before;
            }
            self::assertSame($shown, $works, $shown ? "{$part}: {$name} is shown, but it changes nothing" : "{$part}: {$name} is not shown, but it matters");
        }
    }
}
