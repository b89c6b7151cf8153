<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

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
     * @param Choice $with the pattern it is broken again by, or that made it
     */
    private function __construct(
        public string $kind,
        public array $at,
        public array $to,
        public Choice $with,
    ) {
    }

    public static function read(Settings $settings): self
    {
        return new self($settings->string('kind'), $settings->numbers('at'), $settings->numbers('to'), $settings->at('with')->choice('pattern'));
    }
}
