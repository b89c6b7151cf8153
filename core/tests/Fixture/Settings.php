<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

use YardBreak\Core\Document\Conditions;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;

/** Settings as the form knows them: which are shown, and what else they could be. */
trait Settings
{
    /**
     * The settings of a part of a complete document, kinds that are not chosen left out.
     *
     * @param array<mixed> $document
     * @param list<string> $path to the part
     *
     * @return list<array{path: list<string>, field: array<mixed>, value: mixed, shown: bool}>
     */
    private static function settings(array $document, array $path): array
    {
        $schema = Schema::load();
        $top = self::read($document, array_slice($path, 0, 2));
        $values = self::read($document, $path);
        self::assertIsArray($values);
        [, $others] = $schema->chosen($schema->field($path), $values);
        $found = [];
        foreach ($values as $name => $value) {
            $at = [...$path, (string) $name];
            $field = $schema->field($at);
            if (in_array($name, $others, true) || ($field['x-hidden'] ?? false) === true) {
                continue;
            }
            $shown = Conditions::hold($field['x-when'] ?? true, $values, is_array($top) ? $top : [], $schema)
                && ! (($field['x-later'] ?? false) === true && end($path) === '0');
            $plain = ($field['x-vector'] ?? false) === true || ($field['x-picture'] ?? false) === true || ($field['x-places'] ?? false) === true || ($field['x-profile'] ?? false) === true || ($field['x-props'] ?? false) === true || ($field['x-curve'] ?? false) === true || ($field['x-strokes'] ?? false) === true;
            if (is_array($value) && ! $plain && ! isset($field['x-animatable'])) {
                foreach (self::settings($document, $at) as $inner) {
                    $found[] = ['shown' => $inner['shown'] && $shown] + $inner;
                }
            } else {
                $found[] = ['path' => $at, 'field' => $field, 'value' => $value, 'shown' => $shown];
            }
        }

        return $found;
    }

    /**
     * @param array<mixed> $document
     * @param list<string> $path
     */
    private static function read(array $document, array $path): mixed
    {
        $at = $document;
        foreach ($path as $part) {
            self::assertIsArray($at);
            $at = $at[$part] ?? null;
        }

        return $at;
    }

    /**
     * @param array<mixed> $document
     * @param list<string> $path
     *
     * @return array<mixed>
     */
    private static function with(array $document, array $path, mixed $value): array
    {
        $at = &$document;
        foreach ($path as $part) {
            self::assertIsArray($at);
            $at = &$at[$part];
        }
        $at = $value;
        unset($at);

        return $document;
    }

    /**
     * Other values that a setting can take.
     *
     * @param array<mixed> $field
     *
     * @return list<mixed>
     */
    private static function others(array $field, mixed $value): array
    {
        if (($field['x-vector'] ?? false) === true) {
            return [['x' => 0.17, 'y' => 0.11, 'z' => 0.05]];
        }
        if (($field['x-places'] ?? false) === true) {
            return [[['x' => 0.1, 'y' => 0.1, 'z' => 0.1], ['x' => -0.1, 'y' => 0.05, 'z' => 0.1]]];
        }
        if (($field['x-curve'] ?? false) === true) {
            return [[[0.0, 0.1], [0.4, 0.9], [1.0, 0.8]]];
        }
        if (is_array($field['enum'] ?? null)) {
            return array_values(array_diff($field['enum'], [$value]));
        }
        if (is_bool($value)) {
            return [! $value];
        }
        self::assertTrue(is_int($value) || is_float($value), (string) json_encode($field));
        [$low, $high] = [$field['minimum'] ?? 0, $field['maximum'] ?? 1];
        self::assertTrue((is_int($low) || is_float($low)) && (is_int($high) || is_float($high)));
        $candidates = [];
        foreach ([0.6 * $value, 1.5 * $value, $value + 3, $value + 0.3, 0.05] as $other) {
            $other = ($field['type'] ?? '') === 'integer' ? (int) round($other) : $other;
            if ($other >= $low && $other <= $high && $other != $value) {
                $candidates[] = $other;
            }
        }

        return $candidates;
    }

    /** Whether a setting needs no more values: it has shown that it works, or, where it is hidden, that it does not. More of them take minutes. */
    private static function tried(bool $shown, bool $works): bool
    {
        return ($works || ! $shown) && ! getenv('YARD_BREAK_LONG');
    }

    /**
     * What is shown changes the result, and then the hash; what is not shown changes neither. And never the result without
     * the hash: a stored result would be shown that is out of date.
     *
     * @param array<string, mixed> $document
     * @param list<string> $part
     * @param callable(Shot): iterable<string> $result in parts, for it is known at the first that differs
     * @param callable(Shot): string $hash
     * @param list<string> $skip
     * @param array<string, list<mixed>> $others instead of the usual ones
     * @param (callable(Shot): string)|null $acting of everything that has acted by the last frame
     *
     * @return int how many settings were tried
     */
    private static function assertControlsWork(array $document, array $part, callable $result, callable $hash, array $skip, array $others, ?callable $acting = null): int
    {
        $document = Schema::load()->complete($document);
        $shot = Shot::read($document);
        $before = [];
        foreach ($result($shot) as $each) {
            $before[] = $each;
        }
        $key = $hash($shot);
        $acted = $acting === null ? '' : $acting($shot);
        $differs = static function (Shot $changed, string $name) use ($result, $before, $hash, $key, $acting, $acted): bool {
            $differs = self::differ($result($changed), $before);
            self::assertTrue(! $differs || $hash($changed) !== $key, $name . ' changes the result, but not its hash');
            self::assertTrue(! $differs || $acting === null || $acting($changed) !== $acted, $name . ' changes the frames, but not what acts on them: they would be taken from another bake');

            return $differs;
        };
        $whole = self::read($document, $part);
        $settings = is_array($whole) ? self::settings($document, $part) : [['path' => $part, 'field' => Schema::load()->field($part), 'value' => $whole, 'shown' => true]];
        $settings = array_filter($settings, static fn (array $setting): bool => ! in_array((string) end($setting['path']), $skip, true));
        $unseen = $document;
        foreach ($settings as ['path' => $path, 'field' => $field, 'value' => $value, 'shown' => $shown]) {
            $name = implode('/', $path);
            $works = false;
            foreach ($others[end($path)] ?? self::others($field, $value) as $other) {
                $changed = Shot::read(self::with($document, $path, $other));
                if (! $shown) {
                    self::assertSame($key, $hash($changed), "{$name} is not shown, but it changes the hash");
                    $unseen = self::with($unseen, $path, $other);
                }
                $works = ($shown || getenv('YARD_BREAK_LONG')) && $differs($changed, $name) || $works;
                if (self::tried($shown, $works)) {
                    break;
                }
            }
            self::assertSame($shown, $works, $name . ($shown ? ' is shown, but it changes nothing' : ' is not shown, but it matters'));
        }
        // All that is not shown at once: together they change nothing either.
        $name = 'something under ' . implode('/', $part);
        self::assertFalse($unseen !== $document && $differs(Shot::read($unseen), $name), $name . ' is not shown, but it matters: bin/test --long says which');

        return count($settings);
    }

    /**
     * @param iterable<string> $parts
     * @param list<string> $before
     */
    private static function differ(iterable $parts, array $before): bool
    {
        $count = 0;
        foreach ($parts as $each) {
            if ($each !== ($before[$count++] ?? null)) {
                return true;
            }
        }

        return $count !== count($before);
    }
}
