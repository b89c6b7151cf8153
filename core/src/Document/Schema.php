<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Errors\ValidationError;
use Opis\JsonSchema\Schema as ParsedSchema;
use Opis\JsonSchema\Validator;
use stdClass;

/**
 * The one definition of a shot document: checks documents, fills in defaults, knows the title, unit and condition of every
 * field and the traits of every kind.
 */
final class Schema
{
    private static ?self $shared = null;

    private static ?self $first = null;

    /** With what it has parsed of the schema: a few hundred kilobytes, read in full only once. */
    private ?Validator $validator = null;

    private ?ParsedSchema $parsed = null;

    /** @param array<mixed> $schema */
    private function __construct(private readonly array $schema)
    {
    }

    public static function load(): self
    {
        return self::$shared ??= new self(SchemaBundle::of());
    }

    /** Of documents of version 1, for upgrading them. */
    public static function first(): self
    {
        $schema = json_decode((string) file_get_contents(SchemaBundle::FOLDER . '/v1.json'), true, 64, JSON_THROW_ON_ERROR);

        return self::$first ??= new self(is_array($schema) ? $schema : []);
    }

    /**
     * With the kinds of another folder too, for as long as the work takes.
     *
     * @template T
     *
     * @param callable(): T $work
     *
     * @return T
     */
    public static function with(string $folder, callable $work): mixed
    {
        $before = self::$shared;
        self::$shared = new self(SchemaBundle::of([SchemaBundle::FOLDER, $folder]));
        try {
            return $work();
        } finally {
            self::$shared = $before;
        }
    }

    /** @return array<mixed> */
    public function json(): array
    {
        return $this->schema;
    }

    /**
     * The document with every default filled in: of kinds that are not chosen only what was set of them is kept. A document
     * of an older version is upgraded first.
     *
     * @return array<mixed>
     *
     * @throws BadDocument
     */
    public function complete(mixed $document): array
    {
        $document = Upgrade\Upgrades::newest($document);
        $this->check($document);

        return $this->withAllDefaults(is_array($document) ? $document : []);
    }

    /**
     * A document that was complete when it was stored, with the settings that have come since.
     *
     * @param array<mixed> $document
     *
     * @return array<mixed>
     *
     * @throws BadDocument
     */
    public function filled(array $document): array
    {
        $document = Upgrade\Upgrades::newest($document);

        return $this->withAllDefaults(is_array($document) ? $document : []);
    }

    /**
     * @param array<mixed> $document of this schema's version
     *
     * @return array<mixed>
     */
    public function withAllDefaults(array $document): array
    {
        $full = $this->withDefaults($document, $this->schema);

        return is_array($full) ? $full : [];
    }

    /** @return list<string> the kinds of a registry, in order */
    public function kinds(string $registry): array
    {
        $definitions = is_array($this->schema['$defs'] ?? null) ? array_keys($this->schema['$defs']) : [];
        $kinds = [];
        foreach ($definitions as $name) {
            if (is_string($name) && str_starts_with($name, "{$registry}.")) {
                $kinds[] = substr($name, strlen($registry) + 1);
            }
        }

        return $kinds;
    }

    /**
     * @param array<mixed> $values of the kind's settings
     *
     * @return bool|string|list<string>
     */
    public function traitOf(string $registry, string $kind, string $trait, array $values): bool|string|array
    {
        $kind = is_array($this->schema['$defs'] ?? null) ? ($this->schema['$defs']["{$registry}.{$kind}"] ?? null) : null;
        $value = is_array($kind) && is_array($kind['traits'] ?? null) ? ($kind['traits'][$trait] ?? false) : false;
        if (is_array($value) && ! array_is_list($value)) {
            return Conditions::hold($value, $values, $values, $this);
        }

        return is_array($value) ? array_values(array_filter($value, is_string(...))) : (is_string($value) ? $value : $value === true);
    }

