<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** How time is cut up: frames in steps, steps in substeps. All movers share them. */
final class Steps
{
    /** s; contacts are searched for once a step, and found ahead for this long. */
    public const LONGEST = 1.0 / 60.0;

    /** Contacts are found once a step and solved this often (small steps, Macklin et al. 2019). */
    public const SUBSTEPS = 8;

    public static function aFrame(float $fps): int
    {
        return max(1, (int) ceil(1.0 / $fps / self::LONGEST - 1e-9));
    }
}
