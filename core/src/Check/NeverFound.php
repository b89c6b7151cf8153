<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\CueFrames;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Stage\Pipeline;

/** A cue that is to be found, and what it waits for never happens. */
final class NeverFound implements Check
{
    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        $findings = [];
        $number = 0;
        foreach ($shot->cueMoments() as $id => $moment) {
            ['name' => $name, 'frame' => $frame] = $shot->cues[$id];
            $at = "/cues/{$number}/at/moment";
            $lacks = Kinds::moment($moment->kind)::lacks($moment->settings, $shot);
            if ($lacks !== null) {
                $findings[] = new Finding('warn', $at, "The cue {$name} is not found: {$lacks}. It stays at frame {$frame}.");
            } elseif (! $moment->has('hand') && ! CueFrames::goesByMotion($shot, $id) && CueFrames::frame($shot, $id, $pipeline->surfaces) === null) {
                $findings[] = new Finding('warn', $at, "What the cue {$name} waits for never happens in the shot. It stays at frame {$frame}.");
            }
            $number++;
        }

        return $findings;
    }
}
