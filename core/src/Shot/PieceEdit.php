<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/**
 * A piece changed by hand: joined to another, broken again, or locked. Pieces are found by their middle, so edits outlive a
 * new seed.
 */
final readonly class PieceEdit
{
    /**
     * @param string $kind join, again or lock
     * @param array{float, float, float} $at middle of the piece, m
     * @param array{float, float, float} $to middle of the piece it is joined to, m
     * @param PatternSettings $with the pattern it is broken again by, or that made it
     */
    private function __construct(
        public string $kind,
        public array $at,
        public array $to,
        public PatternSettings $with,
    ) {
    }

    public static function read(Fields $fields): self
    {
        return new self($fields->string('kind'), $fields->numbers('at'), $fields->numbers('to'), PatternSettings::read($fields->at('with')));
    }
}
