<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Joint;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\Rigid\Joint\Hinge;
use YardBreak\Core\Motion\Rigid\Joint\Joint;
use YardBreak\Core\Motion\Rigid\Joint\JointEnd;
use YardBreak\Core\Motion\Rigid\RigidBodies;
use YardBreak\Core\Stage\Kind\JoinsHard;

/** Both are held together at one place. */
final class AHinge implements JoinsHard
{
    public static function places(Settings $settings): array
    {
        return [$settings->vector('at'), $settings->vector('at')];
    }

    public static function make(Settings $settings, JointEnd $a, JointEnd $b, float $strength, bool $touch, RigidBodies $bodies): Joint
    {
        // Without a direction it is that of a gate.
        $axis = $settings->string('turns') === 'axis' ? Vector::unit($settings->vector('axis')) ?? [0.0, 1.0, 0.0] : null;
        $stops = $axis !== null && $settings->bool('stops') ? [deg2rad($settings->float('low')), deg2rad($settings->float('high'))] : null;

        // What is held turns against what it hangs on.
        return new Hinge($b, $a, $strength, $touch, $bodies, $axis, $settings->float('damping'), $stops);
    }
}
