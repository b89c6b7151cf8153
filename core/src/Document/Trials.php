<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

/** One setting over several values: a document for each, all else the same. */
final class Trials
{
    /** So many at once. */
    public const MOST = 8;

    /**
     * @param array<mixed> $document complete
     * @param string $pointer JSON Pointer (RFC 6901) to a number of it that has no keys
     * @param list<mixed> $values
     *
     * @return list<array{label: string, document: array<mixed>}> in the order of the values, each once; "Seed 8" and the document with it
     *
     * @throws BadDocument if the pointer or a value is not of that kind; whether a value is within the limits is for who reads the documents
     */
    public static function of(array $document, string $pointer, array $values): array
    {
        $path = self::path($pointer);
        $at = $document;
        foreach ($path as $part) {
            $at = is_array($at) ? ($at[$part] ?? null) : null;
        }
        if (! is_int($at) && ! is_float($at)) {
            throw new BadDocument([['pointer' => '/pointer', 'detail' => is_array($at) && isset($at['keys']) ? 'It has keys: only a setting that stays one number can be tried.' : 'It must lead to a number of the shot.']]);
        }
        if (count($values) > self::MOST) {
            throw new BadDocument([['pointer' => '/values', 'detail' => 'Try ' . self::MOST . ' values at once at the most.']]);
        }
        $field = Schema::load()->field($path);
        $title = is_string($field['title'] ?? null) ? $field['title'] : (string) end($path);
        $unit = is_string($field['x-unit'] ?? null) ? ' ' . $field['x-unit'] : '';
        $trials = [];
        foreach ($values as $k => $value) {
            if (! is_int($value) && ! is_float($value)) {
                throw new BadDocument([['pointer' => "/values/{$k}", 'detail' => 'It must be a number.']]);
            }
            $label = ucfirst($title) . " {$value}{$unit}";
            $trials[$label] ??= ['label' => $label, 'document' => self::put($document, $path, $value)];
        }
        if ($trials === []) {
            throw new BadDocument([['pointer' => '/values', 'detail' => 'Say at least one value to try.']]);
        }

        return array_values($trials);
    }

    /**
     * Another state of the shot with the value that was tried: what has been changed since stays.
     *
     * @param array<mixed> $document as it stands
     * @param array<mixed> $tried the one that was tried, with the same or other places in lists: things in them go by their ids
     *
     * @return array<mixed>
     *
     * @throws BadDocument if it has no such setting any more
     */
    public static function taken(array $document, array $tried, string $pointer): array
    {
        $path = [];
        [$was, $is] = [$tried, $document];
        foreach (self::path($pointer) as $part) {
            $was = is_array($was) ? ($was[$part] ?? null) : null;
            $part = is_array($is) && is_array($was) && isset($was['id']) ? self::placeOf($was['id'], $is) : $part;
            $is = is_array($is) ? ($is[$part] ?? null) : null;
            $path[] = $part;
        }
        if ($is === null || (! is_int($was) && ! is_float($was))) {
            throw new BadDocument([['pointer' => '/pointer', 'detail' => 'The shot no longer has what it tries.']]);
        }

        return self::put($document, $path, $was);
    }

    /** @param array<mixed> $list */
    private static function placeOf(mixed $id, array $list): string
    {
        foreach ($list as $place => $item) {
            if (is_array($item) && ($item['id'] ?? null) === $id) {
                return (string) $place;
            }
        }

        return '';
    }

    /** @return list<string> */
    private static function path(string $pointer): array
    {
        return array_map(static fn (string $part): string => str_replace(['~1', '~0'], ['/', '~'], $part), array_slice(explode('/', $pointer), 1));
    }

    /**
     * @param array<mixed> $of
     * @param list<string> $path
     *
     * @return array<mixed>
     */
    private static function put(array $of, array $path, int|float $value): array
    {
        $name = array_shift($path);
        $of[$name] = $path === [] ? $value : self::put(is_array($of[$name]) ? $of[$name] : [], $path, $value);

        return $of;
    }
}
