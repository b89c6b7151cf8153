<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Pipeline;

/** Looks for one thing that would make a bake disappoint. */
interface Check
{
    /** @return list<Finding> */
    public function findings(Shot $shot, Pipeline $pipeline): array;
}
