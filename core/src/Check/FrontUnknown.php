<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Breaking;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\Weighing;

/** Pieces that should be cut where a front stands that is not known before anything moves. */
final class FrontUnknown extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! Breaking::cutsByFront($prop)) {
            return null;
        }
        $field = "{$at}/release/{$prop->trigger->kind}/cuts";
        $without = ['label' => 'Leave the pieces whole', 'pointer' => $field, 'value' => false];

        return match (true) {
            Weighing::goesByPieces($prop) => new Finding('warn', $field, "The weight of {$prop->name} goes by which pieces were picked, and there are none yet when the front cuts them: those sources are left out there.", $without),
            Weighing::mixGoesByMotion($prop->weight, $prop) => new Finding('warn', $field, "{$prop->name} is broken before anything moves, so it is cut where the front stands with the others where their keys put them, not where they go.", $without),
            default => null,
        };
    }
}
