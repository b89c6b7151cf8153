<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Document;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\DemoShot;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Consistency;

/** Every setting of a document with every kind of wrong value: taken, or refused with the place and a reason in words. */
final class WrongValuesTest extends TestCase
{
    /** @return iterable<string, array{mixed}> */
    public static function wrong(): iterable
    {
        yield 'nothing' => [null];
        yield 'a word' => ['sideways'];
        // Alike.
        if (getenv('YARD_BREAK_LONG')) {
            yield 'a number as a word' => ['12'];
        }
        yield 'above everything' => [1e12];
        yield 'a fraction' => [0.123456789];
        // Alike.
        if (getenv('YARD_BREAK_LONG')) {
            yield 'a list of lists' => [[[[1]]]];
        }
        yield 'an object' => [['a' => ['b' => 'c']]];
        yield 'keys of words' => [['keys' => [['frame' => 'one', 'value' => 'two', 'ease' => 'three']]]];
        yield 'a key on a cue that is not there' => [['keys' => [['cue' => 'ghost', 'offset' => 0, 'value' => 1.0, 'ease' => 'linear']]]];
    }

    #[DataProvider('wrong')]
    #[Group('thorough')]
    public function testEverySettingSaysWhereAndWhat(mixed $value): void
    {
        $document = self::document();
        $refused = 0;
        $taken = [];
        foreach (self::places($document) as $path) {
            // Of a list's items the first will do.
            if (array_filter($path, static fn (string|int $part): bool => is_int($part) && $part > 0) !== []) {
                continue;
            }
            $pointer = '/' . implode('/', $path);
            // Each setting with some kinds of wrong value; with all of them it takes a minute more.
            if (! getenv('YARD_BREAK_LONG') && crc32($pointer . serialize($value)) % 3 !== 0) {
                continue;
            }
            try {
                Consistency::check(Shot::read(self::with($document, $path, $value)));
                $taken[] = $pointer;
            } catch (BadDocument $error) {
                $refused++;
                $first = $error->errors[0];
                self::assertStringStartsWith($pointer, "{$first['pointer']}/", 'the place');
                self::assertGreaterThan(15, strlen($first['detail']), $pointer);
                self::assertStringEndsWith('.', $first['detail']);
            }
        }
        self::assertGreaterThan(30, $refused, 'much of this is refused');
        // What is taken must be a value that the schema gives out again unchanged.
        foreach (array_slice($taken, 0, 20) as $pointer) {
            $path = array_map(static fn (string $p): string|int => ctype_digit($p) ? (int) $p : $p, explode('/', substr($pointer, 1)));
            $full = Schema::load()->complete(self::with($document, $path, $value));
            foreach ($path as $part) {
                self::assertIsArray($full);
                $full = $full[$part] ?? null;
            }
            if (is_scalar($value)) {
                self::assertEquals($value, $full, $pointer);
            }
        }
    }

    /** A key is held to the same limits as the number without keys. */
    public function testKeysKeepTheLimits(): void
    {
        $document = self::document();
        foreach ([[['forces', 0, 'gravity', 'strength'], 500.0], [['props', 0, 'position', 'x'], -1e9]] as [$path, $value]) {
            foreach ([$value, ['keys' => [['frame' => 1, 'value' => 0.0, 'ease' => 'linear'], ['frame' => 9, 'value' => $value, 'ease' => 'linear']]]] as $wrong) {
                try {
                    Consistency::check(Shot::read(self::with($document, $path, $wrong)));
                    self::fail('It was taken.');
                } catch (BadDocument $error) {
                    self::assertStringStartsWith('/' . implode('/', $path), $error->errors[0]['pointer']);
                    self::assertStringContainsString('must be from', $error->errors[0]['detail']);
                }
            }
        }
    }

    public function testAKeyStandsSomewhere(): void
    {
        $this->expectException(BadDocument::class);
        $this->expectExceptionMessageMatches('#/forces/0/gravity/strength/keys/0: .*frame#');
        Shot::read(self::with(self::document(), ['forces', 0, 'gravity', 'strength'], ['keys' => [['value' => 1.0, 'ease' => 'linear']]]));
    }

