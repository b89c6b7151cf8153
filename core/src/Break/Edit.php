<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** A change to pieces that is made after the pattern. */
interface Edit
{
    /** @throws BreakFailed if it cannot be done in this break */
    public function apply(Fracture $fracture, Progress $progress): void;
}
