<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Motion\HardestTouch;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Trigger;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/**
 * How far the parts of something that bends are held. Each is held as far as its hold says, times what its weight has left of
 * it: at no weight as far as ever, at the threshold not at all. Triggers without a weight let go of it at once.
 */
final class HeldParts
{
    private readonly Trigger $trigger;

    /** @var list<float>|null of each part; null: it does not go by the weight */
    private readonly ?array $thresholds;

    /** @var array<int, bool> of each part, where something else than the weight lets go */
    private array $loose;

    /** @var array<int, float> how far each part is held now, 0 to 1 */
    private array $now = [];

    /** @var list<int> parts that are held at the first frame */
    private array $first = [];

    public readonly HardestTouch $hardest;

    /**
     * @param PieceTiming $timing when its prop lets go
     * @param Samples $places of the parts, in the prop's space
     * @param WeightSource $holding how far its hold says
     * @param Closure(float): list<float> $weights of the parts at a frame
     * @param int $core the first so many never let go
     * @param bool $free nothing of it is held, from the beginning
     */
    public function __construct(
        PieceTiming $timing,
        private readonly Samples $places,
        private readonly WeightSource $holding,
        private readonly Closure $weights,
        private readonly int $core,
        private readonly bool $free = false,
    ) {
        $this->hardest = new HardestTouch();
        $this->trigger = $timing->triggerAt($places);
        $this->thresholds = $timing->thresholds(count($places->x));
        $this->loose = array_fill(0, count($places->x), false);
        $this->first = array_keys(array_filter($this->at(1.0), static fn (float $held): bool => $held > 0.0));
    }

    /** @return array<int, float> how far each part is held at a frame, 0 to 1 */
    public function at(float $frame): array
    {
        if ($this->free) {
            return $this->now = array_fill(0, count($this->loose), 0.0);
        }
        $held = array_map(static fn (float $share): float => $share < 0.0 ? 0.0 : ($share > 1.0 ? 1.0 : $share), $this->holding->evaluate($this->places, $frame));
        if ($this->thresholds !== null) {
            foreach (($this->weights)($frame) as $i => $weight) {
                $left = 1.0 - $weight / $this->thresholds[$i];
                $held[$i] *= $left <= 0.0 ? 0.0 : ($left > 1.0 ? 1.0 : $left);
            }
        } else {
            foreach ($this->loose as $i => $loose) {
                $held[$i] = $loose ? 0.0 : $held[$i];
            }
        }
        for ($i = 0; $i < $this->core; $i++) {
            $held[$i] = 1.0;
        }

        return $this->now = array_values($held);
    }

    /** Whether all of it is held at a frame, as far as that is known beforehand. */
    public function holdsAllAt(float $frame): bool
    {
        $now = $this->now;
        $held = $this->at($frame);
        $this->now = $now;

        return $held !== [] && min($held) >= 1.0 && ($this->thresholds !== null || ! in_array(true, $this->trigger->due($frame, ($this->weights)($frame)), true));
    }

    /** @return array<int, float> as they were asked for last */
    public function now(): array
    {
        return $this->now;
    }

    /** What is due by a frame lets go. */
    public function bring(float $frame): void
    {
        if ($this->thresholds !== null || $this->free) {
            return;
        }
        $weights = ($this->weights)($frame);
        $due = array_keys(array_filter($this->trigger->due($frame, array_intersect_key($weights, array_filter($this->loose, static fn (bool $loose): bool => ! $loose)))));
        if ($due !== []) {
            $this->letGo($due);
            $this->at($frame);
        }
    }

    /** @param list<int> $parts */
    private function letGo(array $parts): void
    {
        foreach ($parts as $i) {
            $this->loose[$i] = $i >= $this->core;
        }
    }

    /** Whether a touch may let go of any of it. */
    public function feels(): bool
    {
        return ! $this->free && $this->trigger->strike() !== null && in_array(false, $this->loose, true);
    }

    /**
     * It was struck; what is near enough lets go if that was hard enough.
     *
     * @param float $speed m/s
     * @param float $impulse N s
     * @param array{float, float, float} $at where
     * @param Closure(): array{array<int, float>, array<int, float>, array<int, float>} $places of its parts now
     */
    public function touched(float $speed, float $impulse, array $at, Closure $places): void
    {
        $strike = $this->trigger->strike();
        if ($speed <= 0.0 || ! $this->feels() || $strike === null) {
            return;
        }
        $this->hardest->note($speed, $impulse);
        if (! $strike->counts($speed, $impulse)) {
            return;
        }
        [$x, $y, $z] = $places();
        $now = [];
        foreach (array_keys($this->loose, false, true) as $i) {
            $far = sqrt(($x[$i] - $at[0]) ** 2 + ($y[$i] - $at[1]) ** 2 + ($z[$i] - $at[2]) ** 2);
            if ($strike->within <= 0.0 || $far <= $strike->within) {
                $now[] = $i;
            }
        }
        $this->letGo($now);
    }

    /** @return list<float> 1 for each that something else than the weight has let go of, else 0 */
    public function loose(): array
    {
        return array_map(static fn (bool $loose): float => $loose ? 1.0 : 0.0, array_values($this->loose));
    }

    /** @return list<float> 1 for each that was held at first and is not, else 0 */
    public function gone(): array
    {
        $gone = array_fill(0, count($this->loose), 0.0);
        foreach ($this->first as $i) {
            $gone[$i] = $this->now[$i] <= 0.0 ? 1.0 : 0.0;
        }

        return array_values($gone);
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return ['loose' => $this->loose, 'hold' => $this->now, 'hardest' => $this->hardest->save()];
    }

    public function restore(State $saved): void
    {
        $this->loose = $saved->bools('loose');
        $this->now = $saved->floats('hold');
        $this->hardest->restore($saved->part('hardest'));
    }
}
