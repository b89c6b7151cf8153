<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** A grey picture laid over one side of a prop: tones from 0 (black) to 1 (white), row by row from the top. */
final readonly class ToneMap
{
    /** @param list<float> $tones */
    public function __construct(public string $name, public int $width, public int $height, public array $tones)
    {
    }

    /**
     * What tells it from others is its name (its content's hash): the tones need not be hashed again.
     *
     * @return array{string}
     */
    public function __serialize(): array
    {
        return [$this->name];
    }

    /** Tone at a place from 0 to 1 to the right and upwards, evenly from the middle of one pixel to the next. */
    public function smooth(float $right, float $up): float
    {
        $x = min($this->width - 1.0, max(0.0, $right * $this->width - 0.5));
        $y = min($this->height - 1.0, max(0.0, (1.0 - $up) * $this->height - 0.5));
        [$left, $top] = [(int) $x, (int) $y];
        [$fx, $fy] = [$x - $left, $y - $top];
        $next = min($this->width - 1, $left + 1);
        $row = $this->width * $top;
        $below = $this->width * min($this->height - 1, $top + 1);
        $tones = $this->tones;

        return (1.0 - $fy) * ((1.0 - $fx) * $tones[$row + $left] + $fx * $tones[$row + $next]) + $fy * ((1.0 - $fx) * $tones[$below + $left] + $fx * $tones[$below + $next]);
    }

    /** Tone at a place from 0 to 1 to the right and upwards; the nearest pixel. */
    public function at(float $right, float $up): float
    {
        $x = (int) min($this->width - 1, max(0, floor($right * $this->width)));
        $y = (int) min($this->height - 1, max(0, floor((1.0 - $up) * $this->height)));

        return $this->tones[$y * $this->width + $x];
    }
}
