<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** Copies of a prop that nothing takes apart: all stand in one place, in each other. */
final class InOnePlace extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        $count = $prop->pattern->has('copies') ? $prop->pattern->settings->int('count') : 1;
        if ($count < 2 || ! ($prop->mover->has('collides') || $prop->mover->has('vertices'))) {
            return null;
        }

        return new Finding(
            'warn',
            "{$at}/motion/mover",
            sprintf('All %s copies of %s stand in one place, in each other. Set them on another prop, or let them leave staged.', number_format($count), $prop->name),
            count($shot->props) > 1 ? ['label' => 'Set them on another prop', 'pointer' => "{$at}/motion/mover", 'value' => 'set'] : ['label' => 'Let them leave staged', 'pointer' => "{$at}/motion/mover", 'value' => 'staged'],
        );
    }
}
