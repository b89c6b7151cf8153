<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Refusal;

/** A file that cannot be read; the message says what is wrong and where (line or byte), and what to do. */
final class BadFile extends Refusal
{
    public function __construct(string $message)
    {
        // Messages quote the file, which may hold anything; they must be fit to be shown and sent.
        parent::__construct(preg_replace('/[\x00-\x1f\x7f]/', '?', mb_scrub($message, 'UTF-8')) ?? '');
    }

    public static function atLine(int $line, string $what): self
    {
        return new self("Line {$line}: {$what}");
    }

    public static function atByte(int $byte, string $what): self
    {
        return new self("Byte {$byte}: {$what}");
    }
}
