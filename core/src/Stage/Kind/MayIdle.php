<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;

/** A force that, for its settings, may do nothing at all. */
interface MayIdle
{
    /** @return string|null why it does nothing, as the rest of a sentence that begins with its name; null: it acts */
    public static function idle(Settings $settings, Shot $shot): ?string;
}