    public function testUnknownSettingsAreNamed(): void
    {
        $document = self::document();
        foreach ([['colour'], ['props', 0, 'weigth'], ['props', 0, 'break', 'cellular', 'peices'], ['props', 0, 'source', 'jar', 'hieght'], ['planes', 0, 'angle'], ['cues', 0, 'note']] as $path) {
            try {
                Shot::read(self::with($document, $path, 1));
                self::fail('It was taken.');
            } catch (BadDocument $error) {
                $last = (string) array_pop($path);
                self::assertSame($path === [] ? '' : '/' . implode('/', $path), $error->errors[0]['pointer']);
                self::assertStringContainsString($last, $error->errors[0]['detail']);
            }
        }
    }

    public function testManyMistakesAreToldAtOnce(): void
    {
        $document = self::document();
        foreach ([['fps'], ['frames'], ['props', 0, 'break', 'cellular', 'pieces'], ['props', 0, 'motion', 'rigid', 'density']] as $path) {
            $document = self::with($document, $path, -5);
        }
        try {
            Shot::read($document);
            self::fail('It was taken.');
        } catch (BadDocument $error) {
            self::assertEqualsCanonicalizing(['/fps', '/frames', '/props/0/break/cellular/pieces', '/props/0/motion/rigid/density'], array_column($error->errors, 'pointer'));
            foreach ($error->errors as $each) {
                self::assertMatchesRegularExpression('/must be from \S+ to \S+/', $each['detail']);
            }
        }
    }

    public function testTheSameNameTwiceIsRefused(): void
    {
        $document = self::document();
        self::assertIsArray($document['props']);
        self::assertIsArray($document['cues']);
        foreach (['props' => 'Two props', 'cues' => 'Two cues', 'forces' => 'Two forces', 'planes' => 'Two floors'] as $list => $reason) {
            $twice = $document;
            self::assertIsArray($twice[$list]);
            $twice[$list][] = $twice[$list][0];
            try {
                Shot::read($twice);
                self::fail('It was taken.');
            } catch (BadDocument $error) {
                self::assertStringContainsString($reason, $error->errors[0]['detail']);
                self::assertSame("/{$list}/" . (count($twice[$list]) - 1) . '/id', $error->errors[0]['pointer']);
            }
        }
    }

    /** @return array<mixed> the demo's jar with every setting there is, keys and edits included */
    private static function document(): array
    {
        $document = Schema::load()->complete(DemoShot::document());
        self::assertIsArray($document['props']);
        self::assertIsArray($document['props'][0]);
        self::assertIsArray($document['props'][0]['break']);
        $document['props'] = [$document['props'][0]];
        $document['forces'][0]['gravity']['strength'] = ['keys' => [['frame' => 1, 'value' => 9.8, 'ease' => 'linear'], ['frame' => 20, 'value' => 0.0, 'ease' => 'hold']]];
        $document['props'][0]['break']['drawn'] = ['lines' => [['points' => [[0.0, 0.0], [1.0, 1.0]], 'closed' => false]], 'facing' => 'z'];

        return $document;
    }

    /**
     * @param array<mixed> $value
     *
     * @return list<non-empty-list<string|int>> paths of all settings and of what is in them
     */
    private static function places(array $value): array
    {
        $paths = [];
        foreach ($value as $key => $item) {
            $paths[] = [$key];
            if (is_array($item)) {
                foreach (self::places($item) as $path) {
                    $paths[] = [$key, ...$path];
                }
            }
        }

        return $paths;
    }

    /**
     * @param array<mixed> $document
     * @param list<string|int> $path
     *
     * @return array<mixed>
     */
    private static function with(array $document, array $path, mixed $value): array
    {
        $at = &$document;
        foreach ($path as $part) {
            if (! is_array($at)) {
                $at = [];
            }
            $at = &$at[$part];
        }
        $at = $value;
        unset($at);

        return $document;
    }
}
