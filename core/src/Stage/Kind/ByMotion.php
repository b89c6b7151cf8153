<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;

/** A moment that may only be known once things have moved: it is found in what was baked, and until then stays where it is. */
interface ByMotion
{
    public static function goesByMotion(Settings $settings, Shot $shot): bool;
}
