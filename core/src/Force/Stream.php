<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Polyline;

/** Along a line: pushes the way the line goes where it is nearest, and draws to it; what has come to its end is drawn there only. */
final readonly class Stream implements ForceField
{
    use ByPlace;

    /**
     * @param Animated $along m/s2
     * @param Animated $toward to the line, m/s2 for each metre, 1/s2
     */
    public function __construct(private Polyline $line, private Animated $along, private Animated $toward)
    {
    }

    public function act(array $x, array $y, array $z, float $frame, float $seconds, Pushes $pushes): void
    {
        $along = $this->along->at($frame);
        $toward = $this->toward->at($frame);
        $length = $this->line->length();
        if ($length === 0.0) {
            return;
        }
        foreach ($x as $i => $px) {
            $passed = $this->line->nearest($px, $y[$i], $z[$i]);
            [[$lx, $ly, $lz], [$tx, $ty, $tz]] = $this->line->at($passed);
            $on = $passed < $length ? $along : 0.0;
            $pushes->ax[$i] += $on * $tx + $toward * ($lx - $px);
            $pushes->ay[$i] += $on * $ty + $toward * ($ly - $y[$i]);
            $pushes->az[$i] += $on * $tz + $toward * ($lz - $z[$i]);
        }
    }

    public function sample(float $frame): array
    {
        return [$this->along->at($frame), $this->toward->at($frame), ...$this->line->numbers()];
    }

    public function changes(): array
    {
        return Changes::of([$this->along, $this->toward]);
    }
}
