<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Weighing;

/** A weight that never gets above what lets go, or is above it everywhere from the first frame on. */
final class Threshold extends PropCheck
{
    /** A weight that is never more than this has no height to fit a threshold to. */
    private const LEAST = 0.02;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if ($prop->mover->has('set') || ! $prop->trigger->has('weight') || $prop->weight->isEmpty() || Weighing::mixGoesByMotion($prop->weight, $prop)) {
            return null;
        }
        $threshold = $prop->trigger->settings->float('threshold');
        $weight = Weighing::of($prop, PropShape::ofProp($prop, $mesh, $pipeline->surfaces));
        $sketch = WeightSketch::of($prop, $shot, $mesh);
        $most = 0.0;
        foreach ($sketch->frames as $frame) {
            $values = $weight->evaluate($sketch->places, $frame);
            if ($frame === 1.0 && min([1.0, ...$values]) >= $threshold) {
                return new Finding('warn', "{$at}/weight/stack", "All of {$prop->name} lets go at the first frame: its weight is above {$threshold} everywhere from the beginning. If that is the wrong way round, invert a source.");
            }
            $most = max([$most, ...$values]);
        }
        if ($most >= $threshold || $most < self::LEAST) {
            return null;
        }
        $better = max(0.01, floor(80.0 * $most) / 100.0);
        $field = "{$at}/release/{$prop->trigger->kind}/threshold";

        return new Finding('warn', $field, sprintf('Nothing of %s lets go: its weight gets to %s at most, and it lets go above %s.', $prop->name, round($most, 2), $threshold), ['label' => "Let go above {$better}", 'pointer' => $field, 'value' => $better]);
    }
}
