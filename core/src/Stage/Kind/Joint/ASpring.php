<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Joint;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\Rigid\Joint\Joint;
use YardBreak\Core\Motion\Rigid\Joint\JointEnd;
use YardBreak\Core\Motion\Rigid\Joint\Spring;
use YardBreak\Core\Motion\Rigid\RigidBodies;
use YardBreak\Core\Stage\Kind\JoinsHard;

/** Its own length is a share of what lies between the places at the first frame. */
final class ASpring implements JoinsHard
{
    public static function places(Settings $settings): array
    {
        return [$settings->vector('from'), $settings->vector('to')];
    }

    public static function make(Settings $settings, JointEnd $a, JointEnd $b, float $strength, bool $touch, RigidBodies $bodies): Joint
    {
        $length = 0.01 * $settings->float('length') * Vector::distance(...self::places($settings));

        return new Spring($a, $b, $strength, $touch, $length, $settings->float('stiffness'), $settings->float('damping'));
    }
}
