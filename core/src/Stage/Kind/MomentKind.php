<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Stage;
use YardBreak\Core\Stage\Surfaces;

/** A way to say when a cue happens. */
interface MomentKind
{
    /** @return Stage<float|null>|null finds the frame, which may lie between two; its result is null: it never happens. Null: nothing is to be found */
    public static function find(Settings $settings, Shot $shot, Surfaces $surfaces): ?Stage;

    /** Why nothing can be found with such settings, as the end of a sentence; null: it can, or need not be. */
    public static function lacks(Settings $settings, Shot $shot): ?string;
}
