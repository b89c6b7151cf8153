<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/** How many times as long as at rest a cloth is at each vertex: every way, only along a direction, or only across it. */
final readonly class Growth
{
    /**
     * @param list<float> $times
     * @param array{float, float, float}|null $way unit, in the prop's axes; null: every way
     * @param bool $across whether it is as long as before along that way, and longer across it
     */
    public function __construct(public array $times, private ?array $way = null, private bool $across = false)
    {
    }

    public static function none(int $count): self
    {
        return new self(array_fill(0, $count, 1.0));
    }

    /** How many times as long as at rest is what leads so from one vertex to another: what lies along the way, and what across it, each as it has grown. */
    public function between(int $a, int $b, float $x, float $y, float $z): float
    {
        $times = 0.5 * ($this->times[$a] + $this->times[$b]);
        $all = $x * $x + $y * $y + $z * $z;
        if ($this->way === null || $times === 1.0 || $all <= 0.0) {
            return $times;
        }
        $along = $x * $this->way[0] + $y * $this->way[1] + $z * $this->way[2];
        $share = $along * $along / $all;

        return $this->across ? sqrt($share + (1.0 - $share) * $times * $times) : sqrt($share * $times * $times + 1.0 - $share);
    }

    /** The most it is longer anywhere. */
    public function most(): float
    {
        return max([$this->way === null ? 0.0 : 1.0, ...$this->times]);
    }

    /** @return list<float> at each vertex, where it is least */
    public function least(): array
    {
        return $this->way === null ? $this->times : array_map(static fn (float $times): float => min(1.0, $times), $this->times);
    }

    /** @param list<int> $from the vertex that each vertex was before */
    public function picked(array $from): self
    {
        return new self(array_map(fn (int $v): float => $this->times[$v], $from), $this->way, $this->across);
    }
}
