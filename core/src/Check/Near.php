<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Choice;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Nearness;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\SurfaceWays;
use YardBreak\Core\Weight\Samples;

/** A weight by what is near, where nothing is chosen, what is chosen is gone, never comes near, or does not move. */
final class Near extends PropCheck
{
    /** At so many frames all places are asked, if few have not come near. */
    private const CLOSER = 4;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        foreach ($prop->mixes() as $list => $mix) {
            foreach ($mix->stack as $k => $layer) {
                $source = $layer->choice('source');
                if ($source->has('reach') || $source->has('touch')) {
                    $finding = $this->wrong($source, "{$at}{$list}/{$k}/{$source->kind}", $prop, $shot, PropShape::ofProp($prop, $mesh, $pipeline->surfaces));
                    if ($finding !== null) {
                        return $finding;
                    }
                }
            }
        }

        return null;
    }

    private function wrong(Choice $source, string $at, Prop $prop, Shot $shot, PropShape $shape): ?Finding
    {
        $settings = $source->settings;
        // Nearer than this there is a weight, or it is set off.
        $field = $source->has('touch') ? 'near' : 'none';
        $named = $settings->strings('props');
        $there = array_values(array_filter($named, static fn (string $id): bool => isset($prop->others[$id])));
        if ($there !== $named) {
            return new Finding('warn', "{$at}/props", "The weight of {$prop->name} follows a prop that is no longer in the shot.", ['label' => 'Take it out', 'pointer' => "{$at}/props", 'value' => $there]);
        }
        if ($there === []) {
            $only = count($prop->others) === 1 ? array_values($prop->others)[0] : null;

            return new Finding('warn', "{$at}/props", "The weight of {$prop->name} follows what is near it, but no prop is chosen: it is 0 everywhere.", $only === null ? null : ['label' => "Let it follow {$only->name}", 'pointer' => "{$at}/props", 'value' => [$only->id]]);
        }
        if ($source->has('seen')) {
            // How near it comes is only known after a bake.
            return null;
        }
        foreach ($shot->props as $other) {
            if (in_array($other->id, $there, true) && $other->startsFree()) {
                return new Finding('warn', "{$at}/props", "The weight of {$prop->name} follows {$other->name} only where its keys put it, but {$other->name} falls by itself: to the weight it stays where it begins.", ['label' => "Follow {$other->name} as it falls", 'pointer' => "{$at}/where", 'value' => 'motion']);
            }
        }
        $names = implode(' and ', array_map(static fn (string $id): string => $prop->others[$id]->name, $there));
        $none = $settings->animated($field);
        $sketch = WeightSketch::of($prop, $shot, $shape->mesh());
        $reached = false;
        $far = [];
        foreach ($sketch->frames as $frame) {
            $far[(string) $frame] = Nearness::least($settings, $prop, $shape, $sketch->places, $frame);
            $reached = $far[(string) $frame] < $none->at($frame);
            if ($reached) {
                break;
            }
        }
        $nearest = INF;
        if (! $reached) {
            // The sketch has few places: at the nearest of its frames all are asked. A front sets out from places of its own, which lie closer together.
            $all = $source->has('touch') ? SurfaceWays::of($prop, $shape->others, false)->places()
                : new Samples(array_values($shape->mesh()->x), array_values($shape->mesh()->y), array_values($shape->mesh()->z));
            asort($far);
            foreach (array_slice(array_keys($far), 0, self::CLOSER) as $frame) {
                $nearest = min($nearest, Nearness::least($settings, $prop, $shape, $all, (float) $frame));
                $reached = $reached || $nearest < $none->at((float) $frame);
            }
        }
        if (! $reached) {
            $enough = ceil(125.0 * $nearest) / 100.0;

            return new Finding(
                'warn',
                "{$at}/{$field}",
                sprintf('%s never comes nearer to %s than %s m, and beyond %s m there is no weight.', $names, $prop->name, round($nearest, 3), $none->at($sketch->frames[0])),
                ['label' => "Reach {$enough} m", 'pointer' => "{$at}/{$field}", 'value' => $enough],
            );
        }
        if ($source->has('touch')) {
            return null;
        }
        $moves = $prop->transform->isKeyed() || ! $none->isConstant() || ! $settings->animated('full')->isConstant()
            || array_filter($there, static fn (string $id): bool => $prop->others[$id]->transform->isKeyed()) !== [];

        return $moves || ! $prop->trigger->has('weight') ? null
            : new Finding('warn', "{$at}/props", "{$names} stands still, and so does {$prop->name}: the weight is the same at every frame. Give one of them keys.");
    }
}
