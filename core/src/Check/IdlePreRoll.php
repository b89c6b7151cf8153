<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Stage\Pipeline;

/** Frames go by before the first, and nothing is loose yet. */
final class IdlePreRoll implements Check
{
    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        if ($shot->preRoll === 0) {
            return [];
        }
        $first = null;
        // What goes by a weight may be loose by then.
        foreach ($shot->props as $prop) {
            $frame = Kinds::trigger($prop->trigger->kind)::frame($prop->trigger->settings);
            if ($prop->startsFree() || ! $prop->held()->isEmpty() || $prop->trigger->has('weight') || ($frame !== null && $frame <= 1)) {
                return [];
            }
            $first ??= $prop->trigger->settings->has('frame') ? $prop : null;
        }

        return [new Finding('warn', '/preRoll', "In the {$shot->preRoll} frames before the first nothing moves: nothing is loose yet at frame 1.", $first === null ? null : [
            'label' => "Let {$first->name} go at frame 1", 'pointer' => "{$first->pointer}/release/{$first->trigger->kind}/frame", 'value' => 1,
        ])];
    }
}
