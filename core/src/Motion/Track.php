<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** One kind of value that is written at every frame for the parts of one prop: the manifest of a bake is a list of these. */
final readonly class Track
{
    /** Place of the centre of mass, m, and turn (x, y, z, w): seven numbers a piece. */
    public const POSE = 'pose';

    /** Along the piece's own axes: three numbers a piece. */
    public const SCALE = 'scale';

    /** In the world, m: three numbers a vertex. */
    public const VERTICES = 'vertices';

    /** How far the change has got: one number from 0 to 1 a piece or vertex. */
    public const WEIGHT = 'weight';

    /** 0 before it is born and when it is gone, 1 while it is there, between while it fades: one number a piece. */
    public const LIFE = 'life';

    /** Bits: one whole number a piece. */
    public const FLAGS = 'flags';

    /** Of a joint: where its two ends are, in the world, m, and 1 while it holds: seven numbers. Its id stands for the prop's. */
    public const ENDS = 'ends';

    /** @param int $count of pieces or vertices */
    public function __construct(public string $prop, public string $kind, public int $count)
    {
    }
}
