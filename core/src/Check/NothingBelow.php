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

        if ($prop->trigger->has('found') || $prop->neverLetsGo()) {
            $why = $prop->neverLetsGo() ? 'it grows as it lets go, which it never does' : 'it grows on a touch, but nothing touches what is set on another prop';

            return new Finding('warn', "{$at}/release/trigger", "{$prop->name} never shows: {$why}.", ['label' => "Let it grow by the weight of {$below->name}", 'pointer' => "{$at}/release/trigger", 'value' => 'weight']);
        }
        [$low, $high] = $mesh->bounds();
        $size = max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);
        [$x, , $z] = $prop->transform->positionAt(1.0);
        $away = sqrt($x * $x + $z * $z);
        if ($away > $size) {
            return new Finding('warn', "{$at}/position", sprintf('%s stands %s m beside the origin, so each of its pieces will stand as far beside its seat.', $prop->name, round($away, 2)), ['label' => 'Put it at the origin', 'pointer' => "{$at}/position", 'value' => ['x' => 0, 'z' => 0]]);
        }

        return $below->mover->has('staged') && $below->mover->has('vertices') || ! self::moves($below) ? null
            : new Finding('warn', $field, "{$prop->name} goes with {$below->name} only where its keys put it: what its pieces do by themselves is not followed.");
    }
}
