<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Stage\Pipeline;

/** It lets go after the shot has ended, or its cue has not been chosen. */
final class LateRelease extends PropCheck
{
    /** Frames added after the release. */
    private const AFTER = 48;

    private const LONGEST = 5000;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        $settings = $prop->trigger->settings;
        $frame = Kinds::trigger($prop->trigger->kind)::frame($settings);
        if ($frame !== null && $frame > $shot->frames) {
            return new Finding('warn', "{$at}/release/{$prop->trigger->kind}", "{$prop->name} lets go at frame {$frame}, but the shot ends at frame {$shot->frames}.", [
                'label' => 'Make the shot long enough', 'pointer' => '/frames', 'value' => min(self::LONGEST, $frame + self::AFTER),
            ]);
        }

        return $settings->has('cue') && $frame === null
            ? new Finding('warn', "{$at}/release/{$prop->trigger->kind}/cue", "{$prop->name} should let go at a cue, but none is chosen.")
            : null;
    }
}
