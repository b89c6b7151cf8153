<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/** A number that may change over time: constant, or keys with easing between them. Outside the keys it holds still. */
final readonly class Animated
{
    /** @param list<array{float, float, string}> $keys frame, value, ease to the next; by frame, none twice */
    private function __construct(private array $keys)
    {
    }

    public static function constant(float $value): self
    {
        return new self([[0.0, $value, 'hold']]);
    }

    /** @param non-empty-list<array{float, float, string}> $keys frame, value, ease */
    public static function keyed(array $keys): self
    {
        usort($keys, static fn (array $a, array $b): int => $a[0] <=> $b[0]);

        return new self($keys);
    }

    public function at(float $frame): float
    {
        $last = null;
        foreach ($this->keys as $key) {
            if ($key[0] > $frame) {
                if ($last === null) {
                    return $key[1];
                }

                return $last[1] + ($key[1] - $last[1]) * Easing::at($last[2], ($frame - $last[0]) / ($key[0] - $last[0]));
            }
            $last = $key;
        }

        return $last[1] ?? 0.0;
    }

    /**
     * Summed up over frames; where it changes by the midpoint of each frame. Less than nothing before the first.
     *
     * @return float its unit times frames
     */
    public function travelled(float $from, float $to): float
    {
        if ($to <= $from || $this->isConstant()) {
            return $this->at($from) * ($to - $from);
        }
        $sum = 0.0;
        for ($at = $from; $at < $to; $at = $next) {
            $next = min($to, floor($at) + 1.0);
            $sum += $this->at(0.5 * ($at + $next)) * ($next - $at);
        }

        return $sum;
    }

    public function isConstant(): bool
    {
        foreach ($this->keys as $key) {
            if ($key[1] !== $this->keys[0][1]) {
                return false;
            }
        }

        return true;
    }

    /** @return list<array{float, float, string}> */
    public function keys(): array
    {
        return $this->keys;
    }
}
