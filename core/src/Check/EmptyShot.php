<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Pipeline;

final class EmptyShot implements Check
{
    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        return match (true) {
            $shot->props !== [] => [],
            $shot->hasProps() => [new Finding('stop', '/props', 'Every prop of the shot is switched off.')],
            default => [new Finding('stop', '/props', 'The shot is empty. Add a prop first.')],
        };
    }
}
