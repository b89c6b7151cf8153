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

    /** Tone at a place from 0 to 1 to the right and upwards; the nearest pixel. */
    public function at(float $right, float $up): float
    {
        $x = (int) min($this->width - 1, max(0, floor($right * $this->width)));
        $y = (int) min($this->height - 1, max(0, floor((1.0 - $up) * $this->height)));

        return $this->tones[$y * $this->width + $x];
    }
}
