<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Errors\ValidationError;
use Opis\JsonSchema\Validator;
use stdClass;

/** The one definition of a shot document: checks documents, fills in defaults, knows the title and unit of every field. */
final class ShotSchema
{
    private const FILE = __DIR__ . '/../../schema/shot.schema.json';

    /** @var array<mixed> */
    private readonly array $schema;

    private static ?self $shared = null;

    private function __construct()
    {
        $schema = json_decode((string) file_get_contents(self::FILE), true, 64, JSON_THROW_ON_ERROR);
        $this->schema = is_array($schema) ? $schema : [];
    }

    public static function load(): self
    {
        return self::$shared ??= new self();
    }

    /** @return array<mixed> */
    public function json(): array
    {
        return $this->schema;
    }

    /**
     * The document with every default filled in.
     *
     * @return array<mixed>
     *
     * @throws BadDocument
     */
    public function complete(mixed $document): array
    {
        $this->check($document);
        $full = $this->withDefaults($document, $this->schema);

        return is_array($full) ? $full : [];
    }

    /**
     * A document that was complete when it was stored, with the settings that have come since.
     *
     * @param array<mixed> $document
     *
     * @return array<mixed>
     */
    public function filled(array $document): array
    {
        $full = $this->withDefaults($document, $this->schema);

        return is_array($full) ? $full : [];
    }

    /** @throws BadDocument */
    public function check(mixed $document): void
    {
        if (! is_array($document)) {
            throw new BadDocument([['pointer' => '', 'detail' => 'A shot is a JSON object.']]);
        }
        $validator = new Validator();
        $validator->setMaxErrors(20);
        $result = $validator->validate($this->asJson($document, $this->schema), (string) file_get_contents(self::FILE));
        if ($result->isValid()) {
            return;
        }
        $error = $result->error();
        $errors = $error === null ? [] : array_map($this->explain(...), self::leaves($error));
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

        return is_array($target) ? $this->resolve($target) : $schema;
    }

    /** @param array<mixed> $schema */
    private function withDefaults(mixed $value, array $schema): mixed
    {
        $schema = $this->resolve($schema);
        if (($schema['type'] ?? null) === 'object' && is_array($value)) {
            $full = [];
            foreach (is_array($schema['properties'] ?? null) ? $schema['properties'] : [] as $name => $field) {
                $field = is_array($field) ? $this->resolve($field) : [];
                if (array_key_exists($name, $value) || array_key_exists('default', $field)) {
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
