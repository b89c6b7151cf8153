<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Pipeline;

/** A check that looks at one prop at a time; props whose mesh cannot be made are {@see UnusableMesh}'s. */
abstract class PropCheck implements Check
{
    /** @param string $at JSON Pointer to the prop */
    abstract protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding;

    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        $findings = [];
        foreach ($shot->props as $prop) {
            try {
                $finding = $this->of($prop, $prop->pointer, $shot, $pipeline->prepared($prop), $pipeline);
            } catch (Refusal) {
                // It, or one that it looks at, has no mesh.
                continue;
            }
            if ($finding !== null) {
                $findings[] = $finding;
            }
        }

        return $findings;
    }

    /** Whether a prop's pieces will ever be moved by what acts on them. */
    protected static function moves(Prop $prop): bool
    {
        return $prop->startsFree() || ! $prop->held()->isEmpty() || ! $prop->neverLetsGo();
    }
}
