<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use RuntimeException;

/** So many places of a surface are so near each other that they cannot be kept apart. Whoever knows what it is called says so. */
final class Crowded extends RuntimeException
{
}
