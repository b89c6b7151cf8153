<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Generator;
use SplPriorityQueue;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Patches: the mesh's own surface parted along its edges, without thickness: what is sewn together of them can tear there. Each grows
 * from a triangle of its own over its neighbours, as far as that is nearer than the others' are, in a straight line: over the triangles' middles every way
 * would be a zigzag, and none drawn out.
 */
final readonly class PatchesPattern implements SewnPattern
{
    /** Of so many places that come up by chance the one farthest from the others begins a patch. */
    private const CANDIDATES = 8;

    /**
     * @param int|null $along axis along which they are drawn out: 0, 1, 2 for x, y, z; null: they are as wide as long
     * @param float $times how many times as long as wide
     */
    public function __construct(public int $count, public int $seed, public ?int $along, public float $times)
    {
    }

    public function keepsCore(): bool
    {
        return false;
    }

    public function flakes(TriangleMesh $mesh, Progress $progress): Generator
    {
        $middles = self::middles($mesh);
        $patches = [];
        foreach ($this->grown($mesh, $middles, $this->begun($mesh, $middles)) as $face => $patch) {
            $patches[$patch][] = $face;
        }
        ksort($patches);
        foreach (array_values($patches) as $k => $faces) {
            $progress->at('patches', $k, count($patches));
            sort($faces);
            yield $mesh->picked($faces);
        }
    }

    /** @return list<array{float, float, float}> middle of each triangle */
    private static function middles(TriangleMesh $mesh): array
    {
        $middles = [];
        for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t++) {
            [$a, $b, $c] = [$mesh->triangles[3 * $t], $mesh->triangles[3 * $t + 1], $mesh->triangles[3 * $t + 2]];
            $middles[] = [($mesh->x[$a] + $mesh->x[$b] + $mesh->x[$c]) / 3.0, ($mesh->y[$a] + $mesh->y[$b] + $mesh->y[$c]) / 3.0, ($mesh->z[$a] + $mesh->z[$b] + $mesh->z[$c]) / 3.0];
        }

        return $middles;
    }

    /**
     * Triangles from which patches grow, spread over the area.
     *
     * @param list<array{float, float, float}> $middles
     *
     * @return list<int>
     */
    private function begun(TriangleMesh $mesh, array $middles): array
    {
        $sums = [];
        $sum = 0.0;
        foreach ($middles as $t => $_) {
            [$x, $y, $z] = $mesh->cross($t);
            $sums[] = $sum += sqrt($x * $x + $y * $y + $z * $z);
        }
        $random = RandomStream::named($this->seed, 'patches');
        $begun = $taken = [];
        for ($k = 0, $count = min($this->count, count($middles)); $k < $count; $k++) {
            $best = null;
            $farthest = -1.0;
            for ($n = 0; $n < self::CANDIDATES; $n++) {
                $t = self::passed($sums, $sum * $random->float());
                $near = INF;
                foreach ($begun as $other) {
                    $near = min($near, $this->apart($middles[$t], $middles[$other]));
                }
                if (! isset($taken[$t]) && $near > $farthest) {
                    [$best, $farthest] = [$t, $near];
                }
            }
            if ($best !== null) {
                $begun[] = $best;
                $taken[$best] = true;
            }
        }

        return $begun;
    }

    /**
     * @param list<float> $sums rising
     *
     * @return int the first that is as high
     */
    private static function passed(array $sums, float $value): int
    {
        [$low, $high] = [0, count($sums) - 1];
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            if ($sums[$middle] < $value) {
                $low = $middle + 1;
            } else {
                $high = $middle;
            }
        }

        return $low;
    }

    /**
     * @param list<array{float, float, float}> $middles
     * @param list<int> $begun
     *
     * @return array<int, int> patch of each triangle; what nothing grows to is a patch of its own where it hangs together
     */
    private function grown(TriangleMesh $mesh, array $middles, array $begun): array
    {
        $beside = self::beside($mesh);
        $patch = $far = $roots = [];
        /** @var SplPriorityQueue<array{float, int}, array{int, int}> $queue */
        $queue = new SplPriorityQueue();
        $queue->setExtractFlags(SplPriorityQueue::EXTR_DATA);
        $left = $begun;
        $next = 0;
        $order = 0;
        for ($t = 0, $count = count($middles); $t <= $count; $t++) {
            // First from where they begin, then from what they do not get to.
            foreach ($left as $from) {
                $far[$from] = 0.0;
                $queue->insert([$from, $next++], [0.0, --$order]);
                $roots[] = $from;
            }
            while (! $queue->isEmpty()) {
                /** @var array{int, int} $entry */
                $entry = $queue->extract();
                [$at, $of] = $entry;
                if (isset($patch[$at])) {
                    continue;
                }
                $patch[$at] = $of;
                foreach ($beside[$at] ?? [] as $other) {
                    $on = $this->apart($middles[$other], $middles[$roots[$of]]);
                    if (! isset($patch[$other]) && $on < ($far[$other] ?? INF)) {
                        $far[$other] = $on;
                        $queue->insert([$other, $of], [-$on, --$order]);
                    }
                }
            }
            $left = $t < $count && ! isset($patch[$t]) ? [$t] : [];
        }

        return $patch;
    }

    /** @return array<int, list<int>> triangles beside each, over its edges */
    private static function beside(TriangleMesh $mesh): array
    {
        $sides = $beside = [];
        foreach ($mesh->triangles as $c => $a) {
            $b = $mesh->triangles[$c % 3 === 2 ? $c - 2 : $c + 1];
            $sides[min($a, $b)][max($a, $b)][] = intdiv($c, 3);
        }
        foreach ($sides as $edges) {
            foreach ($edges as $faces) {
                foreach ($faces as $face) {
                    foreach ($faces as $other) {
                        if ($other !== $face) {
                            $beside[$face][] = $other;
                        }
                    }
                }
            }
        }

        return $beside;
    }

    /**
     * Of two places, as it is felt by patches that are drawn out.
     *
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     */
    private function apart(array $a, array $b): float
    {
        [$x, $y, $z] = [$a[0] - $b[0], $a[1] - $b[1], $a[2] - $b[2]];
        $square = $x * $x + $y * $y + $z * $z;
        if ($this->along !== null) {
            $run = [$x, $y, $z][$this->along] ?? 0.0;
            $square -= $run * $run * (1.0 - 1.0 / ($this->times * $this->times));
        }

        return sqrt(max(0.0, $square));
    }
}
