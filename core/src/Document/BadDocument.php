<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use YardBreak\Core\Refusal;

/** A shot document that does not follow the schema or contradicts itself. */
final class BadDocument extends Refusal
{
    /** @param list<array{pointer: string, detail: string}> $errors pointer: JSON Pointer (RFC 6901) to the field */
    public function __construct(public readonly array $errors)
    {
        $first = $errors[0] ?? ['pointer' => '', 'detail' => 'unknown'];
        parent::__construct(($first['pointer'] === '' ? 'The document' : $first['pointer']) . ': ' . $first['detail']);
    }
}
