<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/** Where a cloth wants to be: as it was woven, or drawn into another shape of the same triangles. */
final readonly class RestShape
{
    /**
     * @param array<int, float> $x of each vertex, in the prop's axes, m
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param list<float> $length of each edge, m
     * @param list<float> $rest length of the sum of each hinge
     * @param list<float>|null $times how many times as long as woven the edges at each vertex are on average; null: as woven
     * @param list<float>|null $least and the shortest of them
     * @param float $most how many times as long as woven any edge is
     */
    private function __construct(public array $x, public array $y, public array $z, public array $length, public array $rest, public ?array $times, private ?array $least, public float $most)
    {
    }

    public static function woven(Weave $weave): self
    {
        return new self($weave->x, $weave->y, $weave->z, $weave->length, $weave->rest, null, null, 1.0);
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    public static function drawn(Weave $weave, array $x, array $y, array $z): self
    {
        $length = [];
        $most = 0.0;
        $least = array_fill(0, $weave->count(), INF);
        $times = $edges = array_fill(0, $weave->count(), 0.0);
        for ($a = 0, $n = $weave->count(); $a < $n; $a++) {
            for ($c = $weave->first[$a], $end = $weave->first[$a + 1]; $c < $end; $c++) {
                $b = $weave->other[$c];
                $length[] = $now = sqrt(($x[$a] - $x[$b]) ** 2 + ($y[$a] - $y[$b]) ** 2 + ($z[$a] - $z[$b]) ** 2);
                $by = $now / $weave->length[$c];
                $most = max($most, $by);
                foreach ([$a, $b] as $v) {
                    $times[$v] += $by;
                    $least[$v] = min($least[$v], $by);
                    $edges[$v] += 1.0;
                }
            }
        }
        $rest = [];
        foreach ($weave->hinge[0] as $h => $a) {
            $u = $v = $w = $size = 0.0;
            foreach ([$a, $weave->hinge[1][$h], $weave->hinge[2][$h], $weave->hinge[3][$h]] as $k => $i) {
                $factor = $weave->factor[$k][$h];
                $u += $factor * $x[$i];
                $v += $factor * $y[$i];
                $w += $factor * $z[$i];
                $size += abs($factor) * (abs($x[$i]) + abs($y[$i]) + abs($z[$i]));
            }
            $rest[] = Weave::bend($u, $v, $w, $size);
        }

        return new self(
            $x,
            $y,
            $z,
            $length,
            $rest,
            array_map(static fn (float $sum, float $count): float => $count > 0.0 ? $sum / $count : 1.0, $times, $edges),
            array_map(static fn (float $by): float => is_finite($by) ? $by : 1.0, array_values($least)),
            $most,
        );
    }

    /**
     * Places so many times as large along each axis.
     *
     * @param array{array<int, float>, array<int, float>, array<int, float>} $places by axis
     * @param array{float, float, float} $size
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    public static function sized(array $places, array $size): array
    {
        $sized = static fn (int $axis): array => array_map(static fn (float $at): float => $size[$axis] * $at, array_values($places[$axis]));

        return [$sized(0), $sized(1), $sized(2)];
    }

    /** How many times as long as woven it is between two vertices, as the edges at both are on average. */
    public function longer(int $a, int $b): float
    {
        return $this->times === null ? 1.0 : 0.5 * ($this->times[$a] + $this->times[$b]);
    }

    /**
     * @param list<float> $grown how many times as long as at rest it is at each vertex
     *
     * @return list<float> how many times as long as it was woven where it has become shortest
     */
    public function least(array $grown): array
    {
        return $this->least === null ? $grown : array_map(static fn (float $shape, float $own): float => $shape * $own, $this->least, $grown);
    }
}
