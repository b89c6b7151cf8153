<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Motion\Rigid\Joint\Joint;
use YardBreak\Core\Motion\Rigid\Joint\JointEnd;
use YardBreak\Core\Motion\Rigid\RigidBodies;

/** What holds hard pieces to each other or to a place, made from its settings. */
interface JoinsHard extends JointKind
{
    /** @return array{array{float, float, float}, array{float, float, float}} where it holds the one and the other, at the first frame, m */
    public static function places(Settings $settings): array;

    /**
     * @param float $strength above which it breaks, N; INF: never
     * @param bool $touch whether the two touch each other
     */
    public static function make(Settings $settings, JointEnd $a, JointEnd $b, float $strength, bool $touch, RigidBodies $bodies): Joint;
}
