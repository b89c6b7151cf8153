<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Weight\Samples;

/** Where something passes 0 a front sets out, at that moment: asked frame after frame, since it may not be known before. */
final class SettingOut
{
    private int $asked = 0;

    /** @var list<int> places from which it has not set out */
    private array $left;

    /** @var list<float> depths there at the frame before */
    private array $before = [];

    /** @var array<int, float> how far a front is that set out at the first frame, when it sets out here, by place, m */
    private array $begun = [];

    /**
     * @param Closure(Samples, float): list<float> $depth at a frame; more than 0: it has set out
     * @param Closure(float): float $front how far a front has gone by a frame, m
     */
    public function __construct(private readonly Closure $depth, private readonly Closure $front, private readonly Samples $places)
    {
        $this->left = array_keys($places->x);
    }

    /** @return array<int, float> where it has set out by a frame, if not a later one was asked for; m */
    public function by(int $frame): array
    {
        while ($this->asked < $frame && $this->left !== []) {
            $this->step(++$this->asked);
        }

        return $this->begun;
    }

    private function step(int $frame): void
    {
        $at = new Samples($this->some($this->places->x), $this->some($this->places->y), $this->some($this->places->z));
        $still = $values = [];
        foreach (($this->depth)($at, (float) $frame) as $k => $now) {
            if ($now <= 0.0) {
                $still[] = $this->left[$k];
                $values[] = $now;
                continue;
            }
            $was = $this->before[$k] ?? $now;
            $share = $was < 0.0 && $was > -INF ? $now / ($now - $was) : 0.0;
            $this->begun[$this->left[$k]] = ($this->front)($frame - $share);
        }
        [$this->left, $this->before] = [$still, $values];
    }

    /**
     * @param list<float> $values
     *
     * @return list<float>
     */
    private function some(array $values): array
    {
        return array_map(static fn (int $k): float => $values[$k], $this->left);
    }
}
