<?php

declare(strict_types=1);

namespace App\Support;

use YardBreak\Core\Refusal;

/** What was computed cannot be kept. */
final class StoreFull extends Refusal
{
    public static function whileKeeping(string $what): self
    {
        return new self("{$what} could not be stored: is the disk full? Make room on the disk that holds the store, then try again; nothing stored before is lost.");
    }
}
