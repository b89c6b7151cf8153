<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

/** One of several kinds of a thing, with the settings of that kind. */
final readonly class Choice
{
    public function __construct(public string $registry, public string $kind, public Settings $settings)
    {
    }

    /** Whether the kind has a trait; one may hang on its settings. */
    public function has(string $trait): bool
    {
        return $this->trait($trait) !== false;
    }

    /** @return bool|string|list<string> what its schema file says of a trait; false: it has none */
    public function trait(string $trait): bool|string|array
    {
        return $this->settings->schema->traitOf($this->registry, $this->kind, $trait, $this->settings->values());
    }
}
