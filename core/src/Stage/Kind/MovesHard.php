<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\HardProp;
use YardBreak\Core\Stage\Surfaces;

/** A way to move in the world of hard pieces, always or by its settings. */
interface MovesHard
{
    public static function isHard(Settings $settings): bool;

    /**
     * The prop as that world knows it.
     *
     * @param int $group tells its pieces from those of others
     *
     * @throws BreakFailed if its pieces cannot be moved so
     */
    public static function hard(Prop $prop, BrokenProp $broken, RigidWorld $world, int $group, Surfaces $others): HardProp;
}
