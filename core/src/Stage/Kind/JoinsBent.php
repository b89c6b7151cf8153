<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\Settings;

/** What holds something that bends to hard pieces, wherever the two are near each other at the first frame. */
interface JoinsBent extends JointKind
{
    /** How far from their surface it still holds, m. */
    public static function within(Settings $settings): float;
}
