<?php

declare(strict_types=1);

namespace YardBreak\Core\Plane;

use YardBreak\Core\Refusal;

/** A drawing would take longer than it may. */
final class TooIntricate extends Refusal
{
    public function __construct()
    {
        parent::__construct('The drawing is too intricate: its lines cross too often, or lie too close along each other. Simplify it first.');
    }
}
