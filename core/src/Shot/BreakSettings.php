<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** How a prop comes apart; see the schema for each field. */
final readonly class BreakSettings
{
    /** @param list<PieceEdit> $edits */
    private function __construct(
        public PatternSettings $how,
        public float $roughness,
        public float $fineness,
        public string $fibres,
        public float $smallest,
        public float $thinnest,
        public string $prefix,
        public array $edits,
    ) {
    }

    public static function read(Fields $fields): self
    {
        return new self(
            PatternSettings::read($fields),
            $fields->float('roughness'),
            $fields->float('fineness'),
            $fields->string('fibres'),
            $fields->float('smallest'),
            $fields->float('thinnest'),
            $fields->string('prefix'),
            array_map(PieceEdit::read(...), $fields->list('edits')),
        );
    }

    public function isWhole(): bool
    {
        return $this->how->pattern === 'whole';
    }

    /** Whether only the skin comes off; then the mesh need not be closed. */
    public function isSkin(): bool
    {
        return $this->how->pattern === 'flakes' || $this->how->pattern === 'faces';
    }
}
