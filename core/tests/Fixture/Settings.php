<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

use YardBreak\Core\Document\Conditions;
use YardBreak\Core\Document\Schema;

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
}
