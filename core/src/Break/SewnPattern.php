<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** One whose pieces are the mesh's own surface, side by side: together they are as good as whole. */
interface SewnPattern extends SkinPattern
{
}
