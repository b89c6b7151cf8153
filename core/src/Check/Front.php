<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Choice;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\Weighing;

/** A release by weight whose weight has no source, starts too late, or has no blow to start from. */
final class Front extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if ($prop->mover->has('set') || ! $prop->trigger->has('weight')) {
            return null;
        }
        $sweep = ['label' => 'Let a front sweep by', 'pointer' => "{$at}/weight/stack", 'value' => [['source' => 'sweep']]];
        if ($prop->weight->isEmpty()) {
            return new Finding('warn', "{$at}/weight/stack", "{$prop->name} lets go by its weight, but its weight has no source: nothing will let go.", $sweep);
        }
        $sources = array_map(static fn (Settings $layer): Choice => $layer->choice('source'), $prop->weight->stack);
        foreach ($sources as $k => $source) {
            if ($source->has('blow') && Weighing::blow($prop) === null) {
                return new Finding('warn', "{$at}/weight/stack/{$k}/source", "{$prop->name} should let go from the blow outward, but its break has none. Break it by a web or a breach, or cellular and finer about a place.", $sweep);
            }
        }
        $first = INF;
        foreach ($sources as $source) {
            $starts = $source->settings->inForce()['from'] ?? null;
            $first = min($first, is_numeric($starts) ? (float) $starts : 1.0);
        }

        return $first >= $shot->frames
            ? new Finding('warn', "{$at}/weight/stack/0", "The front on {$prop->name} starts at frame {$first}, but the shot ends at frame {$shot->frames}.")
            : null;
    }
}
