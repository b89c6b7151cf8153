<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Refusal;

/** The motion grew beyond all bounds; the message says what did, when, and what to do. Frames before it stay. */
final class RanAway extends Refusal
{
}
