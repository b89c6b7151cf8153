<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Pipeline;

/** A cue on which nothing hangs, though keys stand at its frame: it would leave them behind. One that only marks a moment is fine. */
final class IdleCue implements Check
{
    /** Its keys are of the time that is shown, cues of the time in which it happens. */
    private const OTHER_TIME = '/shows';

    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        $used = [];
        $keys = [];
        foreach ($shot->timed() as $timed) {
            $used += array_fill_keys($timed->cues, true);
            if ($timed->pointer === self::OTHER_TIME) {
                continue;
            }
            foreach ($timed->frames as $frame) {
                $keys[(int) round($frame)][] = $timed;
            }
        }
        $findings = [];
        foreach ($shot->cues as $id => ['name' => $name, 'frame' => $frame]) {
            $here = $keys[$frame] ?? [];
            if (! isset($used[$id]) && $here !== []) {
                $what = count($here) === 1 ? "A key of {$here[0]->title} stands" : count($here) . ' keys stand';
                $findings[] = new Finding('warn', $here[0]->pointer, "{$what} at frame {$frame}, where the cue {$name} is, but nothing hangs on the cue: moved, it leaves them behind. Hang them on it, or take it away.");
            }
        }

        return $findings;
    }
}
