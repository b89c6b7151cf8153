<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** A prop that is set on another one, which is not chosen, is set on something itself, or goes ways that are not known beforehand. */
final class NothingBelow extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! $prop->mover->has('set')) {
            return null;
        }
        $field = "{$at}/motion/{$prop->mover->kind}/on";
        $below = $prop->others[$prop->mover->settings->string('on')] ?? null;
        $may = array_values(array_filter($prop->others, static fn (Prop $other): bool => ! $other->mover->has('set')));
        $remedy = count($may) === 1 ? ['label' => "Set it on {$may[0]->name}", 'pointer' => $field, 'value' => $may[0]->id] : null;
        if ($below === null) {
            return new Finding('stop', $field, "Nothing is chosen that {$prop->name} is set on.", $remedy);
        }
        if ($below->mover->has('set')) {
            return new Finding('stop', $field, "{$below->name} is set on another prop itself; nothing can be set on it.", $remedy);
        }

        return $below->mover->has('staged') && $below->mover->has('vertices') || ! self::moves($below) ? null
            : new Finding('warn', $field, "{$prop->name} goes with {$below->name} only where its keys put it: what its pieces do by themselves is not followed.");
    }
}
