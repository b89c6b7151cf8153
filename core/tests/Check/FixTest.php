<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Check\Finding;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\CountingStore;

/** What is found before a bake says where, and what it offers to do about it does it. */
final class FixTest extends TestCase
{
    /** @return iterable<string, array{array<string, mixed>, string, bool}> what differs from a shot in order, a word of the finding, whether there is a fix */
    public static function troubles(): iterable
    {
        yield 'no prop' => [['props' => []], 'is empty', false];
        yield 'nothing moves' => [['props' => [self::prop(['timing' => ['release' => 'never'], 'motion' => ['before' => 'held']])]], 'Nothing will move', true];
        yield 'a pre-roll in which nothing is loose' => [['version' => 2, 'preRoll' => 24, 'props' => [['id' => 'block', 'name' => 'Block', 'position' => ['y' => 1.0], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 12]]]]], 'nothing is loose yet', true];
        yield 'nothing falls' => [['gravity' => 0.0], 'Nothing will fall', true];
        yield 'an open mesh' => [['props' => [self::prop(['source' => ['kind' => 'sheet']])]], 'not watertight', true];
        yield 'no file' => [['props' => [self::prop(['source' => ['kind' => 'file']])]], 'No file', false];
        yield 'too many flakes' => [['props' => [self::prop(['break' => ['pattern' => 'flakes', 'flakes' => 3000], 'timing' => ['release' => 'frame']])]], '3,000 flakes', true];
        yield 'flakes of cloth in needles' => [['version' => 2, 'props' => [['id' => 'block', 'name' => 'Block', 'position' => ['y' => 1.0], 'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 60, 'thickness' => 0]], 'release' => ['trigger' => 'frame'], 'motion' => ['mover' => 'cloth']]]], 'into needles', true];
        yield 'no line' => [['props' => [self::prop(['break' => ['pattern' => 'drawn']])]], 'No cut line', false];
        yield 'too late' => [['props' => [self::prop(['timing' => ['release' => 'frame', 'frame' => 500]])]], 'ends at frame', true];
        yield 'a cue too late' => [['cues' => [['id' => 'late', 'name' => 'Late', 'frame' => 400]], 'props' => [self::prop(['timing' => ['release' => 'cue', 'cue' => 'late']])]], 'ends at frame', true];
        yield 'no cue' => [['props' => [self::prop(['timing' => ['release' => 'cue']])]], 'none is chosen', false];
        yield 'a front too late' => [['props' => [self::prop(['timing' => ['release' => 'sweep', 'from' => 300, 'to' => 400]])]], 'front on Block starts', false];
        yield 'from the blow, without a blow' => [['props' => [self::prop(['timing' => ['release' => 'blow']])]], 'break has none', true];
        yield 'finer by a weight that is the same everywhere' => [['props' => [self::prop(['break' => ['density' => 'weight']])]], 'same everywhere', true];
        yield 'held until touched, alone' => [['props' => [self::prop(['motion' => ['before' => 'held']])]], 'nothing else that can touch', true];
        $held = ['id' => 'block', 'name' => 'Block', 'position' => ['y' => 1.0], 'break' => ['pattern' => 'whole'], 'motion' => ['rigid' => ['before' => 'falls']]];
        $rope = ['id' => 'rope', 'name' => 'Rope', 'prop' => 'block', 'rope' => ['from' => ['x' => 0, 'y' => 1.5, 'z' => 0], 'to' => ['x' => 0, 'y' => 3, 'z' => 0]]];
        $sheet = ['id' => 'sheet', 'name' => 'Sheet', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.5, 'depth' => 0.5, 'divisions' => 8]], 'position' => ['y' => 1.7], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'cloth']];
        $lace = ['id' => 'lace', 'name' => 'Lace', 'joint' => 'fastening', 'prop' => 'sheet', 'other' => 'block', 'fastening' => ['within' => 0.5]];
        yield 'a fastening of nothing' => [['version' => 2, 'joints' => [['prop' => ''] + $lace], 'props' => [$held, $sheet]], 'no prop is chosen that moves as cloth', true];
        yield 'a fastening to nothing' => [['version' => 2, 'joints' => [['other' => ''] + $lace], 'props' => [$held, $sheet]], 'no prop is chosen that moves as hard pieces', true];
        yield 'a fastening to nothing, with two to choose from' => [['version' => 2, 'joints' => [['other' => ''] + $lace], 'props' => [['id' => 'far', 'name' => 'Far', 'position' => ['x' => 3.0, 'y' => 1.0]] + $held, $held, $sheet]], 'no prop is chosen that moves as hard pieces', true];
        yield 'a fastening of what is gone' => [['version' => 2, 'joints' => [['prop' => 'gone'] + $lace], 'props' => [$held, $sheet]], 'is not in the shot', true];
        yield 'a fastening of hard pieces' => [['version' => 2, 'joints' => [['prop' => 'block'] + $lace], 'props' => [$held, $sheet]], 'Block does not move as cloth', true];
        yield 'a fastening to cloth' => [['version' => 2, 'joints' => [['other' => 'sheet'] + $lace], 'props' => [$held, $sheet]], 'Sheet does not move as hard pieces', true];
        yield 'a fastening out of reach' => [['version' => 2, 'joints' => [['fastening' => ['within' => 0.01]] + $lace], 'props' => [$held, $sheet]], 'm away from Block', true];
        yield 'a fastening of what is held anyway' => [['version' => 2, 'joints' => [$lace], 'props' => [$held, ['release' => ['trigger' => 'never']] + $sheet]], 'held all over', true];
        yield 'a joint of nothing' => [['version' => 2, 'joints' => [['prop' => ''] + $rope], 'props' => [$held]], 'holds nothing yet', true];
        yield 'a joint on what is gone' => [['version' => 2, 'joints' => [['other' => 'gone'] + $rope], 'props' => [$held]], 'not in the shot', true];
        yield 'a joint on itself' => [['version' => 2, 'joints' => [['other' => 'block'] + $rope], 'props' => [$held]], 'to itself', true];
        yield 'a joint on cloth' => [['version' => 2, 'joints' => [$rope], 'props' => [['motion' => ['mover' => 'light']] + $held]], 'only what moves as hard pieces', false];
        yield 'a joint beside its prop' => [['version' => 2, 'joints' => [['rope' => ['from' => ['x' => 3, 'y' => 1, 'z' => 0]]] + $rope], 'props' => [$held]], 'beside it', false];
        yield 'a joint on what never moves' => [['version' => 2, 'joints' => [$rope], 'props' => [['release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'held']]] + $held]], 'nothing to hold back', false];
        $cut = ['version' => 2, 'props' => [['release' => ['trigger' => 'weight', 'weight' => ['cuts' => true]], 'break' => ['cellular' => ['pieces' => 4]]] + $held]];
        $cut['props'][0]['weight'] = ['stack' => [['source' => 'picked', 'picked' => ['places' => [['x' => 0.5, 'y' => 0, 'z' => 0]]]]]];
        yield 'cut by pieces that are not there' => [$cut, 'there are none yet', true];
        $path = ['on' => true, 'places' => [['x' => 0, 'y' => 1, 'z' => 0], ['x' => 1, 'y' => 1, 'z' => 0]]];
        yield 'still on its path' => [['version' => 2, 'props' => [['id' => 'block', 'name' => 'Block', 'path' => $path, 'break' => ['pattern' => 'whole']]]], 'never goes along', true];
        yield 'a path of one place' => [['version' => 2, 'props' => [['id' => 'block', 'name' => 'Block', 'position' => ['y' => 1.0], 'path' => ['on' => true, 'places' => [['x' => 0, 'y' => 1, 'z' => 0]]]]]], 'fewer than two places', false];
        $staged = static fn (array $staged): array => ['version' => 2, 'frames' => 48, 'props' => [['id' => 'block', 'name' => 'Block', 'position' => ['y' => 2.0], 'release' => ['trigger' => 'frame'], 'motion' => ['mover' => 'staged', 'staged' => ['outward' => 1.0, ...$staged]]]]];
        yield 'falls at no cue' => [$staged(['after' => 'cue']), 'none is chosen', true];
        $sheet = ['id' => 'sheet', 'name' => 'Sheet', 'source' => ['kind' => 'sheet'], 'position' => ['y' => 1.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'contact']];
        yield 'cloth that nothing touches' => [['version' => 2, 'props' => [['motion' => ['mover' => 'cloth']] + $sheet]], 'nothing else that can touch it moves', true];
        yield 'soft and still' => [['version' => 2, 'props' => [['source' => ['kind' => 'box'], 'motion' => ['mover' => 'soft', 'soft' => ['before' => 'held']]] + $sheet, ['id' => 'wall', 'name' => 'Wall', 'position' => ['x' => 3.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']]]], 'nothing else that can touch it moves', true];
        yield 'soft, and as fine as a scan' => [['version' => 2, 'props' => [['id' => 'block', 'name' => 'Block', 'source' => ['kind' => 'ball', 'ball' => ['divisions' => 42]], 'position' => ['y' => 1.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame'], 'motion' => ['mover' => 'soft']]]], 'each of them bends', true];
        $never = $staged(['after' => 'end']);
        $never['props'][0]['release'] = ['trigger' => 'never'];
        yield 'falls from the end of a way that it never goes' => [$never, 'never sets out', true];
        yield 'falls after the end' => [$staged(['after' => 'frame', 'fallsAt' => 49]), 'after the end of the shot', true];
        yield 'copies in one place' => [['version' => 2, 'props' => [['id' => 'block', 'name' => 'Block', 'position' => ['y' => 2.0], 'break' => ['pattern' => 'copies'], 'motion' => ['rigid' => ['before' => 'falls']]]]], 'in one place', true];
        yield 'in the floor' => [['props' => [self::prop(['place' => ['y' => 0.2]])]], 'below the floor', true];
        yield 'turned into the floor' => [['props' => [self::prop(['place' => ['y' => 0.55], 'turn' => ['z' => 45]])]], 'below the floor', true];
        $light = ['id' => 'block', 'name' => 'Block', 'position' => ['y' => 2.0], 'break' => ['cellular' => ['pieces' => 8]]];
        yield 'a touch that is not felt' => [['version' => 2, 'props' => [[...$light, 'motion' => ['mover' => 'light']]]], 'feels none', true];
        yield 'a wind that nothing feels' => [['version' => 2, 'forces' => [['id' => 'g', 'name' => 'G'], ['id' => 'w', 'name' => 'W', 'force' => 'wind']], 'props' => [[...$light, 'motion' => ['rigid' => ['before' => 'falls']]]]], 'hardly moves anything', false];
        yield 'only a wind, that hard pieces do not feel' => [['version' => 2, 'forces' => [['id' => 'w', 'name' => 'W', 'force' => 'wind']], 'props' => [[...$light, 'release' => ['trigger' => 'frame']]]], 'Nothing will fall', true];
        yield 'glue between flakes' => [['version' => 2, 'props' => [[...$light, 'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 20]], 'release' => ['trigger' => 'frame'], 'motion' => ['rigid' => ['glue' => 1.0]]]]], 'no two of its pieces touch', true];
        $inside = static fn (float $high, array $motion): array => ['version' => 2, 'props' => [
            ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.4, 'height' => 0.4, 'depth' => 0.4]], 'position' => ['y' => $high], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame'], 'motion' => $motion],
            ['id' => 'sill', 'name' => 'Sill', 'source' => ['box' => ['width' => 1.0, 'height' => 0.4, 'depth' => 1.0]], 'position' => ['y' => 0.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
        ]];
        yield 'cloth in another prop' => [$inside(0.55, ['mover' => 'cloth']), 'inside Sill', false];
        yield 'a hard piece in another' => [$inside(0.57, ['rigid' => ['before' => 'falls']]), 'inside Sill', false];
        $force = static fn (array $force): array => ['version' => 2, 'frames' => 48, 'forces' => [['id' => 'g', 'name' => 'G'], ['id' => 'f', 'name' => 'F', ...$force]], 'props' => [[...$light, 'release' => ['trigger' => 'frame']]]];
        yield 'a force on nobody' => [$force(['force' => 'turbulence', 'props' => ['ghost']]), 'acts on nothing', true];
        yield 'a pull to no prop' => [$force(['force' => 'pull', 'pull' => ['to' => 'prop', 'prop' => 'ghost']]), 'to none that is in the shot', false];
        yield 'a push along no line' => [$force(['force' => 'stream']), 'fewer than two places', false];
        yield 'a blast after the end' => [$force(['force' => 'blast', 'blast' => ['frame' => 60]]), 'the shot ends at 48', false];
        yield 'as strong as a weight that nobody has' => [$force(['force' => 'turbulence', 'byWeight' => true]), 'it acts wholly', true];
        $reach = static fn (array $reach): array => ['version' => 2, 'props' => [
            [...$light, 'release' => ['trigger' => 'weight'], 'weight' => ['stack' => [['source' => 'reach', 'reach' => $reach]]]],
            ['id' => 'ball', 'name' => 'Ball', 'position' => ['x' => ['keys' => [['frame' => 1, 'value' => 4], ['frame' => 40, 'value' => 1.6]]], 'y' => 2.0], 'source' => ['kind' => 'ball'], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
        ]];
        yield 'near nothing that is chosen' => [$reach([]), 'no prop is chosen', true];
        yield 'near a prop that is gone' => [$reach(['props' => ['ball', 'ghost'], 'none' => 3.0]), 'no longer in the shot', true];
        yield 'near a prop that never comes near' => [$reach(['props' => ['ball'], 'full' => 0.05]), 'never comes nearer', true];
        yield 'a weight that never gets above the threshold' => [$reach(['props' => ['ball'], 'full' => 0.05, 'none' => 1.0]), 'gets to', true];
        $falls = $reach(['props' => ['ball'], 'none' => 3.0]);
        $falls['props'][1]['motion'] = ['rigid' => ['before' => 'falls']];
        $seen = $reach(['props' => ['ball'], 'where' => 'motion']);
        $seen['props'][0]['break'] = ['pattern' => 'cellular', 'cellular' => ['density' => 'weight']];
        yield 'finer by a weight that is known later' => [$seen, 'before anything moves', false];
        yield 'near a prop that falls by itself' => [$falls, 'falls by itself', true];
        $empty = $reach(['props' => ['ball']]);
        $empty['props'][1]['source'] = ['kind' => 'file'];
        yield 'near a prop that has no mesh yet' => [$empty, 'No file', false];
        $still = $reach(['props' => ['ball'], 'full' => 0.5, 'none' => 3.0]);
        $still['props'][1]['position']['x'] = 1.0;
        $grows = static fn (array $spread, array $more = []): array => ['version' => 2, 'props' => [
            [...$light, 'release' => ['trigger' => 'weight'], 'weight' => ['stack' => [['source' => 'spread', 'spread' => $spread]]], ...$more],
            $reach([])['props'][1],
        ]];
        $further = ['weights' => [['id' => 'hot', 'name' => 'Hot', 'stack' => [['source' => 'zone']]]]];
        yield 'along a line that is not picked' => [['version' => 2, 'props' => [[...$light, 'release' => ['trigger' => 'weight'], 'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['axis' => 'line', 'places' => [['x' => 0, 'y' => 0, 'z' => 0]]]]]]]]], 'fewer than two places', false];
        yield 'growing from nowhere' => [$grows([]), 'no place is picked', false];
        yield 'growing where others touch that never come near' => [$grows(['begins' => 'touch', 'props' => ['ball']]), 'never comes nearer', true];
        yield 'growing where nothing is said to touch' => [$grows(['begins' => 'touch']), 'no prop is chosen', true];
        yield 'growing from a weight that is not chosen' => [$grows(['begins' => 'weight'], $further), 'none is chosen', true];
        yield 'slowed by a weight that is gone' => [$grows(['places' => [['x' => 0, 'y' => 0.5, 'z' => 0]], 'slowedBy' => 'gone'], $further), 'no longer there', true];
        yield 'as another weight that is not chosen' => [['version' => 2, 'props' => [[...$light, 'release' => ['trigger' => 'weight'], ...$further, 'weight' => ['stack' => [['source' => 'other']]]]]], 'none is chosen', true];
        yield 'growing over shells that do not hang together' => [['version' => 2, 'props' => [[...$light, 'source' => ['kind' => 'jar'], 'prepare' => ['shell' => 0.01, 'shellGap' => 0.05], 'release' => ['trigger' => 'weight'], 'weight' => ['stack' => [['source' => 'spread', 'spread' => ['places' => [['x' => 0, 'y' => 0.1, 'z' => 0]]]]]]]]], 'separate shells', false];
        yield 'a soft edge finer than the mesh' => [['version' => 2, 'props' => [[...$light, 'source' => ['kind' => 'sheet', 'sheet' => ['divisions' => 12]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'weight'], 'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['axis' => 'x', 'softness' => 0.06]]]], 'motion' => ['mover' => 'cloth']]]], 'cannot be seen', true];
        yield 'near a prop that stands still' => [$still, 'stands still', false];
        $inverted = $reach(['props' => ['ball'], 'full' => 0.5, 'none' => 0.6]);
        $inverted['props'][0]['weight']['stack'][0]['invert'] = true;
        $far = $reach(['props' => ['ball'], 'full' => 0.5, 'none' => 2.2]);
        $far['props'][0]['weight']['stack'][0]['invert'] = true;
        $far['props'][0]['source'] = ['box' => ['width' => 4]];
        $far['props'][1]['position'] = ['x' => ['keys' => [['frame' => 1, 'value' => -2], ['frame' => 40, 'value' => 2]]], 'y' => 2.8];
        yield 'what lets go is what is far' => [$far, 'wrong way round', true];
        $keys = static fn (float ...$frames): array => ['version' => 2, 'frames' => 48, 'props' => [[...$light, 'release' => ['trigger' => 'frame'], 'position' => ['y' => 2.0, 'x' => ['keys' => array_map(static fn (float $frame): array => ['frame' => $frame, 'value' => $frame / 100], $frames)]]]]];
        yield 'keys past the end' => [$keys(1, 60, 80), 'after the end of the shot', true];
        yield 'a cue on which nothing hangs' => [['cues' => [['id' => 'idle', 'name' => 'Idle', 'frame' => 4]]] + $keys(1, 4), 'nothing hangs on the cue', false];
        yield 'all at the first frame' => [$inverted, 'All of Block lets go at the first frame', false];
    }

    /** What goes its own way needs no force, and what is light needs only wind, hard or not. */
    public function testStagedPiecesAndPiecesInTheWindLackNothing(): void
    {
        $prop = ['id' => 'block', 'name' => 'Block', 'position' => ['y' => 2.0], 'break' => ['cellular' => ['pieces' => 8]], 'release' => ['trigger' => 'frame']];
        self::assertSame([], self::findings(['version' => 2, 'forces' => [], 'props' => [[...$prop, 'motion' => ['mover' => 'staged']]]]));
        self::assertSame([], self::findings(['version' => 2, 'forces' => [['id' => 'w', 'name' => 'W', 'force' => 'wind']], 'props' => [[...$prop, 'motion' => ['mover' => 'light']]]]));
        self::assertSame([], self::findings(['version' => 2, 'forces' => [['id' => 'g', 'name' => 'G'], ['id' => 'w', 'name' => 'W', 'force' => 'wind']], 'props' => [[...$prop, 'motion' => ['rigid' => ['density' => 60]]]]]), 'foam goes with the wind');
    }

    /** @param array<string, mixed> $change */
    #[DataProvider('troubles')]
    #[Group('slow')]
    public function testAFindingSaysWhereAndItsFixWorks(array $change, string $word, bool $hasFix): void
    {
        $document = Schema::load()->complete([...self::sound(), ...$change]);
        $found = array_values(array_filter(self::findings($document), static fn (Finding $f): bool => str_contains($f->text, $word)));
        self::assertCount(1, $found);
        [$finding] = $found;
        self::assertStringEndsWith('.', $finding->text);
        self::assertContains($finding->severity, ['stop', 'warn']);
        $path = array_slice(explode('/', $finding->pointer), 1);
        $at = $document;
        foreach ($path as $part) {
            self::assertIsArray($at);
            self::assertArrayHasKey($part, $at, $finding->pointer);
            $at = $at[$part];
        }
        self::assertSame($hasFix, $finding->remedy !== null);
        if ($finding->remedy === null) {
            return;
        }
        self::assertNotSame('', $finding->remedy['label']);
        $fixed = self::laidOver($document, array_slice(explode('/', $finding->remedy['pointer']), 1), $finding->remedy['value']);
        $left = array_map(static fn (Finding $f): string => $f->text, self::findings($fixed));
        self::assertSame([], array_filter($left, static fn (string $text): bool => str_contains($text, $word)), 'it is mended');
    }

    /** What waits for a touch is let be where one may come: something falls, it hangs loose, or its keys bring it against something. */
    public function testWhatMayBeTouchedIsLetBe(): void
    {
        $waits = static fn (array $sheet, array ...$others): array => array_filter(
            array_map(static fn (Finding $f): string => $f->text, self::findings(['version' => 2, 'props' => [['id' => 'sheet', 'name' => 'Sheet', 'source' => ['kind' => 'sheet'], 'position' => ['y' => 1.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'contact'], 'motion' => ['mover' => 'cloth'], ...$sheet], ...$others]])),
            static fn (string $text): bool => str_contains($text, 'that can touch it'),
        );
        $block = ['id' => 'block', 'name' => 'Block', 'position' => ['y' => 2.0], 'break' => ['pattern' => 'whole']];
        $still = ['release' => ['trigger' => 'never']] + $block;
        self::assertCount(1, $waits([], $still));
        self::assertSame([], $waits([], ['motion' => ['rigid' => ['before' => 'falls']]] + $block));
        self::assertSame([], $waits([], ['source' => ['kind' => 'sheet'], 'release' => ['trigger' => 'frame'], 'motion' => ['mover' => 'cloth']] + $block), 'cloth falls on it');
        self::assertSame([], $waits(['position' => ['y' => ['keys' => [['frame' => 1, 'value' => 0.5], ['frame' => 20, 'value' => 3.0]]]]], $still), 'it is brought there');
        self::assertSame([], $waits(['motion' => ['mover' => 'cloth', 'cloth' => ['hold' => [['source' => 'rim']]]]], $still), 'it hangs');
    }

    /** A small thing that lands on a large face is near it, though far from its corners. */
    public function testAFrontMaySetOutBetweenVertices(): void
    {
        $found = self::findings(['version' => 2, 'frames' => 48, 'props' => [
            ['id' => 'slab', 'name' => 'Slab', 'source' => ['box' => ['width' => 4, 'height' => 0.4, 'depth' => 4, 'divisions' => 1]], 'position' => ['y' => 0.3], 'break' => ['cellular' => ['pieces' => 8]],
                'release' => ['trigger' => 'weight'], 'weight' => ['stack' => [['source' => 'spread', 'spread' => ['begins' => 'touch', 'props' => ['drop'], 'near' => 0.03]]]]],
            ['id' => 'drop', 'name' => 'Drop', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.1]], 'position' => ['x' => 0.83, 'z' => 0.31, 'y' => ['keys' => [['frame' => 1, 'value' => 2.0], ['frame' => 12, 'value' => 0.56], ['frame' => 24, 'value' => 1.5]]]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
        ]]);
        self::assertSame([], array_filter($found, static fn (Finding $finding): bool => str_contains($finding->text, 'never comes nearer')));
    }

    public function testAShotInOrderHasNothingToSay(): void
    {
        // A cue may only mark a moment; a motion may be heading for a key past the end.
        $marked = Schema::load()->complete(self::sound());
        $marked['cues'] = [['id' => 'here', 'name' => 'Here', 'frame' => 7]];
        $marked['frames'] = 20;
        $marked['props'][0]['rotation'] = ['y' => ['keys' => [['frame' => 1, 'value' => 0], ['frame' => 40, 'value' => 90]]]];
        self::assertSame([], self::findings($marked));
        self::assertSame([], self::findings(self::sound()));
    }

    /** Of several props a fastening is offered the one that the cloth is nearest to. */
    public function testWhatIsNearestIsOffered(): void
    {
        $block = ['source' => ['box' => ['width' => 0.2, 'height' => 0.2, 'depth' => 0.2, 'divisions' => 1]], 'break' => ['pattern' => 'whole'], 'motion' => ['rigid' => ['before' => 'falls']]];
        $found = self::findings(['version' => 2, 'joints' => [['id' => 'lace', 'name' => 'Lace', 'joint' => 'fastening', 'prop' => 'sheet']], 'props' => [
            ['id' => 'a', 'name' => 'A', 'position' => ['x' => 2.0, 'y' => 1.0]] + $block, ['id' => 'b', 'name' => 'B', 'position' => ['x' => 0.4, 'y' => 1.0]] + $block, ['id' => 'c', 'name' => 'C', 'position' => ['x' => -0.7, 'y' => 1.0]] + $block,
            ['id' => 'sheet', 'name' => 'Sheet', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.5, 'depth' => 0.5, 'divisions' => 8]], 'position' => ['y' => 1.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'cloth']],
        ]]);
        $remedies = array_values(array_filter(array_map(static fn (Finding $finding): ?array => $finding->pointer === '/joints/0/other' ? $finding->remedy : null, $found)));
        self::assertSame([['label' => 'Fasten it to B', 'pointer' => '/joints/0/other', 'value' => 'b']], $remedies);
    }

    /** Dozens of checks look at each mesh; reading a large one takes half a second. */
    public function testEachMeshIsReadOnceForAllChecks(): void
    {
        $store = new CountingStore();
        $document = ['version' => 2, 'props' => []];
        foreach (['a', 'b', 'c'] as $k => $id) {
            $document['props'][] = ['id' => $id, 'name' => $id, 'source' => ['kind' => 'ball', 'ball' => ['divisions' => 4 + $k]], 'position' => ['x' => 2.0 * $k, 'y' => 1.0],
                'weight' => ['stack' => [['source' => 'reach', 'reach' => ['props' => [['b', 'c', 'a'][$k]], 'full' => 0.2, 'none' => 3.0]]]], 'release' => ['trigger' => 'weight']];
        }
        $shot = Shot::read($document);
        Checks::of($shot, new Pipeline($store, new NoAssets()));
        $store->countAnew();
        Checks::of($shot, new Pipeline($store, new NoAssets()));
        self::assertGreaterThan(3, count($store->reads));
        self::assertLessThanOrEqual(2, max([0, ...array_values($store->reads)]), 'a mesh, and what was told of it');
    }

    /** What stops a bake comes first. */
    public function testStopsComeFirst(): void
    {
        $findings = self::findings(['version' => 1, 'gravity' => 0.0, 'props' => [
            self::prop(['place' => ['y' => 0.1]]),
            ['id' => 'sheet', 'name' => 'Sheet', 'source' => ['kind' => 'sheet'], 'place' => ['y' => 3.0], 'motion' => ['before' => 'falls']],
        ]]);
        self::assertSame(['stop', 'warn', 'warn'], array_map(static fn (Finding $f): string => $f->severity, $findings));
        self::assertStringContainsString('Sheet', $findings[0]->text);
        self::assertSame('/props/1/source', $findings[0]->pointer);
    }

    /**
     * @param array<mixed> $document
     *
     * @return list<Finding>
     */
    private static function findings(array $document): array
    {
        return Checks::of(Shot::read($document), new Pipeline(new MemoryStore(), new NoAssets()));
    }

    /** @return array<string, mixed> */
    private static function sound(): array
    {
        return ['version' => 1, 'props' => [self::prop([])]];
    }

    /**
     * @param array<string, mixed> $change
     *
     * @return array<string, mixed>
     */
    private static function prop(array $change): array
    {
        return [...[
            'id' => 'block', 'name' => 'Block', 'source' => ['kind' => 'box'], 'place' => ['y' => 2.0], 'break' => ['pieces' => 8],
            'timing' => ['release' => 'contact'], 'motion' => ['before' => 'falls'],
        ], ...$change];
    }

    /**
     * Lays a value over what is at a path, as the form does: objects merge.
     *
     * @param array<mixed> $document
     * @param list<string> $path
     *
     * @return array<mixed>
     */
    private static function laidOver(array $document, array $path, mixed $value): array
    {
        if ($path === []) {
            self::assertIsArray($value);

            return array_replace_recursive($document, $value);
        }
        $key = array_shift($path);
        $at = $document[$key] ?? null;
        $document[$key] = $path !== [] || (is_array($at) && is_array($value) && ! array_is_list($value)) ? self::laidOver((array) $at, $path, $value) : $value;

        return $document;
    }
}
