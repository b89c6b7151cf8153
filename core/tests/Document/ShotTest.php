<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Document;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\DemoShot;
use YardBreak\Core\Document\Difference;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Consistency;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

final class ShotTest extends TestCase
{
    public function testDefaultsComeFromTheSchema(): void
    {
        $shot = Shot::read(['version' => 1, 'props' => [['id' => 'a', 'name' => 'A']]]);
        self::assertSame(24.0, $shot->fps);
        self::assertSame(9.80665, $shot->forces[0]->kind->settings->animated('strength')->at(1.0));
        self::assertSame('cellular', $shot->props[0]->pattern->kind);
        self::assertSame(60, $shot->props[0]->pattern->settings->int('pieces'));
        $complete = Schema::load()->complete(['version' => 2, 'props' => []]);
        self::assertSame($complete, Schema::load()->complete($complete), 'a complete document stays as it is');
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
        $schema = Schema::load()->json();
        $walk($schema, '');
        foreach ($schema['$defs'] as $name => $definition) {
            $walk($definition, "/{$name}");
        }
    }

    /**
     * @param list<array<string, mixed>> $keys
     *
     * @return array<string, mixed>
     */
    private static function gravity(array $keys): array
    {
        return ['forces' => [['id' => 'gravity', 'name' => 'Gravity', 'force' => 'gravity', 'gravity' => ['strength' => ['keys' => $keys]]]]];
    }

    /** @return iterable<string, array{mixed, string, string}> */
    public static function badDocuments(): iterable
    {
        $with = static function (array $change): array {
            return array_replace_recursive(['version' => 2, 'props' => [['id' => 'jar', 'name' => 'Jar']]], $change);
        };
        yield 'no object' => ['text', '', 'JSON object'];
        yield 'other version' => [['version' => 3, 'props' => []], '/version', ''];
        yield 'friction too high' => [$with(['props' => [0 => ['motion' => ['rigid' => ['friction' => 9]]]]]), '/props/0/motion/rigid/friction', 'from 0 to 2'];
        yield 'unknown pattern' => [$with(['props' => [0 => ['break' => ['pattern' => 'lace']]]]), '/props/0/break/pattern', 'one of: whole, cellular'];
        yield 'unknown field' => [$with(['props' => [0 => ['colour' => 1]]]), '/props/0', 'colour'];
        yield 'two props of one id' => [['version' => 1, 'props' => [['id' => 'a', 'name' => 'A'], ['id' => 'a', 'name' => 'B']]], '/props/1/id', 'same id'];
        yield 'sweep that ends before it starts' => [$with(['props' => [0 => ['weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['from' => 30, 'to' => 20]]]]]]]), '/props/0/weight/stack/0/sweep/to', 'backwards'];
        yield 'cue that is not there' => [$with(['props' => [0 => ['release' => ['trigger' => 'cue', 'cue' => ['cue' => 'hit']]]]]), '/props/0/release/cue/cue', 'no cue'];
        yield 'key at a cue that is not there' => [$with(self::gravity([['cue' => 'hit', 'value' => 1]])), '/forces/0/gravity/strength/keys/0/cue', 'no cue'];
        yield 'two keys at one frame' => [$with(self::gravity([['frame' => 3, 'value' => 1], ['frame' => 3, 'value' => 2]])), '/forces/0/gravity/strength/keys/1/frame', 'Two keys'];
    }

    #[DataProvider('badDocuments')]
    public function testBadDocumentsSayWhereAndWhat(mixed $document, string $pointer, string $detail): void
    {
        try {
            Consistency::check(Shot::read($document));
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
        $gravity = $shot->forces[0]->kind->settings->animated('strength');
        self::assertSame(0.0, $gravity->at(39.0));
        self::assertSame(9.8, $gravity->at(40.0));
    }

    public function testDifferencesAreInWords(): void
    {
        $before = Schema::load()->complete(DemoShot::document());
        $after = $before;
        $after['props'][0]['motion']['rigid']['friction'] = 0.7;
        $after['forces'][0]['gravity']['strength'] = 1.62;
        $after['props'][0]['release']['trigger'] = 'weight';
        $after['cues'][0]['frame'] = 5;
        unset($after['props'][1]);
        $texts = array_column(Difference::between($before, $after), 'text');
        self::assertContains('Clay jar: friction 0.6 to 0.7', $texts);
        self::assertContains('Gravity: gravity 9.80665 to 1.62 m/s²', $texts);
        self::assertContains('Clay jar: lets go on first contact to by its weight', $texts);
        self::assertContains('Tips: frame 1 to 5 f', $texts);
        self::assertContains('Oak sill removed', $texts);
        self::assertCount(5, $texts, implode('; ', $texts));
        self::assertSame([], Difference::between($before, $before));
        // A document stored before a setting existed does not differ by it.
        $old = $before;
        unset($old['props'][0]['break']['cellular']['places'], $old['props'][0]['prepare'], $old['settleSpeed'], $old['planes'][0]['tilt']);
        self::assertSame([], Difference::between($old, $before));
    }

    #[Group('slow')]
    public function testEveryDemoIsSoundAndBreaks(): void
    {
        $patterns = [];
        foreach (DemoShot::all() as $name => $document) {
            $pipeline = new Pipeline(new MemoryStore(), new ListedAssets(DemoShot::assets()));
            $shot = Shot::read($document);
            self::assertSame([], Checks::of($shot, $pipeline), $name);
            $pieces = 0;
            foreach ($shot->props as $prop) {
                $pieces = max($pieces, count($pipeline->broken($prop)->pieces));
                $patterns[$prop->pattern->kind] = true;
            }
            if (array_filter($shot->props, static fn (Prop $prop): bool => $prop->mover->has('vertices')) === []) {
                self::assertGreaterThan(15, $pieces, $name);
            }
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
                [$low, $high] = $piece->transformed(1.0, $prop->transform->rotationAt(1.0), [0.0, 0.0, 0.0])->bounds();
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
