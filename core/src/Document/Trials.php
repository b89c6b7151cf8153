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
        $path = array_map(static fn (string $part): string => str_replace(['~1', '~0'], ['/', '~'], $part), array_slice(explode('/', $pointer), 1));
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
