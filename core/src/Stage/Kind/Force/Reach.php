<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Force;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Force\Extent;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Limited;
use YardBreak\Core\Stage\Kind\SoftEdge;

/** How far a force reaches, as its settings say. */
final class Reach
{
    /** @throws BadDocument if a key is wrong */
    public static function of(Settings $settings, ForceField $field): ForceField
    {
        if ($settings->bool('everywhere')) {
            return $field;
        }

        return new Limited($field, new Extent($settings->animatedVector('at'), $settings->animated('within'), $settings->float('softness'), SoftEdge::of($settings)));
    }
}
