<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Joint;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\JoinsBent;

/** Cloth, or what is soft, goes with the hard pieces that it is near. */
final class AFastening implements JoinsBent
{
    public static function within(Settings $settings): float
    {
        return $settings->float('within');
    }
}
