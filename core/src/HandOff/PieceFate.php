<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Motion\Frame;

/** What becomes of one piece over a shot, frame by frame. */
final class PieceFate
{
    /** @var array{float, float, float} place of its centre at the last frame at which it was there, m */
    public array $last;

    /** Frame at which it lets go; null: it does not. */
    public ?int $letsGo = null;

    /** Frame from which it lies still to the end of the shot; null: it does not. */
    public ?int $rests = null;

    /** Frame from which it is not there any more; null: it stays. */
    public ?int $gone = null;

    /** m a frame */
    public float $fastest = 0.0;

    /** Frame at which it was as fast as that; null: it never moved. */
    public ?int $fastestAt = null;

    /** How far it has gone, m. */
    public float $way = 0.0;

    /** @param array{float, float, float} $first place of its centre when the shot begins, m */
    public function __construct(public readonly array $first)
    {
        $this->last = $first;
    }

    /**
     * @param int $number of the frame; in their order
     * @param array{float, float, float} $at
     * @param int $flags as in Frame
     * @param float $life 0: it is gone
     */
    public function see(int $number, array $at, int $flags, float $life): void
    {
        if ($this->gone !== null) {
            return;
        }
        $this->letsGo ??= ($flags & Frame::RELEASED) !== 0 ? $number : null;
        if ($life <= 0.0 && $this->letsGo !== null) {
            [$this->gone, $this->rests] = [$number, null];

            return;
        }
        $way = sqrt(($at[0] - $this->last[0]) ** 2 + ($at[1] - $this->last[1]) ** 2 + ($at[2] - $this->last[2]) ** 2);
        $this->way += $way;
        if ($way > $this->fastest) {
            [$this->fastest, $this->fastestAt] = [$way, $number];
        }
        // From here on, unless it moves again.
        $this->rests = $this->letsGo !== null && ($flags & Frame::ASLEEP) !== 0 ? $this->rests ?? $number : null;
        $this->last = $at;
    }
}
