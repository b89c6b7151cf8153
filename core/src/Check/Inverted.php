<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Nearness;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Weighing;

/** What lets go is what is far from the prop that the weight follows: it looks as if it were the wrong way round. */
final class Inverted extends PropCheck
{
    /** How many times as far what lets go is. */
    private const FARTHER = 1.5;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if ($prop->mover->has('set') || ! $prop->trigger->has('weight') || Weighing::mixGoesByMotion($prop->weight, $prop)) {
            return null;
        }
        foreach ($prop->weight->stack as $k => $layer) {
            $source = $layer->choice('source');
            if (! $source->has('reach') || ! $layer->bool('invert')) {
                continue;
            }
            $shape = PropShape::ofProp($prop, $mesh, $pipeline->surfaces);
            $weight = Weighing::of($prop, $shape);
            $sketch = WeightSketch::of($prop, $shot, $mesh);
            $threshold = $prop->trigger->settings->float('threshold');
            [$gone, $left, $counts] = [0.0, 0.0, [0, 0]];
            foreach ($sketch->frames as $frame) {
                $far = Nearness::distances($source->settings, $prop, $shape, $sketch->places, $frame);
                foreach ($weight->evaluate($sketch->places, $frame) as $n => $value) {
                    if (! is_finite($far[$n])) {
                        return null;
                    }
                    $value >= $threshold ? $gone += $far[$n] : $left += $far[$n];
                    $counts[$value >= $threshold ? 0 : 1]++;
                }
            }
            if (min($counts) > 0 && $gone / $counts[0] > self::FARTHER * max(1e-9, $left / $counts[1])) {
                $names = implode(' and ', array_map(static fn (string $id): string => $prop->others[$id]->name, array_values(array_filter($source->settings->strings('props'), static fn (string $id): bool => isset($prop->others[$id])))));

                return new Finding('warn', "{$at}/weight/stack/{$k}/invert", "What lets go of {$prop->name} is what is far from {$names}; what is near stays. If that is the wrong way round, turn it round.", ['label' => 'Turn it round', 'pointer' => "{$at}/weight/stack/{$k}/invert", 'value' => false]);
            }
        }

        return null;
    }
}
