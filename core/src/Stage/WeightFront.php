<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\Front;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** Where a prop's weight passes the threshold at which it lets go. */
final readonly class WeightFront implements Front
{
    /**
     * @param Closure(): WeightSource $weight
     * @param int $frames of the shot
     * @param list<mixed> $inputs all that decides the weight
     */
    public function __construct(private Closure $weight, private float $threshold, private int $frames, private array $inputs)
    {
    }

    /** @return array{float, int, list<mixed>} */
    public function __serialize(): array
    {
        return [$this->threshold, $this->frames, $this->inputs];
    }

    public function arrivals(array $x, array $y, array $z, Progress $progress): array
    {
        $weight = ($this->weight)();
        // What follows late remembers the places: they stay the same ones from frame to frame.
        $places = new Samples($x, $y, $z);
        $arrivals = $x === [] ? [] : array_fill(0, count($x), INF);
        $before = [];
        $left = count($x);
        // Once it has been everywhere there is nothing more to see.
        for ($frame = 1; $frame <= $this->frames && $left > 0; $frame++) {
            $now = $weight->evaluate($places, (float) $frame);
            foreach ($now as $i => $value) {
                // A piece lets go once its weight is above the threshold.
                if ($value > $this->threshold && $arrivals[$i] === INF) {
                    $left--;
                    $arrivals[$i] = $before === [] ? 1.0 : $frame - 1 + ($this->threshold - $before[$i]) / ($value - $before[$i]);
                }
            }
            $before = $now;
            $progress->at('the front', $frame, $this->frames);
        }

        return $arrivals;
    }
}
