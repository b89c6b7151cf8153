<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Pipeline;

/** A prop whose mesh cannot be made. */
final class UnusableMesh implements Check
{
    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        $findings = [];
        foreach ($shot->props as $prop) {
            try {
                $pipeline->prepared($prop);
            } catch (Refusal $error) {
                $findings[] = new Finding('stop', "{$prop->pointer}/source", "{$prop->name}: {$error->getMessage()}");
            }
        }

        return $findings;
    }
}
