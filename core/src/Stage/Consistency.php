<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Kind\Kinds;

/** Settings that each are within their limits, but contradict each other or name what is not there. */
final class Consistency
{
    /** @throws BadDocument */
    public static function check(Shot $shot): void
    {
        foreach ($shot->forces as $force) {
            $force->kind->settings->inForce();
        }
        foreach ($shot->props as $prop) {
            Weighing::check($prop);
            Kinds::trigger($prop->trigger->kind)::make($prop->trigger->settings);
        }
    }
}
