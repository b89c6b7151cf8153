<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Refusal;

/** The prop cannot be broken this way; the message says why and what to do, in an artist's words. */
final class BreakFailed extends Refusal
{
}
