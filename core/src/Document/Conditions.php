<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use LogicException;

/**
 * What must hold of other settings for a field to matter ("x-when"): a field is one of some values, above or below a number, a list
 * shorter than a number, a list or a text not empty; a chosen kind has a trait; any of several, or (a list) all of them. A field that begins with a slash
 * is looked up from the prop, any other beside the field itself.
 */
final class Conditions
{
    /**
     * @param array<mixed> $beside values beside the field
     * @param array<mixed> $top values of the whole prop (or force, or plane)
     */
    public static function hold(mixed $when, array $beside, array $top, Schema $schema): bool
    {
        if (! is_array($when)) {
            return $when !== false;
        }
        if (array_is_list($when)) {
            foreach ($when as $part) {
                if (! self::hold($part, $beside, $top, $schema)) {
                    return false;
                }
            }

            return true;
        }
        if (is_array($when['any'] ?? null)) {
            foreach ($when['any'] as $part) {
                if (self::hold($part, $beside, $top, $schema)) {
                    return true;
                }
            }

            return false;
        }
        if (is_string($when['choice'] ?? null)) {
            $owner = self::owner($when['choice'], $beside, $top);
            $trait = $when['trait'] ?? null;

            return is_string($trait) && $schema->trait(self::last($when['choice']), $owner, $trait) !== false;
        }
        if (! is_string($when['field'] ?? null)) {
            throw new LogicException('Not a condition: ' . json_encode($when));
        }
        $value = self::owner($when['field'], $beside, $top)[self::last($when['field'])] ?? null;

        return match (true) {
            isset($when['above']) => is_numeric($value) && is_numeric($when['above']) && $value > $when['above'],
            isset($when['below']) => is_numeric($value) && is_numeric($when['below']) && $value < $when['below'],
            isset($when['some']) => (is_array($value) && $value !== []) || (is_string($value) && $value !== ''),
            isset($when['fewer']) => ! is_array($value) || count($value) < $when['fewer'],
            // Numbers may have come as 0 or as 0.0.
            default => is_array($when['is'] ?? null) && in_array(is_float($value) && floor($value) === $value ? (int) $value : $value, $when['is'], true),
        };
    }

    /**
     * The object that holds the field at the end of a path.
     *
     * @param array<mixed> $beside
     * @param array<mixed> $top
     *
     * @return array<mixed>
     */
    private static function owner(string $path, array $beside, array $top): array
    {
        if (! str_starts_with($path, '/')) {
            return $beside;
        }
        $at = $top;
        foreach (array_slice(explode('/', $path), 1, -1) as $part) {
            $next = $at[$part] ?? null;
            $at = is_array($next) ? $next : [];
        }

        return $at;
    }

    private static function last(string $path): string
    {
        return substr($path, (int) strrpos("/{$path}", '/'));
    }
}
