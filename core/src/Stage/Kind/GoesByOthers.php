<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Stage\Surfaces;

/** A way to move that goes by other props, be they in the shot or switched off. */
interface GoesByOthers
{
    /** @return list<mixed> what of the others decides it; nothing changes over time */
    public static function others(Prop $prop, Surfaces $surfaces): array;
}
