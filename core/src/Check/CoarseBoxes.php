<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** A soft thing whose boxes are longer than a hard thing over it is wide: it gives way all over, and that hops and slides on it. */
final class CoarseBoxes extends PropCheck
{
    /** So many boxes across what lies on it let that lie still. */
    private const ACROSS = 1.5;

    /** More boxes than this along its longest side are not worth it. */
    private const MOST = 40;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! $prop->mover->has('solid') || $mesh->isEmpty()) {
            return null;
        }
        [$low, $high] = $mesh->bounds();
        $scale = $prop->transform->scaleAt(1.0);
        $longest = max(array_map(static fn (float $a, float $b, float $by): float => abs($by) * ($b - $a), $low, $high, $scale));
        $side = $longest / $prop->mover->settings->int('fineness');
        foreach ($shot->props as $other) {
            if ($other === $prop || ! $other->mover->has('collides') || ! self::moves($other)) {
                continue;
            }
            $theirs = $pipeline->prepared($other);
            if ($theirs->isEmpty() || ! Meeting::may($prop, $mesh, $other, $theirs)) {
                continue;
            }
            $across = Meeting::across($other, $pipeline->broken($other));
            if ($across > 0.0 && $across < $side) {
                $text = sprintf('%s is coarse beside %s: its boxes are %s m long, what falls on it is %s m across. It may hop and slide there.', $prop->name, $other->name, round($side, 3), round($across, 3));
                $needed = (int) ceil(self::ACROSS * $longest / $across);
                $pointer = "{$at}/motion/soft/fineness";

                return new Finding('warn', $pointer, $text, $needed > self::MOST ? null : ['label' => "Make it of {$needed} boxes", 'pointer' => $pointer, 'value' => $needed]);
            }
        }

        return null;
    }
}
