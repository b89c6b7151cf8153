<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\ListedAssets;
use YardBreak\Core\Bake\MemoryStore;
use YardBreak\Core\Bake\NoAssets;
use YardBreak\Core\Bake\Pipeline;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Shot\BadDocument;
use YardBreak\Core\Shot\DemoShot;
use YardBreak\Core\Shot\Difference;
use YardBreak\Core\Shot\Shot;
use YardBreak\Core\Shot\ShotSchema;

final class ShotTest extends TestCase
{
    public function testDefaultsComeFromTheSchema(): void
    {
        $shot = Shot::read(['version' => 1, 'props' => [['id' => 'a', 'name' => 'A']]]);
        self::assertSame(24.0, $shot->fps);
        self::assertSame(9.80665, $shot->gravity->at(1.0));
        self::assertSame('cellular', $shot->props[0]->break->how->pattern);
        self::assertSame(60, $shot->props[0]->break->how->pieces);
        $complete = ShotSchema::load()->complete(['version' => 1, 'props' => []]);
        self::assertSame($complete, ShotSchema::load()->complete($complete), 'a complete document stays as it is');
    }

    public function testEveryFieldHasTitleDescriptionAndNumbersHaveLimits(): void
    {
        $walk = static function (array $field, string $path) use (&$walk): void {
            foreach ($field['properties'] ?? [] as $name => $each) {
                if (isset($each['$ref'])) {
                    continue;
                }
                self::assertNotSame('', $each['title'] ?? '', "{$path}/{$name} has no title");
                self::assertNotSame('', $each['description'] ?? '', "{$path}/{$name} has no description");
                if (in_array($each['type'] ?? '', ['number', 'integer'], true) && ! isset($each['const']) && $name !== 'value') {
                    self::assertArrayHasKey('minimum', $each, "{$path}/{$name}");
                    self::assertArrayHasKey('maximum', $each, "{$path}/{$name}");
                }
                $walk($each['items'] ?? $each, "{$path}/{$name}");
            }
        };
        $schema = ShotSchema::load()->json();
        $walk($schema, '');
        $walk($schema['$defs']['prop'], '/props');
        $walk($schema['$defs']['key'], '/key');
    }

    /** @return iterable<string, array{mixed, string, string}> */
    public static function badDocuments(): iterable
    {
        $with = static function (array $change): array {
            return array_replace_recursive(['version' => 1, 'props' => [['id' => 'jar', 'name' => 'Jar']]], $change);
        };
        yield 'no object' => ['text', '', 'JSON object'];
        yield 'other version' => [['version' => 2, 'props' => []], '/version', ''];
        yield 'friction too high' => [$with(['props' => [0 => ['motion' => ['friction' => 9]]]]), '/props/0/motion/friction', 'from 0 to 2'];
        yield 'unknown pattern' => [$with(['props' => [0 => ['break' => ['pattern' => 'lace']]]]), '/props/0/break/pattern', 'one of: whole, cellular'];
        yield 'unknown field' => [$with(['props' => [0 => ['colour' => 1]]]), '/props/0', 'colour'];
        yield 'two props of one id' => [['version' => 1, 'props' => [['id' => 'a', 'name' => 'A'], ['id' => 'a', 'name' => 'B']]], '/props/1/id', 'same id'];
        yield 'sweep that ends before it starts' => [$with(['props' => [0 => ['timing' => ['release' => 'sweep', 'from' => 30, 'to' => 20]]]]), '/props/0/timing/to', 'Backwards'];
        yield 'cue that is not there' => [$with(['props' => [0 => ['timing' => ['release' => 'cue', 'cue' => 'hit']]]]), '/props/0/timing/cue', 'no cue'];
        yield 'key at a cue that is not there' => [$with(['gravity' => ['keys' => [['cue' => 'hit', 'value' => 1]]]]), '/gravity/keys/0/cue', 'no cue'];
        yield 'two keys at one frame' => [$with(['gravity' => ['keys' => [['frame' => 3, 'value' => 1], ['frame' => 3, 'value' => 2]]]]), '/gravity/keys/1/frame', 'Two keys'];
    }

    #[DataProvider('badDocuments')]
    public function testBadDocumentsSayWhereAndWhat(mixed $document, string $pointer, string $detail): void
    {
        try {
            Shot::read($document);
            self::fail('It was accepted.');
        } catch (BadDocument $error) {
            self::assertContains($pointer, array_column($error->errors, 'pointer'), (string) json_encode($error->errors));
            self::assertStringContainsString($detail, (string) json_encode($error->errors));
        }
    }

