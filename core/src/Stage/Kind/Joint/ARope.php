<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Joint;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\Rigid\Joint\Joint;
use YardBreak\Core\Motion\Rigid\Joint\JointEnd;
use YardBreak\Core\Motion\Rigid\Joint\Rope;
use YardBreak\Core\Motion\Rigid\RigidBodies;
use YardBreak\Core\Stage\Kind\JoinsHard;

/** As long as from one place to the other at the first frame, or longer. */
final class ARope implements JoinsHard
{
    public static function places(Settings $settings): array
    {
        return [$settings->vector('from'), $settings->vector('to')];
    }

    public static function make(Settings $settings, JointEnd $a, JointEnd $b, float $strength, bool $touch, RigidBodies $bodies): Joint
    {
        return new Rope($a, $b, $strength, $touch, Vector::distance(...self::places($settings)) * (1.0 + 0.01 * $settings->float('slack')));
    }
}
