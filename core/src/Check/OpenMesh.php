<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** A mesh without an inside that is to be broken or to fall. */
final class OpenMesh extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        ['health' => $health] = $pipeline->health($prop);
        $moves = self::moves($prop) && ! $prop->mover->has('open');
        $needsInside = $prop->isSkin() ? $prop->startsFree() : ! ($prop->isWhole() || $prop->pattern->has('copies')) || $moves;
        if ($health['watertight'] || ! $needsInside) {
            return null;
        }

        if ($prop->mover->has('open')) {
            return new Finding('stop', "{$at}/break/pattern", "{$prop->name} is not watertight ({$health['openEdges']} open edges), so it has no inside to break. As it moves it need not be broken.", [
                'label' => 'Keep it whole', 'pointer' => "{$at}/break", 'value' => ['pattern' => 'whole'],
            ]);
        }

        return new Finding('stop', "{$at}/source", "{$prop->name} is not watertight ({$health['openEdges']} open edges), so it has no inside to break and no mass. It can only be something to fall on.", [
            'label' => 'Keep it whole and still', 'pointer' => $at,
            'value' => ['break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['mover' => 'rigid', 'rigid' => ['before' => 'held']]],
        ]);
    }
}
