<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use RuntimeException;

/** A drawn point lies exactly on an edge of the mesh, or a vertex on a line: the cut is tried again with the drawing moved by a hair. */
final class Touch extends RuntimeException
{
}
