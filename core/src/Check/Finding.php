<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

/** Something that would make a bake disappoint, found beforehand; with the change that would mend it, where there is one. */
final readonly class Finding
{
    /** @param array{label: string, pointer: string, value: mixed}|null $remedy a field of the document (JSON Pointer) and the value to give it */
    public function __construct(
        public string $severity,
        public string $pointer,
        public string $text,
        public ?array $remedy = null,
    ) {
    }
}