    public function testKeysHangOnCues(): void
    {
        $shot = Shot::read([
            'version' => 1,
            'cues' => [['id' => 'hit', 'name' => 'Hit', 'frame' => 40]],
            'gravity' => ['keys' => [['cue' => 'hit', 'value' => 9.8, 'ease' => 'hold'], ['cue' => 'hit', 'offset' => -10, 'value' => 0, 'ease' => 'hold']]],
            'props' => [],
        ]);
        self::assertSame(0.0, $shot->gravity->at(39.0));
        self::assertSame(9.8, $shot->gravity->at(40.0));
    }

    public function testDifferencesAreInWords(): void
    {
        $before = ShotSchema::load()->complete(DemoShot::document());
        $after = $before;
        $after['props'][0]['motion']['friction'] = 0.7;
        $after['gravity'] = 1.62;
        $after['props'][0]['timing']['release'] = 'sweep';
        $after['cues'][0]['frame'] = 5;
        unset($after['props'][1]);
        $texts = array_column(Difference::between($before, $after), 'text');
        self::assertContains('Clay jar: friction 0.6 to 0.7', $texts);
        self::assertContains('Gravity 9.80665 to 1.62 m/s²', $texts);
        self::assertContains('Clay jar: lets go on first contact to as a front sweeps by', $texts);
        self::assertContains('Tips: frame 1 to 5 f', $texts);
        self::assertContains('Oak sill removed', $texts);
        self::assertCount(5, $texts);
        self::assertSame([], Difference::between($before, $before));
        // A document stored before a setting existed does not differ by it.
        $old = $before;
        unset($old['props'][0]['break']['places'], $old['props'][0]['source']['bevel'], $old['settleSpeed']);
        self::assertSame([], Difference::between($old, $before));
    }

    #[Group('slow')]
    public function testEveryDemoIsSoundAndBreaks(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new ListedAssets(DemoShot::assets()));
        $patterns = [];
        foreach (DemoShot::all() as $name => $document) {
            $shot = Shot::read($document);
            self::assertSame([], Checks::of($shot, $pipeline), $name);
            $pieces = 0;
            foreach ($shot->props as $prop) {
                $pieces = max($pieces, count($pipeline->broken($prop)->pieces));
                $patterns[$prop->break->how->pattern] = true;
            }
            self::assertGreaterThan(15, $pieces, $name);
        }
        foreach (['cellular', 'web', 'courses', 'grain', 'breach', 'drawn', 'flakes'] as $pattern) {
            self::assertArrayHasKey($pattern, $patterns);
        }
    }

    /** Rows that follow the world lie level however the prop stands at frame 1; those of the prop turn with it. */
    public function testCoursesFollowThePropOrTheWorld(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $highest = static function (string $aligned) use ($pipeline): float {
            $prop = Shot::read(['version' => 1, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['kind' => 'box', 'width' => 1, 'height' => 1, 'depth' => 0.2], 'turn' => ['z' => 90],
                'break' => ['pattern' => 'courses', 'aligned' => $aligned, 'length' => 5, 'height' => 0.25]]]])->props[0];
            $tall = 0.0;
            foreach ($pipeline->broken($prop)->pieces as $piece) {
                // In the world, where the prop lies on its side.
                [$low, $high] = $piece->transformed(1.0, $prop->turnAt(1.0), [0.0, 0.0, 0.0])->bounds();
                $tall = max($tall, $high[1] - $low[1]);
            }

            return $tall;
        };
        self::assertLessThan(0.3, $highest('world'));
        self::assertGreaterThan(0.9, $highest('prop'));
    }

    /** What a pattern does not use must not make its stored result useless. */
    public function testOnlySettingsOfThePatternCount(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $hash = static function (array $break) use ($pipeline): string {
            $prop = Shot::read(['version' => 1, 'props' => [['id' => 'a', 'name' => 'A', 'break' => $break]]])->props[0];

            return $pipeline->brokenHash($prop);
        };
        self::assertSame($hash(['pattern' => 'web', 'rays' => 9]), $hash(['pattern' => 'web', 'rays' => 9, 'pieces' => 300, 'length' => 2.0, 'prefix' => 'x']));
        self::assertNotSame($hash(['pattern' => 'web', 'rays' => 9]), $hash(['pattern' => 'web', 'rays' => 10]));
        self::assertSame($hash(['pattern' => 'cellular', 'fineness' => 0.1]), $hash(['pattern' => 'cellular', 'fineness' => 0.2]), 'fineness matters only to rough faces');
        self::assertNotSame($hash(['roughness' => 0.5, 'fineness' => 0.1]), $hash(['roughness' => 0.5, 'fineness' => 0.2]));
        self::assertNotSame($hash([]), $hash(['edits' => [['kind' => 'again', 'at' => [0, 0, 0]]]]));
    }
}