    /**
     * @param string $as the field that names the kind
     * @param array<mixed> $owner the object that the field is in
     *
     * @return bool|string|list<string>
     */
    public function trait(string $as, array $owner, string $trait): bool|string|array
    {
        $kind = $owner[$as] ?? null;
        $registry = is_array($this->schema['x-choices'] ?? null) ? ($this->schema['x-choices'][$as] ?? null) : null;
        if (! is_string($kind) || ! is_string($registry)) {
            return false;
        }

        return $this->traitOf($registry, $kind, $trait, is_array($owner[$kind] ?? null) ? $owner[$kind] : []);
    }

    /** @throws BadDocument */
    public function check(mixed $document): void
    {
        if (! is_array($document)) {
            throw new BadDocument([['pointer' => '', 'detail' => 'A shot is a JSON object.']]);
        }
        if ($this->validator === null || $this->parsed === null) {
            $this->validator = (new Validator())->setMaxErrors(20);
            $this->parsed = $this->validator->loader()->loadObjectSchema((object) json_decode(SchemaBundle::json($this->schema), false, 64, JSON_THROW_ON_ERROR));
        }
        $error = $this->validator->schemaValidation($this->asJson($document, $this->schema), $this->parsed);
        if ($error === null) {
            return;
        }
        $errors = array_map($this->explain(...), self::leaves($error));
        throw new BadDocument($errors === [] ? [['pointer' => '', 'detail' => 'The document does not follow the schema.']] : $errors);
    }

    /** @return list<ValidationError> the errors that have no finer ones below them */
    private static function leaves(ValidationError $error): array
    {
        $leaves = [];
        /** @var ValidationError $sub */
        foreach ($error->subErrors() as $sub) {
            array_push($leaves, ...self::leaves($sub));
        }
        if ($leaves === []) {
            return [$error];
        }
        if ($error->keyword() !== 'anyOf') {
            return $leaves;
        }
        // A number or keys: of the two ways to read it, the one that failed further in is the one that was meant.
        $depth = static fn (ValidationError $leaf): int => count($leaf->data()->fullPath());
        $deepest = max(array_map($depth, $leaves));

        return array_values(array_filter($leaves, static fn (ValidationError $leaf): bool => $depth($leaf) === $deepest));
    }

    /** @return array{pointer: string, detail: string} */
    private function explain(ValidationError $error): array
    {
        $formatter = new ErrorFormatter();
        $path = [];
        foreach ($error->data()->fullPath() as $part) {
            $path[] = (string) $part;
        }
        $pointer = $path === [] ? '' : '/' . implode('/', array_map(static fn (string $p): string => str_replace(['~', '/'], ['~0', '~1'], $p), $path));
        $field = $this->field($path);
        $title = is_string($field['title'] ?? null) ? $field['title'] : 'This';
        $unit = is_string($field['x-unit'] ?? null) ? ' ' . $field['x-unit'] : '';
        $limit = static fn (string $key): string => is_int($field[$key] ?? null) || is_float($field[$key] ?? null) ? (string) $field[$key] : '';
        $detail = match ($error->keyword()) {
            'minimum', 'maximum' => "{$title} must be from {$limit('minimum')} to {$limit('maximum')}{$unit}.",
            'type' => "{$title} is of the wrong kind: " . lcfirst($formatter->formatErrorMessage($error)) . '.',
            'enum' => "{$title} must be one of: " . implode(', ', array_filter((array) ($field['enum'] ?? []), 'is_string')) . '.',
            'additionalProperties' => "{$title}: " . lcfirst($formatter->formatErrorMessage($error)) . '. Remove what is not listed in the reference.',
            default => "{$title}: " . lcfirst($formatter->formatErrorMessage($error)) . '.',
        };

        return ['pointer' => $pointer, 'detail' => $detail];
    }

    /**
     * The schema of the field at a path of the document.
     *
     * @param list<string> $path
     *
     * @return array<mixed>
     */
    public function field(array $path): array
    {
        $schema = $this->schema;
        foreach ($path as $part) {
            $schema = $this->resolve($schema);
            $properties = is_array($schema['properties'] ?? null) ? $schema['properties'] : [];
            $next = $properties[$part] ?? (is_array($schema['items'] ?? null) ? $schema['items'] : null);
            if (! is_array($next)) {
                return $schema;
            }
            $schema = $next;
        }

        return $this->resolve($schema);
    }

