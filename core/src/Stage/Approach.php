<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Weight\Samples;

/**
 * The least distance from places of one thing to another while both move. A place that was far away is asked again only when
 * they have gone that far.
 */
final class Approach
{
    /** Distances are asked for up to so many times the limit, so that they hold for a while. */
    private const AHEAD = 6.0;

    /** @var array<int, float> way at which each place could have come near at the soonest, m */
    private array $until;

    /** @param Closure(Samples, float, float): list<float> $distances of places at a frame, m; INF where it is farther than the limit */
    public function __construct(private readonly Closure $distances, private readonly Samples $places)
    {
        $this->until = array_fill(0, count($places->x), 0.0);
    }

    /**
     * @param float $gone how far both have gone in all since the first time it was asked, m; never less than before
     *
     * @return float m; more than the limit where it is farther
     */
    public function least(float $frame, float $gone, float $limit): float
    {
        $x = $y = $z = $asked = [];
        foreach ($this->until as $k => $until) {
            if ($until - $gone <= $limit) {
                $asked[] = $k;
                $x[] = $this->places->x[$k];
                $y[] = $this->places->y[$k];
                $z[] = $this->places->z[$k];
            }
        }
        if ($asked === []) {
            return INF;
        }
        $ask = self::AHEAD * $limit;
        $least = INF;
        foreach (($this->distances)(new Samples($x, $y, $z), $frame, $ask) as $n => $far) {
            $this->until[$asked[$n]] = $gone + min($far, $ask);
            $least = min($least, $far);
        }

        return $least;
    }
}
