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

    /** Where those are. */
    private Samples $at;

    /** @var list<float> depths there at the frame before */
    private array $before = [];

    /** @var array<int, float> how far a front is that set out at the first frame, when it sets out here, by place, m */
    private array $begun = [];

    /**
     * @param Closure(Samples, float): list<float> $depth at a frame; more than 0: it has set out
     * @param Closure(float): float $front how far a front has gone by a frame, m
     */
    public function __construct(private readonly Closure $depth, private readonly Closure $front, Samples $places)
    {
        $this->left = array_keys($places->x);
        $this->at = $places;
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
        $at = $this->at;
        $still = $values = [];
        foreach (($this->depth)($at, (float) $frame) as $k => $now) {
            if ($now <= 0.0) {
                $still[] = $k;
                $values[] = $now;
                continue;
            }
            $was = $this->before[$k] ?? $now;
            $share = $was < 0.0 && $was > -INF ? $now / ($now - $was) : 0.0;
            $this->begun[$this->left[$k]] = ($this->front)($frame - $share);
        }
        $this->before = $values;
        if (count($still) < count($this->left)) {
            $this->left = array_map(fn (int $k): int => $this->left[$k], $still);
            $this->at = $at->picked($still);
        }
    }
}
