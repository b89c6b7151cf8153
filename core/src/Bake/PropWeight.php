<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Shot\Prop;
use YardBreak\Core\Weight\Step;
use YardBreak\Core\Weight\Sweep;
use YardBreak\Core\Weight\Weight;

/** The weight that a prop's timing describes. Letting go on contact is not known beforehand: its weight stays 0 here. */
final class PropWeight
{
    /** @param array{array{float, float, float}, array{float, float, float}} $bounds of the prop in its own space */
    public static function of(Prop $prop, array $bounds): Weight
    {
        $t = $prop->timing;
        if ($t->release === 'sweep') {
            $axis = ['x' => 0, 'y' => 1, 'z' => 2][$t->axis] ?? 1;

            return new Sweep($axis, $t->backwards, $bounds[0][$axis], $bounds[1][$axis], $t->from, $t->to, $t->softness);
        }
        $known = $t->release === 'frame' || ($t->release === 'cue' && $t->cue !== '');

        return new Step($known ? (float) $t->frame : INF);
    }
}
