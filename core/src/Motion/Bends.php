<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use Closure;
use YardBreak\Core\Motion\Surface\Bending;

/** A mover of surfaces that bend. */
interface Bends
{
    /** @return array<string, Closure(): Bending> by name: each surface as it stands when it is asked for */
    public function surfaces(): array;
}
