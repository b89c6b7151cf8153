<?php

declare(strict_types=1);

namespace App\Jobs;

use Exception;

/** Another worker has taken the bake over. */
final class LeaseLost extends Exception
{
}
