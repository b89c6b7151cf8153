<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\MeshCodec;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Settings;

/** As for the break ({@see ControlsTest}): what the form shows of a prop, its timing and its motion works, what it hides does not. */
final class PropControlsTest extends TestCase
{
    use Settings;

    private const ASSET = 'cccccccccccccccccccccccccccccccccccccccccccccccccccccccccccccccc';

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function sources(): iterable
    {
        foreach (['box', 'ball', 'cylinder', 'cone', 'pyramid', 'torus', 'jar', 'lathe'] as $kind) {
            yield $kind => [['kind' => $kind, 'divisions' => 2]];
        }
        // Longer than wide: in a square one, square cells change nothing.
        yield 'sheet' => [['kind' => 'sheet', 'divisions' => 2, 'width' => 2.0]];
        yield 'a box with a shell and cut lines' => [['kind' => 'box', 'divisions' => 2, 'shell' => 0.05, 'cutLines' => 2]];
        yield 'a file' => [['kind' => 'file', 'asset' => self::ASSET, 'fileName' => 'a.obj']];
        yield 'a file of a set size' => [['kind' => 'file', 'asset' => self::ASSET, 'fileName' => 'a.obj', 'size' => 0.7]];
        yield 'art' => [['kind' => 'art', 'asset' => self::ASSET, 'fileName' => 'a.svg']];
        yield 'art of a set size' => [['kind' => 'art', 'asset' => self::ASSET, 'fileName' => 'a.svg', 'size' => 0.7]];
        yield 'a box of a set size' => [['kind' => 'box', 'divisions' => 2, 'size' => 0.7]];
    }

    /** @param array<string, mixed> $source */
    #[DataProvider('sources')]
    #[Group('thorough')]
    public function testWhatIsShownOfAPropWorks(array $source): void
    {
        // A box with a face missing and another turned, so that there is something to repair.
        $box = Solids::box(1, 2, 3, 2);
        $path = (string) tempnam(sys_get_temp_dir(), 'yard');
        file_put_contents($path, $source['kind'] === 'art'
            ? '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h40v20h-30z" fill="#2468ac"/></svg>'
            : ObjWriter::write([['box', $box->turned([3])->picked(range(0, $box->triangleCount() - 2))]]));
        $document = ['version' => 1, 'props' => [['id' => 'a', 'name' => 'A', 'source' => $source]]];
        $pipeline = new Pipeline(new MemoryStore(), new ListedAssets([self::ASSET => $path]));
        $bytes = static fn (Shot $shot): array => [MeshCodec::encode($pipeline->prepared($shot->props[0]))];
        $hash = static fn (Shot $shot): string => $pipeline->preparedHash($shot->props[0]);
        // A sheet has no edges within.
        $skip = ['kind', 'asset', 'fileName', 'profile', 'painted', ...$source['kind'] === 'sheet' ? ['shading'] : []];
        // What is prepared does not ask where it came from: one of each kind is enough.
        $prepared = isset($source['size']) || isset($source['shell']) || in_array($source['kind'], ['sheet', 'file', 'art'], true);
        foreach (['source', ...$prepared || getenv('YARD_BREAK_LONG') ? ['prepare'] : []] as $part) {
            self::assertControlsWork($document, ['props', '0', $part], $bytes, $hash, $skip, ['even' => [300], 'cutLines' => [3], 'divide' => [1], 'smooth' => [1]]);
        }
        unlink($path);
    }

