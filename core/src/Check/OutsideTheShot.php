<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Pipeline;

/** Keys that stand after the end of the shot: what they say is never seen. */
final class OutsideTheShot implements Check
{
    private const LONGEST = 5000;

    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        $last = 0.0;
        $which = null;
        $count = 0;
        foreach ($shot->timed() as $timed) {
            // One key past the end is what a motion that goes on is heading for; one that begins past it is never seen.
            $after = array_filter($timed->frames, static fn (float $frame): bool => $frame > $shot->frames);
            if ($after === [] || (count($after) === 1 && count($timed->frames) > 1)) {
                continue;
            }
            $count++;
            $which ??= $timed;
            $last = max($last, ...array_values($after));
        }
        if ($which === null) {
            return [];
        }
        $more = $count > 1 ? sprintf(' (and %d other%s)', $count - 1, $count > 2 ? 's' : '') : '';

        return [new Finding('warn', $which->pointer, sprintf('Keys of %s%s stand after the end of the shot, which is frame %d: the last at %s.', $which->title, $more, $shot->frames, round($last, 2)), [
            'label' => 'Make the shot long enough', 'pointer' => '/frames', 'value' => min(self::LONGEST, (int) ceil($last)),
        ])];
    }
}
