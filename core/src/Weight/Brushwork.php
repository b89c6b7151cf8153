<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/**
 * A weight that is painted: strokes one over the other, the oldest first. Strokes are kept as what the hand did, not as
 * numbers of vertices, so they hold for any mesh of the prop.
 *
 * What softens widens the edges of the strokes before it, each about its own middle, by as much as the brush is large.
 */
final class Brushwork implements WeightSource
{
    private ?Samples $at = null;

    /** @var list<float> */
    private array $weights = [];

    /**
     * @param list<Stroke> $strokes
     * @param float $ground where nothing is painted, 0 to 1
     */
    public function __construct(private readonly array $strokes, private readonly float $ground)
    {
    }

    public function evaluate(Samples $at, float $frame): array
    {
        if ($this->at !== $at) {
            [$this->at, $this->weights] = [$at, $this->painted($at)];
        }

        return $this->weights;
    }

    /** @return list<float> */
    private function painted(Samples $at): array
    {
        $grid = SampleGrid::of($at);
        [$wider, $most] = $this->wider($grid);
        $weights = array_fill(0, count($at->x), $this->ground);
        foreach ($this->strokes as $n => $stroke) {
            if ($stroke->mode === 'soften') {
                continue;
            }
            $target = $stroke->mode === 'add' ? 1.0 : 0.0;
            $edge = $stroke->softness * $stroke->radius;
            $outer = $stroke->radius;
            // An edge does not get wider than the stroke itself.
            $widest = min($most[$n], 2.0 * $outer);
            foreach ($stroke->distances($grid, $outer + 0.5 * $widest) as $k => $far) {
                $more = min($widest, $wider[$n][$k] ?? 0.0);
                $soft = $edge + $more;
                $past = $far - ($outer - $edge - 0.5 * $more);
                $share = $past <= 0.0 ? 1.0 : ($past >= $soft ? 0.0 : 1.0 - $past / $soft);
                $weights[$k] += $stroke->strength * $share * $share * (3.0 - 2.0 * $share) * ($target - $weights[$k]);
            }
        }

        return array_values($weights);
    }

    /** @return array{array<int, array<int, float>>, array<int, float>} by how much, m, the edge of each stroke is wider at each place, and the most of it */
    private function wider(SampleGrid $grid): array
    {
        $now = $after = $most = [];
        $widest = 0.0;
        for ($n = count($this->strokes) - 1; $n >= 0; $n--) {
            [$after[$n], $most[$n]] = [$now, $widest];
            $stroke = $this->strokes[$n];
            if ($stroke->mode !== 'soften') {
                continue;
            }
            $inner = (1.0 - $stroke->softness) * $stroke->radius;
            foreach ($stroke->distances($grid, $stroke->radius) as $k => $far) {
                $share = $far <= $inner ? 1.0 : ($far >= $stroke->radius ? 0.0 : ($stroke->radius - $far) / ($stroke->radius - $inner));
                $now[$k] = ($now[$k] ?? 0.0) + $stroke->strength * $stroke->radius * $share;
                $widest = max($widest, $now[$k]);
            }
        }

        return [$after, $most];
    }

    public function still(): array
    {
        return ['brush', $this->ground, array_map(static fn (Stroke $stroke): array => $stroke->inputs(), $this->strokes)];
    }

    public function sample(float $frame): array
    {
        return [];
    }
}
