<?php

declare(strict_types=1);

namespace YardBreak\Core;

use RuntimeException;

/**
 * Something the artist asked for that cannot be done. The message is for them: it says what is wrong, where, and what to do.
 * Everything else that is thrown is a fault of ours and must never be shown as theirs.
 */
abstract class Refusal extends RuntimeException
{
}
