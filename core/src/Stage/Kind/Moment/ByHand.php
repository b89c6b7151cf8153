<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Moment;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Kind\MomentKind;
use YardBreak\Core\Stage\Stage;
use YardBreak\Core\Stage\Surfaces;

/** Where it is put. */
final class ByHand implements MomentKind
{
    public static function find(Settings $settings, Shot $shot, Surfaces $surfaces): ?Stage
    {
        return null;
    }

    public static function lacks(Settings $settings, Shot $shot): ?string
    {
        return null;
    }
}
