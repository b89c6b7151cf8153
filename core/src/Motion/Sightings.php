<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** Where the things of a shot were seen at each frame, for those who go by them. */
interface Sightings
{
    /** The last frame that has been seen, below 1 in the pre-roll; 0 if none yet. */
    public function last(): int;

    /** A frame has come to pass. The same frame may be noted again, when more of it is known. */
    public function note(Frame $frame): void;

    /** Goes on behind a frame that was seen before. */
    public function resume(int $frame): void;

    /** @return array<int, float|int>|null values of a prop's track at a frame; null: nobody has seen them */
    public function of(string $prop, string $kind, int $frame): ?array;

    /** Whether more of it is still to come. */
    public function isLive(): bool;

    /** Tells what was seen from what others saw; of no use while it is live. */
    public function name(): string;
}
