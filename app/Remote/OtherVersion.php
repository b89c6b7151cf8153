<?php

declare(strict_types=1);

namespace App\Remote;

use YardBreak\Core\Refusal;

/** What two machines say of the same shot differs. */
final class OtherVersion extends Refusal
{
}
