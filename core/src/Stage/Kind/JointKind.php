<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

/** What holds two things together: {@see JoinsHard} or {@see JoinsBent}. */
interface JointKind
{
}
