<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\Progress;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Sightings;
use YardBreak\Core\Motion\Track;

/**
 * The first frame of a bake at which some of its props let go, all that will have let go has, or all lie still for the rest of it.
 *
 * @implements Stage<float|null>
 */
final class BakedMoment implements Stage
{
    use FoundFrame;

    /** A turn of as many radians counts as a way of as many metres: a piece that spins in its place does not lie still. */
    private const ARM = 0.2;

    /**
     * @param list<string> $props
     * @param string $what first, last or rest
     * @param float $settled way that is none, m a frame
     */
    public function __construct(private readonly array $props, private readonly string $what, private readonly float $settled, private readonly Sightings $seen)
    {
    }

    public function name(): string
    {
        return 'baked-moment';
    }

    public function version(): int
    {
        return 1;
    }

    public function inputs(): array
    {
        return [$this->seen->name(), $this->props, $this->what, $this->settled];
    }

    public function run(Progress $progress): ?float
    {
        return match ($this->what) {
            'rest' => $this->rest(),
            'last' => $this->reached($this->released($this->seen->last())),
            default => $this->reached(1),
        };
    }

    /** The first frame by which so many have let go: who has let go stays so, nearly always. */
    private function reached(int $count): ?float
    {
        [$low, $high] = [1, $this->seen->last()];
        if ($count === 0 || $high < 1 || $this->released($high) < $count) {
            return null;
        }
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            if ($this->released($middle) >= $count) {
                $high = $middle;
            } else {
                $low = $middle + 1;
            }
        }

        return (float) $low;
    }

    /** How many have let go at a frame; of what bends, places. */
    private function released(int $frame): int
    {
        $count = 0;
        foreach ($this->props as $prop) {
            $flags = $this->seen->of($prop, Track::FLAGS, $frame);
            foreach ($flags ?? $this->seen->of($prop, Track::WEIGHT, $frame) ?? [] as $value) {
                $count += $flags === null ? ($value > 0.0 ? 1 : 0) : (int) $value & Frame::RELEASED;
            }
        }

        return $count;
    }

    private function rest(): ?float
    {
        $last = $this->seen->last();
        for ($frame = $last; $frame > 1; $frame--) {
            foreach ($this->props as $prop) {
                if ($this->moves($prop, $frame)) {
                    return $frame === $last ? null : (float) $frame;
                }
            }
        }

        // It never moved.
        return null;
    }

    /** Whether some of it has gone more than a little since the frame before. */
    private function moves(string $prop, int $frame): bool
    {
        $limit = $this->settled ** 2;
        $vertices = $this->seen->of($prop, Track::VERTICES, $frame);
        $kind = $vertices === null ? Track::POSE : Track::VERTICES;
        $is = $vertices ?? $this->seen->of($prop, $kind, $frame) ?? [];
        $was = $this->seen->of($prop, $kind, $frame - 1) ?? [];
        $width = $vertices === null ? 7 : 3;
        for ($k = 0, $end = min(count($is), count($was)); $k < $end; $k += $width) {
            $way = ($is[$k] - $was[$k]) ** 2 + ($is[$k + 1] - $was[$k + 1]) ** 2 + ($is[$k + 2] - $was[$k + 2]) ** 2;
            if ($way > $limit) {
                return true;
            }
            if ($width === 7) {
                $cosine = abs($is[$k + 3] * $was[$k + 3] + $is[$k + 4] * $was[$k + 4] + $is[$k + 5] * $was[$k + 5] + $is[$k + 6] * $was[$k + 6]);
                if ($cosine < 1.0 && (2.0 * acos($cosine) * self::ARM) ** 2 > $limit) {
                    return true;
                }
            }
        }

        return false;
    }
}