    /** @return iterable<string, array{array<string, mixed>, array<string, mixed>}> */
    public static function motions(): iterable
    {
        // All of it is in the next, too.
        if (getenv('YARD_BREAK_LONG')) {
            yield 'on contact' => [['release' => 'contact', 'contactSpeed' => 1.5], ['before' => 'falls']];
        }
        yield 'on contact, near the blow only' => [['release' => 'contact', 'contactSpeed' => 0.5, 'within' => 0.25], ['before' => 'falls']];
        yield 'at a frame' => [['release' => 'frame', 'frame' => 4], ['before' => 'held']];
        // A cue is a frame with a name.
        if (getenv('YARD_BREAK_LONG')) {
            yield 'at a cue' => [['release' => 'cue', 'cue' => 'one'], ['before' => 'held']];
        }
        yield 'by a sweep' => [['release' => 'sweep', 'from' => 2, 'to' => 12], ['before' => 'held']];
        // Alike but for where the front begins.
        if (getenv('YARD_BREAK_LONG')) {
            yield 'from the blow' => [['release' => 'blow', 'from' => 2, 'to' => 12], ['before' => 'held']];
        }
        yield 'never' => [['release' => 'never'], ['before' => 'falls']];
    }

    /**
     * @param array<string, mixed> $timing
     * @param array<string, mixed> $motion
     */
    #[DataProvider('motions')]
    #[Group('thorough')]
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
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $frames = static fn (Shot $shot): iterable => self::frames($pipeline, $shot);
        $acting = static fn (Shot $shot): string => $pipeline->acting($shot)[1]->upTo($shot->frames);
        // What a thing at rest would do is not seen while it is held; what never lets go needs no glue.
        // How a weight follows its sources: {@see ShapeControlsTest}. Cutting at its front: below.
        $skip = ['cuts', 'trigger', 'source', 'mover', 'keeps', 'follows', 'curve', 'pieces', ...$timing['release'] === 'never' ? ['glue'] : ['before']];
        // Where it stands and what it falls on works alike whatever lets go: once is enough.
        $once = $timing['release'] === 'frame';
        foreach (['release', 'weight', 'motion', ...$once ? ['position', 'rotation', 'scale'] : []] as $part) {
            self::assertControlsWork($document($timing, $motion), ['props', '0', $part], $frames, $pipeline->motionHash(...), $skip, [
                'cue' => ['two'], 'speed' => [50.0, 0.05], 'within' => [0.08, 0.4], 'axis' => ['x', 'z'],
                'velocity' => [['x' => 1.0, 'y' => 0.5, 'z' => 0.0]], 'angularVelocity' => [['x' => 90.0, 'y' => 0.0, 'z' => 50.0]], 'restitution' => [0.9, 0.5],
            ], $acting);
        }
        // Where and on whom a force acts: {@see ForceControlsTest}.
        $elsewhere = ['everywhere', 'props', 'byWeight'];
        foreach ($once || $timing['release'] === 'never' ? ['planes', 'forces', 'settleSpeed', 'fps'] : [] as $part) {
            self::assertControlsWork($document($timing, $motion), [$part], $frames, $pipeline->motionHash(...), ['force', 'name', 'id', ...$elsewhere], ['restitution' => [0.9, 0.5], 'height' => [-0.2], 'tilt' => [['x' => 12, 'z' => 5]], 'settleSpeed' => [0.9]], $acting);
        }
    }

    /** @return iterable<string, array{array<string, mixed>, array<string, mixed>}> */
    public static function softMotions(): iterable
    {
        $sweep = ['weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['from' => 2, 'to' => 20, 'softness' => 0.6]]]], 'release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.1, 'every' => 2]]];
        yield 'light, at a frame' => [['release' => ['trigger' => 'frame', 'frame' => ['frame' => 3]]], ['mover' => 'light', 'light' => ['life' => 9, 'fade' => 3, 'velocity' => ['x' => 2.0]]]];
        // Another prop's nearness is a weight, too.
        if (getenv('YARD_BREAK_LONG')) {
            yield 'light, by its weight' => [$sweep, ['mover' => 'light', 'light' => ['life' => 9, 'fade' => 3, 'outward' => 1.0]]];
        }
        $near = ['weight' => ['stack' => [['source' => 'reach', 'reach' => ['props' => ['b'], 'full' => 0.1, 'none' => 0.4]]]], 'release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.1]]];
        if (getenv('YARD_BREAK_LONG')) {
            yield 'light, near another prop' => [$near, ['mover' => 'light', 'light' => ['velocity' => ['x' => 0.2]]]];
        }
        yield 'staged, at a frame' => [['release' => ['trigger' => 'frame', 'frame' => ['frame' => 3]]], ['mover' => 'staged', 'staged' => ['takes' => 9, 'outward' => 0.1, 'offset' => ['x' => 0.05], 'rotation' => ['z' => 30]]]];
        yield 'staged, falling from the end' => [['release' => ['trigger' => 'frame', 'frame' => ['frame' => 3]]], ['mover' => 'staged', 'staged' => ['takes' => 6, 'outward' => 0.1, 'offset' => ['x' => 0.05], 'rotation' => ['z' => 30], 'after' => 'end']]];
        yield 'swelling, at a frame' => [['release' => ['trigger' => 'frame', 'frame' => ['frame' => 3]]], ['mover' => 'swell', 'swell' => ['takes' => 9]]];
        yield 'changing shape, by its weight' => [$sweep, ['mover' => 'morph', 'morph' => ['shape' => 'b']]];
        yield 'swelling, by its weight' => [$sweep, ['mover' => 'swell', 'swell' => ['even' => 0.2]]];
        $halves = ['break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 2, 'seed' => 3]]];
        yield 'soft, by its weight' => [[...$sweep, ...$halves], ['mover' => 'soft', 'soft' => ['fineness' => 2, 'growth' => 60, 'softer' => 0.3]]];
        if (getenv('YARD_BREAK_LONG')) {
            yield 'soft, falling at once' => [['release' => ['trigger' => 'never'], ...$halves], ['mover' => 'soft', 'soft' => ['before' => 'falls', 'fineness' => 3, 'stiffness' => 5]]];
        }
        // By its weight has the rest.
        if (getenv('YARD_BREAK_LONG')) {
            yield 'set on another, at a frame' => [['release' => ['trigger' => 'frame', 'frame' => ['frame' => 3]]], ['mover' => 'set', 'set' => ['on' => 'b', 'takes' => 9]]];
        }
        yield 'set on another, by its weight' => [['release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.1]]], ['mover' => 'set', 'set' => ['on' => 'c', 'upright' => 0.3]]];
        // Much of it is in the next, too.
        if (getenv('YARD_BREAK_LONG')) {
            yield 'staged, cut at the front' => [['release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.1, 'cuts' => true, 'every' => 2]]] + $sweep, ['mover' => 'staged', 'staged' => ['takes' => 9, 'outward' => 0.1, 'offset' => ['x' => 0.05], 'rotation' => ['z' => 30]]]];
        }
        yield 'staged, by its weight' => [$sweep, ['mover' => 'staged', 'staged' => ['takes' => 9, 'outward' => 0.1, 'offset' => ['x' => 0.05], 'rotation' => ['z' => 30]]]];
    }

    /**
     * @param array<string, mixed> $release
     * @param array<string, mixed> $motion
     */
    #[DataProvider('softMotions')]
    #[Group('thorough')]
    public function testWhatIsShownOfOtherMotionsWorks(array $release, array $motion): void
    {
        // Soft ones are slow: what they do shows early.
        $length = isset($motion['soft']) ? 11 : 20;
        $document = static fn (float $gusts): array => ['version' => 2, 'frames' => $length, 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity'], ['id' => 'w', 'name' => 'W', 'force' => 'wind', 'wind' => ['size' => 0.3, 'turbulence' => $gusts]]], 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 1]], 'position' => ['y' => 0.35], 'rotation' => ['x' => 20, 'z' => 10],
            'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 8, 'seed' => 3]], ...$release, 'motion' => $motion,
        ], [
            // Falls on the other and slides off, so that friction and bounce tell.
            'id' => 'b', 'name' => 'B', 'source' => ['box' => ['width' => 0.1, 'height' => 0.1, 'depth' => 0.1, 'divisions' => 1]], 'position' => ['y' => 0.75], 'break' => ['pattern' => 'whole'], 'motion' => ['rigid' => ['before' => 'falls', 'velocity' => ['x' => 0.5]]],
        ], ...isset($motion['set']) ? [[
            'id' => 'c', 'name' => 'C', 'source' => ['box' => ['width' => 0.2, 'divisions' => 2]], 'position' => ['x' => 2.0], 'release' => ['trigger' => 'never'], 'break' => ['pattern' => 'whole'],
            'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['from' => 2, 'to' => 20, 'softness' => 0.6]]]],
        ]] : []]];
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $frames = static fn (Shot $shot): iterable => self::frames($pipeline, $shot);
        // Where a piece reads its weight is tried where pieces are moved by it.
        $reads = isset($motion['staged'], $release['weight']) || isset($motion['light']['outward']);
        $skip = ['trigger', 'source', 'mover', 'force', 'name', 'id', 'keeps', 'follows', 'curve', 'shape', ...$reads ? [] : ['pieces']];
        $acting = static fn (Shot $shot): string => $pipeline->acting($shot)[1]->upTo($shot->frames);
        $others = ['fallsAtCue' => ['two'], ...isset($motion['set']) ? ['on' => ['c', 'b'], 'evenness' => [0.0, 0.9]] : [], 'axis' => ['x', 'z'], 'props' => [[]], 'restitution' => [0.9, 0.5], 'velocity' => [['x' => 1.0, 'y' => 0.5, 'z' => 0.0]]];
        foreach ([['props', '0', 'motion'], ['props', '0', 'release'], ...isset($release['weight']) && ! isset($motion['swell']) && ! isset($motion['morph']) && ! isset($motion['set']) ? [['props', '0', 'weight']] : [], ...isset($motion['light']['outward']) || isset($motion['set']) || isset($motion['cloth']) || isset($motion['soft']) || getenv('YARD_BREAK_LONG') ? [['props', '0', 'position']] : [], ...isset($motion['light']['outward']) ? [['forces'], ['props', '0', 'scale']] : [], ...isset($motion['set']) ? [['props', '0', 'rotation'], ['props', '0', 'scale']] : []] as $part) {
            // Gusts take a while to make, so they blow only where they are looked at.
            self::assertControlsWork($document($part === ['forces'] ? 0.8 : 0.0), $part, $frames, $pipeline->motionHash(...), $part === ['forces'] ? [...$skip, 'everywhere', 'props', 'byWeight'] : $skip, $others, $acting);
        }
    }

    /** @return iterable<string, array{0: array<string, mixed>, 1?: string}> */
    public static function joints(): iterable
    {
        yield 'a rope, cut at a frame' => [['joint' => 'rope', 'cut' => 'frame', 'frame' => 9, 'rope' => ['from' => ['x' => 0, 'y' => 0.6, 'z' => 0], 'to' => ['x' => 0.4, 'y' => 0.9, 'z' => 0]]]];
        yield 'a spring, cut at a cue' => [['joint' => 'spring', 'cut' => 'cue', 'cue' => 'one', 'spring' => ['from' => ['x' => 0, 'y' => 0.6, 'z' => 0], 'to' => ['x' => 0.4, 'y' => 0.9, 'z' => 0]]]];
        yield 'a hinge about an axis' => [['joint' => 'hinge', 'hinge' => ['at' => ['x' => 0.1, 'y' => 0.6, 'z' => 0], 'axis' => ['x' => 0, 'y' => 0, 'z' => 1], 'stops' => true, 'low' => -20, 'high' => 10]], 'low'];
        yield 'a hinge about an axis, the other way' => [['joint' => 'hinge', 'hinge' => ['at' => ['x' => -0.1, 'y' => 0.6, 'z' => 0], 'axis' => ['x' => 0, 'y' => 0, 'z' => 1], 'stops' => true, 'low' => -20, 'high' => 10]], 'high'];
        yield 'a hinge that turns any way' => [['joint' => 'hinge', 'hinge' => ['at' => ['x' => 0.1, 'y' => 0.6, 'z' => 0], 'turns' => 'any']]];
    }

    /**
     * @param array<string, mixed> $joint
     * @param string $away a stop that it swings away from
     */
    #[DataProvider('joints')]
    #[Group('slow')]
    public function testWhatIsShownOfAJointWorks(array $joint, string $away = ''): void
    {
        $box = static fn (string $id, float $x, float $y, string $before = 'falls'): array => ['id' => $id, 'name' => $id, 'source' => ['box' => ['width' => 0.2, 'height' => 0.2, 'depth' => 0.2, 'divisions' => 1]], 'position' => ['x' => $x, 'y' => $y], 'rotation' => ['y' => 20], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => $before]]];
        // The third, which stays, lies a little in the first: only what touches is pushed apart.
        $document = ['version' => 2, 'frames' => 16, 'cues' => [['id' => 'one', 'name' => 'One', 'frame' => 9], ['id' => 'two', 'name' => 'Two', 'frame' => 5]], 'planes' => [], 'joints' => [['id' => 'j', 'name' => 'J', 'prop' => 'a', 'other' => 'c', 'frame' => 9, ...$joint]], 'props' => [$box('a', 0.0, 0.5), $box('b', 0.6, 0.9), $box('c', 0.16, 0.66, 'held')]];
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $frames = static fn (Shot $shot): iterable => self::frames($pipeline, $shot);
        self::assertControlsWork($document, ['joints', '0'], $frames, $pipeline->motionHash(...), ['id', 'name', 'joint', $away], ['prop' => ['b'], 'other' => ['b', ''], 'strength' => [2.0], 'cue' => ['two'], 'low' => [-5], 'high' => [60]], static fn (Shot $shot): string => $pipeline->acting($shot)[1]->upTo($shot->frames));
    }

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function paths(): iterable
    {
        $path = ['on' => true, 'places' => [['x' => 0.0, 'y' => 0.5, 'z' => 0.0], ['x' => 0.5, 'y' => 0.7, 'z' => 0.0], ['x' => 0.5, 'y' => 0.9, 'z' => 0.5]], 'along' => ['keys' => [['frame' => 1, 'value' => 10], ['frame' => 10, 'value' => 90]]]];
        yield 'level' => [$path];
        yield 'wholly' => [['turns' => 'wholly', 'ahead' => 'x', 'closed' => true, ...$path]];
        yield 'not' => [['turns' => 'not', ...$path]];
        yield 'none' => [['on' => false, ...array_diff_key($path, ['on' => 0])]];
    }

    /** @param array<string, mixed> $path */
    #[DataProvider('paths')]
    public function testWhatIsShownOfAPathWorks(array $path): void
    {
        $document = ['version' => 2, 'frames' => 10, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 0.3, 'divisions' => 1]], 'position' => ['x' => 0.1], 'path' => $path, 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']]]];
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $frames = static fn (Shot $shot): iterable => self::frames($pipeline, $shot);
        self::assertControlsWork($document, ['props', '0', 'path'], $frames, $pipeline->motionHash(...), [], ['places' => [[['x' => 0.0, 'y' => 0.5, 'z' => 0.0], ['x' => 0.2, 'y' => 0.4, 'z' => 0.6]]], 'along' => [40.0]], static fn (Shot $shot): string => $pipeline->acting($shot)[1]->upTo($shot->frames));
    }

    /** @return iterable<string> */
    private static function frames(Pipeline $pipeline, Shot $shot): iterable
    {
        foreach ($pipeline->frames($shot) as $frame) {
            yield serialize($frame);
        }
    }
}
