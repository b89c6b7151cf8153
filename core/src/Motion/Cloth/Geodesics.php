<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use SplPriorityQueue;

/** Ways over a cloth at rest, along its edges and across its hinges (Dijkstra): never shorter than they are, at most some percent longer. */
final readonly class Geodesics
{
    /** @param list<list<array{int, float}>> $near neighbours of each vertex, and how far they are, m */
    private function __construct(private array $near)
    {
    }

    public static function of(Weave $weave): self
    {
        $near = array_fill(0, $weave->count(), []);
        for ($a = 0, $n = $weave->count(); $a < $n; $a++) {
            for ($c = $weave->first[$a]; $c < $weave->first[$a + 1]; $c++) {
                $near[$a][] = [$weave->other[$c], $weave->length[$c]];
                $near[$weave->other[$c]][] = [$a, $weave->length[$c]];
            }
        }
        foreach ($weave->hinge[2] as $k => $c) {
            $d = $weave->hinge[3][$k];
            $far = sqrt(($weave->x[$c] - $weave->x[$d]) ** 2 + ($weave->y[$c] - $weave->y[$d]) ** 2 + ($weave->z[$c] - $weave->z[$d]) ** 2);
            // Straight across only where it is as good as flat: through the air would be too short.
            if ($weave->rest[$k] === 0.0) {
                $near[$c][] = [$d, $far];
                $near[$d][] = [$c, $far];
            }
        }

        return new self($near);
    }

    /** @return array<int, float> how far each vertex within reach is, m, the nearest first */
    public function from(int $vertex, float $reach = INF): array
    {
        return $this->fromAll([$vertex], $reach)[0];
    }

    /**
     * @param list<int> $vertices
     *
     * @return array{array<int, float>, array<int, int>} how far each vertex within reach of any of them is, m, the nearest first; and from which
     */
    public function fromAll(array $vertices, float $reach = INF): array
    {
        $known = [];
        $queue = new SplPriorityQueue();
        $queue->setExtractFlags(SplPriorityQueue::EXTR_BOTH);
        foreach ($vertices as $vertex) {
            $queue->insert($vertex, [-0.0, -$vertex]);
        }
        $best = array_fill_keys($vertices, 0.0);
        $source = array_combine($vertices, $vertices);
        while (! $queue->isEmpty()) {
            /** @var array{data: int, priority: array{float, int}} $next */
            $next = $queue->extract();
            $v = $next['data'];
            if (isset($known[$v])) {
                continue;
            }
            $far = $best[$v];
            $known[$v] = $far;
            foreach ($this->near[$v] as [$b, $step]) {
                $way = $far + $step;
                if ($way <= $reach && $way < ($best[$b] ?? INF)) {
                    $best[$b] = $way;
                    $source[$b] = $source[$v];
                    // The lower number first where two are as near, so that the order is always the same.
                    $queue->insert($b, [-$way, -$b]);
                }
            }
        }

        return [$known, $source];
    }
}
