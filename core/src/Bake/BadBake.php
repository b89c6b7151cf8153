<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Refusal;

/** Frames that cannot be read or written, with the reason. */
final class BadBake extends Refusal
{
}
