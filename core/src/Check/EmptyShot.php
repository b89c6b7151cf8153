<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Pipeline;

final class EmptyShot implements Check
{
    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        return $shot->props === [] ? [new Finding('stop', '/props', 'The shot is empty. Add a prop first.')] : [];
    }
}
