<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

/** What differs between two documents, in words: "Clay jar, friction: 0.5 to 0.7". */
final class Difference
{
    /**
     * @param array<mixed> $before documents; settings that one of them does not have yet count as their defaults
     * @param array<mixed> $after
     *
     * @return list<array{pointer: string, text: string}>
     */
    public static function between(array $before, array $after): array
    {
        $found = [];
        $schema = Schema::load();
        self::walk($schema->filled($before), $schema->filled($after), [], $found, $schema, '');

        return $found;
    }

    /**
     * @param list<string> $path
     * @param list<array{pointer: string, text: string}> $found
     */
    private static function walk(mixed $before, mixed $after, array $path, array &$found, Schema $schema, string $owner): void
    {
        // Loosely for lists: 0 and 0.0 are the same number, whichever way they were stored.
        if ($before === $after || (is_numeric($before) && is_numeric($after) && (float) $before === (float) $after)
            || (is_array($before) && is_array($after) && $before == $after)) {
            return;
        }
        if (is_array($before) && is_array($after) && ! isset($before['keys']) && ! isset($after['keys'])
            && array_is_list($before) === array_is_list($after)) {
            if (array_is_list($before) && self::haveIds($before) && self::haveIds($after)) {
                self::walkById($before, $after, $path, $found, $schema);

                return;
            }
            if (! array_is_list($before)) {
                [$kind, $others] = $schema->chosen($schema->field($path), $after);
                foreach (array_keys($before + $after) as $key) {
                    // That another kind is chosen says enough; settings of kinds that are not do nothing.
                    if (in_array($key, $others, true) || ($key === $kind && ! isset($before[$key]))) {
                        continue;
                    }
                    self::walk($before[$key] ?? null, $after[$key] ?? null, [...$path, (string) $key], $found, $schema, $owner);
                }

                return;
            }
        }
        $field = $schema->field($path);
        $title = is_string($field['title'] ?? null) ? $field['title'] : (string) end($path);
        $unit = is_string($field['x-unit'] ?? null) ? ' ' . $field['x-unit'] : '';
        $labels = is_array($field['x-labels'] ?? null) ? $field['x-labels'] : [];
        $show = static function (mixed $value) use ($labels): string {
            if (is_array($value)) {
                $keys = $value['keys'] ?? null;

                return is_array($keys) ? count($keys) . ' keys' : count($value) . ' values';
            }
            if (is_bool($value)) {
                return $value ? 'on' : 'off';
            }
            $text = is_scalar($value) ? (string) $value : 'nothing';

            return is_string($labels[$text] ?? null) ? lcfirst($labels[$text]) : ($text === '' ? 'nothing' : $text);
        };
        $text = is_array($before) && is_array($after)
            ? lcfirst($title) . ' changed'
            : lcfirst($title) . ' ' . $show($before) . ' to ' . $show($after) . $unit;
        $found[] = ['pointer' => '/' . implode('/', $path), 'text' => ucfirst(($owner === '' ? '' : "{$owner}: ") . $text)];
    }

    /** @param array<mixed> $list */
    private static function haveIds(array $list): bool
    {
        foreach ($list as $item) {
            if (! is_array($item) || ! is_string($item['id'] ?? null)) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param array<mixed> $before
     * @param array<mixed> $after
     * @param list<string> $path
     * @param list<array{pointer: string, text: string}> $found
     */
    private static function walkById(array $before, array $after, array $path, array &$found, Schema $schema): void
    {
        $old = array_column($before, null, 'id');
        $new = array_column($after, null, 'id');
        foreach ($old as $id => $item) {
            $name = self::name($item);
            if (! isset($new[$id])) {
                $found[] = ['pointer' => '/' . implode('/', $path), 'text' => "{$name} removed"];
            }
        }
        foreach (array_values($after) as $k => $item) {
            $id = is_array($item) && is_string($item['id'] ?? null) ? $item['id'] : '';
            $name = self::name($item);
            if (! isset($old[$id])) {
                $found[] = ['pointer' => '/' . implode('/', [...$path, (string) $k]), 'text' => "{$name} added"];
            } else {
                self::walk($old[$id], $item, [...$path, (string) $k], $found, $schema, $name);
            }
        }
    }

    private static function name(mixed $item): string
    {
        return is_array($item) && is_string($item['name'] ?? null) ? $item['name'] : 'Something';
    }
}
