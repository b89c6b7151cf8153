<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Choice;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** A weight that sets out from nowhere, that cannot get to all shells, or goes by another weight that is not there. */
final class Spreading extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        foreach ($prop->mixes() as $list => $mix) {
            foreach ($mix->stack as $k => $layer) {
                $source = $layer->choice('source');
                $field = "{$at}{$list}/{$k}/{$source->kind}";
                $finding = $this->goesByNothing($source, $field, $prop) ?? $this->followsNoLine($source, $field, $prop) ?? $this->noPiece($source, $field, $prop) ?? ($source->has('surface') ? $this->apart($source, $field, $prop, $mesh) : null);
                if ($finding !== null) {
                    return $finding;
                }
            }
        }

        return null;
    }

    private function goesByNothing(Choice $source, string $at, Prop $prop): ?Finding
    {
        $fields = $source->trait('weights');
        $fields = is_array($fields) ? $fields : [];
        $inForce = $source->settings->inForce();
        foreach ($fields as $k => $field) {
            $named = $inForce[$field] ?? null;
            // Nothing slows it unless one is chosen.
            $needed = $k === 0;
            if (! is_string($named) || isset($prop->weights[$named]) || ($named === '' && ! $needed)) {
                continue;
            }
            $only = count($prop->weights) === 1 ? array_values($prop->weights)[0] : null;

            return new Finding(
                'warn',
                "{$at}/{$field}",
                $named === '' ? "A source of {$prop->name} goes by another weight, but none is chosen: it is 0 everywhere." : "A source of {$prop->name} goes by a weight that is no longer there.",
                $only === null ? null : ['label' => "Let it go by {$only->name}", 'pointer' => "{$at}/{$field}", 'value' => $only->id],
            );
        }

        return null;
    }

    private function followsNoLine(Choice $source, string $at, Prop $prop): ?Finding
    {
        return $source->has('line') && count($source->settings->list('places')) < 2
            ? new Finding('warn', "{$at}/places", "A front over {$prop->name} follows a line, but fewer than two places of it are picked: all of it changes at once.")
            : null;
    }

    private function noPiece(Choice $source, string $at, Prop $prop): ?Finding
    {
        return $source->has('picked') && $source->settings->list('places') === []
            ? new Finding('warn', "{$at}/places", "A weight of {$prop->name} goes by pieces that are picked, but none is: there it is 0 everywhere.")
            : null;
    }

    private function apart(Choice $source, string $at, Prop $prop, TriangleMesh $mesh): ?Finding
    {
        $places = $source->settings->string('begins') === 'places' ? $source->settings->list('places') : null;
        if ($places === []) {
            return new Finding('warn', "{$at}/places", "A weight of {$prop->name} grows over its surface, but no place is picked where it begins.");
        }
        $parts = Topology::of($mesh)->parts;

        return $places !== null && $parts > count($places)
            ? new Finding('warn', "{$at}/places", "{$prop->name} is made of {$parts} separate shells: what grows over the surface does not get from one to another. Pick a place on each that it should reach.")
            : null;
    }
}
