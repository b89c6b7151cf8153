<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use Closure;
use YardBreak\Core\Break\BreachPattern;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\Cutter;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\HasBlow;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** A hole is torn into it; the rest stays. */
final class Breach implements HasBlow, PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): BreachPattern
    {
        $splinters = $settings->string('splinters');
        $bands = $settings->int('bands');

        return new BreachPattern(
            $settings->int('seed'),
            self::cutters($settings),
            $settings->float('ragged'),
            $settings->float('crumb'),
            $settings->int('fragments'),
            $bands,
            $bands > 0 ? $settings->float('band') : 0.0,
            $splinters === 'none' ? null : [
                [$splinters === 'x' ? 1.0 : 0.0, $splinters === 'y' ? 1.0 : 0.0, $splinters === 'z' ? 1.0 : 0.0],
                $settings->float('slenderness'),
            ],
        );
    }

    public static function distance(Settings $settings): Closure
    {
        return (new BreachPattern($settings->int('seed'), self::cutters($settings), $settings->float('ragged'), $settings->float('crumb'), $settings->int('fragments'), 0, 0.0, null))->distance();
    }

    /** @return list<Cutter> */
    private static function cutters(Settings $settings): array
    {
        $shape = $settings->string('shape');
        if ($shape !== Cutter::DRAWN) {
            // A ball has no axis.
            $axis = $shape === Cutter::BALL ? [0.0, 1.0, 0.0] : $settings->vector('axis');

            return array_map(static fn (array $at): Cutter => Cutter::about($shape, $at, $axis, $settings->float('radius')), Blows::places($settings));
        }
        $loops = [];
        foreach ($settings->list('lines') as $line) {
            $points = $line->points('points');
            if (count($points) > 2) {
                $loops[] = Cutter::drawn($points, PatternBench::axis($settings->string('facing')));
            }
        }

        return $loops === [] ? throw new BreakFailed('No opening has been drawn yet. Draw its outline on the prop, or choose another shape.') : $loops;
    }
}
