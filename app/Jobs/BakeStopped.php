<?php

declare(strict_types=1);

namespace App\Jobs;

use Exception;

/** The artist cancelled the bake. */
final class BakeStopped extends Exception
{
}