    /**
     * @param array<mixed> $schema
     *
     * @return array<mixed>
     */
    private function resolve(array $schema): array
    {
        if (! is_string($schema['$ref'] ?? null)) {
            return $schema;
        }
        $target = $this->schema;
        foreach (explode('/', substr($schema['$ref'], 2)) as $part) {
            $target = is_array($target) ? ($target[$part] ?? null) : null;
        }
        if (! is_array($target)) {
            return $schema;
        }
        unset($schema['$ref']);

        // What is said beside a reference outweighs what it refers to.
        return $schema + $this->resolve($target);
    }

    /**
     * The kind that an object of settings names, and the kinds that it does not.
     *
     * @param array<mixed> $schema of the object
     * @param array<mixed> $value
     *
     * @return array{string|null, list<string>}
     */
    public function chosen(array $schema, array $value): array
    {
        $of = $schema['x-kinds'] ?? null;
        if (! is_array($of) || ! is_string($of['as'] ?? null) || ! is_string($of['registry'] ?? null)) {
            return [null, []];
        }
        $kind = $value[$of['as']] ?? $of['default'] ?? null;

        return [is_string($kind) ? $kind : null, array_values(array_filter($this->kinds($of['registry']), static fn (string $other): bool => $other !== $kind))];
    }

    private static function completeKey(mixed $key): mixed
    {
        if (! is_array($key)) {
            return $key;
        }

        return $key + (($key['cue'] ?? '') === '' ? [] : ['offset' => 0]) + ['ease' => 'smooth'];
    }

    /** @param array<mixed> $schema */
    private function withDefaults(mixed $value, array $schema): mixed
    {
        $schema = $this->resolve($schema);
        if (($schema['x-animatable'] ?? false) === true && is_array($value)) {
            return ['keys' => array_map(self::completeKey(...), array_values(is_array($value['keys'] ?? null) ? $value['keys'] : []))] + $value;
        }
        if (($schema['type'] ?? null) === 'object' && is_array($value)) {
            $full = [];
            [$kind, $others] = $this->chosen($schema, $value);
            foreach (is_array($schema['properties'] ?? null) ? $schema['properties'] : [] as $name => $field) {
                $field = is_array($field) ? $this->resolve($field) : [];
                if ($name === $kind) {
                    $full[$name] = $this->withDefaults($value[$name] ?? [], $field);
                } elseif (in_array($name, $others, true)) {
                    // Kept for when it is chosen again.
                    if (array_key_exists($name, $value)) {
                        $full[$name] = $value[$name];
                    }
                } elseif (array_key_exists($name, $value) || array_key_exists('default', $field)) {
                    $full[$name] = $this->withDefaults($value[$name] ?? $field['default'], $field);
                }
            }

            return $full;
        }
        if (($schema['type'] ?? null) === 'array' && is_array($value) && is_array($schema['items'] ?? null)) {
            return array_map(fn (mixed $item): mixed => $this->withDefaults($item, (array) $schema['items']), array_values($value));
        }

        return ($schema['type'] ?? null) === 'number' && is_int($value) ? (float) $value : $value;
    }

    /**
     * PHP cannot tell an empty list from an empty object; the schema can.
     *
     * @param array<mixed> $schema
     */
    private function asJson(mixed $value, array $schema): mixed
    {
        $schema = $this->resolve($schema);
        if (! is_array($value)) {
            return $value;
        }
        $isObject = ($schema['type'] ?? null) === 'object' || ($value !== [] && ! array_is_list($value));
        $properties = is_array($schema['properties'] ?? null) ? $schema['properties'] : [];
        $items = is_array($schema['items'] ?? null) ? $schema['items'] : [];
        if (! $isObject) {
            return array_map(fn (mixed $item): mixed => $this->asJson($item, $items), $value);
        }
        $object = new stdClass();
        foreach ($value as $key => $item) {
            $field = $properties[$key] ?? [];
            $object->{(string) $key} = $this->asJson($item, is_array($field) ? $field : []);
        }

        return $object;
    }
}
