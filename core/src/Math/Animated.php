<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/** A number that may change over time: constant, or keys with easing between them, and a way it goes on before and after them. */
final readonly class Animated
{
    /**
     * @param list<array{float, float, string, array{float, float, float, float}|null}> $keys frame, value, ease to the next, control points
     *                                                                                        of a curve of its own; by frame, none twice
     * @param string $before how it goes on before the first key: hold, repeat, add, mirror, onward
     * @param string $after the same after the last
     * @param float $low what it never falls below, whatever its ease or what comes before and after
     */
    private function __construct(private array $keys, private string $before = 'hold', private string $after = 'hold', private float $low = -INF, private float $high = INF)
    {
    }

    public static function constant(float $value): self
    {
        return new self([[0.0, $value, 'hold', null]]);
    }

    /** @param non-empty-list<array{0: float, 1: float, 2: string, 3?: array{float, float, float, float}|null}> $keys frame, value, ease, control points of the ease "curve" */
    public static function keyed(array $keys, string $before = 'hold', string $after = 'hold', float $low = -INF, float $high = INF): self
    {
        usort($keys, static fn (array $a, array $b): int => $a[0] <=> $b[0]);

        return new self(array_map(static fn (array $key): array => [$key[0], $key[1], $key[2], $key[3] ?? null], $keys), $before, $after, $low, $high);
    }

    public function at(float $frame): float
    {
        $value = $this->free($frame);

        return $value < $this->low ? $this->low : ($value > $this->high ? $this->high : $value);
    }

    private function free(float $frame): float
    {
        if ($this->keys === []) {
            return 0.0;
        }
        $first = $this->keys[0];
        $last = $this->keys[count($this->keys) - 1];
        if ($frame < $first[0]) {
            return $this->beyond($this->before, $frame, $first, $last);
        }

        return $frame > $last[0] ? $this->beyond($this->after, $frame, $first, $last) : $this->between($frame);
    }

    private function between(float $frame): float
    {
        $before = $this->keys[0];
        foreach ($this->keys as $key) {
            if ($key[0] > $frame) {
                $share = ($frame - $before[0]) / ($key[0] - $before[0]);

                return $before[1] + ($key[1] - $before[1]) * ($before[3] === null ? Easing::at($before[2], $share) : Easing::bezier(...[...$before[3], $share]));
            }
            $before = $key;
        }

        return $before[1];
    }

    /**
     * Repeated, it begins anew where it ends, so that the last key is the first again; added, it goes on from the value it had
     * reached; mirrored, it runs back and forth; onward, it keeps the speed it has at its end.
     *
     * @param array{float, float, string, array{float, float, float, float}|null} $first
     * @param array{float, float, string, array{float, float, float, float}|null} $last
     */
    private function beyond(string $how, float $frame, array $first, array $last): float
    {
        $span = $last[0] - $first[0];
        if ($how === 'hold' || $span <= 0.0) {
            return $frame < $first[0] ? $first[1] : $last[1];
        }
        if ($how === 'onward') {
            $step = min(0.01, 0.5 * $span);

            return $frame < $first[0]
                ? $first[1] + ($frame - $first[0]) * ($this->between($first[0] + $step) - $first[1]) / $step
                : $last[1] + ($frame - $last[0]) * ($last[1] - $this->between($last[0] - $step)) / $step;
        }
        $turns = floor(($frame - $first[0]) / $span);
        $within = $frame - $turns * $span;
        if ($how === 'mirror' && fmod(abs($turns), 2.0) === 1.0) {
            $within = $first[0] + $last[0] - $within;
        }

        return $this->between($within) + ($how === 'add' ? $turns * ($last[1] - $first[1]) : 0.0);
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

    /** Between keys of the same value it stays there, whatever the ease. */
    public function isConstant(): bool
    {
        foreach ($this->keys as $key) {
            if ($key[1] !== $this->keys[0][1]) {
                return false;
            }
        }

        return true;
    }

    /** @return list<float> frames of the keys */
    public function frames(): array
    {
        return array_column($this->keys, 0);
    }

    /** @return list<mixed> all that decides it */
    public function inputs(): array
    {
        return [$this->keys, $this->before, $this->after];
    }
}
