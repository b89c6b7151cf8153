<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use Closure;
use YardBreak\Core\Document\Settings;

/** A pattern that a front can spread from: it has a blow, or an opening. */
interface HasBlow
{
    /** @return Closure(float, float, float): float how far a place of the prop is from the blow or the opening's rim, m */
    public static function distance(Settings $settings): Closure;
}
