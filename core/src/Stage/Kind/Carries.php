<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Samples;

/** A way to move whose surface is where it is by the frame alone: what is set on it goes with it. */
interface Carries
{
    /** @return Closure(float): list<float> where places of the prop are in the world at a frame, m */
    public static function carrier(Prop $prop, Samples $at, Surfaces $others): Closure;
}
