<?php

declare(strict_types=1);

namespace App\Support;

use RuntimeException;

/** Somebody else is computed first; come again soon. */
final class Busy extends RuntimeException
{
    /** s */
    public const AGAIN = 1;

    public function __construct()
    {
        parent::__construct('Other previews are made first. Ask again in a moment: this one follows as soon as there is room.');
    }
}
