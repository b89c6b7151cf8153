<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** Samples sorted into cells, so that those near a place are found without asking all. */
final readonly class SampleGrid
{
    /** Samples of a surface a cell, about. */
    private const EACH = 6;

    /** Cells along the longest side, at most. */
    private const MOST = 200;

    /**
     * @param array<int, list<int>> $cells numbers of the samples in each
     * @param array{float, float, float} $low
     * @param array{int, int, int} $count of cells along each side
     */
    private function __construct(public Samples $samples, private array $cells, private array $low, private float $cell, private array $count)
    {
    }

    public static function of(Samples $samples): self
    {
        [$x, $y, $z] = [$samples->x, $samples->y, $samples->z];
        if ($x === [] || $y === [] || $z === []) {
            return new self($samples, [], [0.0, 0.0, 0.0], 1.0, [0, 0, 0]);
        }
        $low = [min($x), min($y), min($z)];
        $sides = [max($x) - $low[0], max($y) - $low[1], max($z) - $low[2]];
        // A surface meets about the square of the cells along a side.
        $along = max(1.0, min((float) self::MOST, sqrt(count($x) / self::EACH)));
        $cell = max(1e-9, max($sides) / $along);
        $count = [(int) ($sides[0] / $cell) + 1, (int) ($sides[1] / $cell) + 1, (int) ($sides[2] / $cell) + 1];
        $cells = [];
        foreach ($x as $k => $px) {
            $cells[((int) (($px - $low[0]) / $cell) * $count[1] + (int) (($y[$k] - $low[1]) / $cell)) * $count[2] + (int) (($z[$k] - $low[2]) / $cell)][] = $k;
        }

        return new self($samples, $cells, $low, $cell, $count);
    }

    /**
     * @param array{float, float, float} $low
     * @param array{float, float, float} $high
     *
     * @return list<list<int>> numbers of all samples within a box, and of some around it, cell by cell
     */
    public function within(array $low, array $high): array
    {
        $from = $to = [];
        foreach ([0, 1, 2] as $axis) {
            $from[] = max(0, (int) floor(($low[$axis] - $this->low[$axis]) / $this->cell));
            $to[] = min($this->count[$axis] - 1, (int) floor(($high[$axis] - $this->low[$axis]) / $this->cell));
        }
        $found = [];
        for ($x = $from[0]; $x <= $to[0]; $x++) {
            for ($y = $from[1]; $y <= $to[1]; $y++) {
                for ($z = $from[2]; $z <= $to[2]; $z++) {
                    $cell = $this->cells[($x * $this->count[1] + $y) * $this->count[2] + $z] ?? null;
                    if ($cell !== null) {
                        $found[] = $cell;
                    }
                }
            }
        }

        return $found;
    }
}
