<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Closure;

/** Tells how far a break has got. What the listener throws ends the break; nothing has been stored by then. */
final readonly class Progress
{
    /** @param (Closure(string, int, int): void)|null $listener what is being done, how many are done, of how many */
    public function __construct(private ?Closure $listener = null)
    {
    }

    public function at(string $what, int $done, int $of): void
    {
        if ($this->listener !== null) {
            ($this->listener)($what, $done, $of);
        }
    }
}
