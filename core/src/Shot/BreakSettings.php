<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** How a prop comes apart; see the schema for each field. */
final readonly class BreakSettings
{
    private function __construct(
        public string $pattern,
        public int $pieces,
        public int $seed,
        public float $evenness,
        public string $prefix,
    ) {
    }

    public static function read(Fields $fields): self
    {
        return new self(
            $fields->string('pattern'),
            $fields->int('pieces'),
            $fields->int('seed'),
            $fields->float('evenness'),
            $fields->string('prefix'),
        );
    }
}
