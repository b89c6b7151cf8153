<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use LogicException;
use stdClass;

/**
 * Puts the schema together: shot.json, and a file for each kind of thing in a folder by the name of its registry. An object
 * with "x-kinds" gets a field that names the kind, and beside it an object of settings for each; only the one that is named
 * is in force.
 */
final class SchemaBundle
{
    public const FOLDER = __DIR__ . '/../../schema';

    /**
     * @param list<string> $folders the later ones add kinds
     *
     * @return array<mixed> one JSON schema
     */
    public static function of(array $folders = [self::FOLDER]): array
    {
        $schema = self::read($folders[0] . '/shot.json');
        $registries = [];
        foreach ($folders as $folder) {
            foreach (glob("{$folder}/*/*.json") ?: [] as $file) {
                $registries[basename(dirname($file))][basename($file, '.json')] = self::read($file);
            }
        }
        $definitions = is_array($schema['$defs'] ?? null) ? $schema['$defs'] : [];
        foreach ($registries as $registry => $kinds) {
            uasort($kinds, static fn (array $a, array $b): int => ($a['order'] ?? 0) <=> ($b['order'] ?? 0));
            $registries[$registry] = $kinds;
            foreach ($kinds as $kind => $definition) {
                unset($definition['order']);
                $definitions["{$registry}.{$kind}"] = ['type' => 'object', 'additionalProperties' => false, 'default' => []] + $definition;
            }
        }
        $schema['$defs'] = $definitions;
        $schema = self::expand($schema, $registries);
        $schema['x-choices'] = self::choices($schema);

        return $schema;
    }

    /**
     * @param array<mixed> $schema
     *
     * @return array<string, string> the registry by the field that names a kind; every such field has a name of its own
     */
    private static function choices(array $schema): array
    {
        $found = [];
        $of = $schema['x-kinds'] ?? null;
        if (is_array($of) && is_string($of['as'] ?? null) && is_string($of['registry'] ?? null)) {
            $found[$of['as']] = $of['registry'];
        }
        foreach ($schema as $part) {
            foreach (is_array($part) ? self::choices($part) : [] as $as => $registry) {
                if (($found[$as] ?? $registry) !== $registry) {
                    throw new LogicException("Two registries are chosen from by “{$as}”.");
                }
                $found[$as] = $registry;
            }
        }

        return $found;
    }

    /** As JSON; what PHP cannot tell from an empty list is an empty object where the schema says so. */
    public static function json(mixed $schema): string
    {
        $plain = static function (mixed $part) use (&$plain): mixed {
            if (! is_array($part)) {
                return $part;
            }
            $isObject = ($part['type'] ?? null) === 'object';
            foreach ($part as $name => $value) {
                $part[$name] = $value === [] && ($name === 'properties' || ($isObject && $name === 'default')) ? new stdClass() : $plain($value);
            }

            return $part;
        };

        return json_encode($plain($schema), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }

    /**
     * @param array<mixed> $schema
     * @param array<string, array<string, array<mixed>>> $registries
     *
     * @return array<mixed>
     */
    private static function expand(array $schema, array $registries): array
    {
        foreach ($schema as $name => $part) {
            if (is_array($part) && $name !== 'x-kinds') {
                $schema[$name] = self::expand($part, $registries);
            }
        }
        $of = $schema['x-kinds'] ?? null;
        if (! is_array($of)) {
            return $schema;
        }
        [$registry, $as] = [$of['registry'] ?? null, $of['as'] ?? null];
        if (! is_string($registry) || ! is_string($as) || ! isset($registries[$registry])) {
            throw new LogicException('x-kinds names no registry: ' . json_encode($of));
        }
        $kinds = $registries[$registry];
        $fields = [$as => [
            'type' => 'string',
            'title' => $of['title'] ?? 'Kind',
            'description' => $of['description'] ?? 'Which kind it is.',
            'default' => $of['default'] ?? array_key_first($kinds),
            'enum' => array_keys($kinds),
            'x-labels' => array_map(static fn (array $kind): mixed => $kind['title'] ?? '', $kinds),
            'x-choice' => $registry,
        ]];
        foreach (array_keys($kinds) as $kind) {
            $fields[$kind] = ['$ref' => "#/\$defs/{$registry}.{$kind}"];
        }
        $schema['properties'] = $fields + (is_array($schema['properties'] ?? null) ? $schema['properties'] : []);

        return $schema;
    }

    /** @return array<mixed> */
    private static function read(string $file): array
    {
        $value = json_decode((string) file_get_contents($file), true, 64, JSON_THROW_ON_ERROR);

        return is_array($value) ? $value : throw new LogicException("{$file} holds no object.");
    }
}
