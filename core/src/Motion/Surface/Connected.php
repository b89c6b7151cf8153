<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

/** Nodes that hang together, and which parts they make up. */
final readonly class Connected
{
    /** @var list<int> number of the part of each node */
    public array $part;

    /** How many parts there are. */
    public int $parts;

    /**
     * @param list<int> $first what node a hangs together with is from first[a] to first[a + 1] in $other, each two once
     * @param list<int> $other
     * @param bool $asOne whether all of it counts as one part
     */
    public function __construct(private array $first, private array $other, bool $asOne = false)
    {
        $this->part = $asOne ? array_fill(0, count($first) - 1, 0) : self::found($first, $other);
        $this->parts = $this->part === [] ? 0 : max($this->part) + 1;
    }

    /**
     * @param list<int> $first
     * @param list<int> $other
     *
     * @return list<int>
     */
    private static function found(array $first, array $other): array
    {
        $n = count($first) - 1;
        $root = array_keys(array_fill(0, $n, true));
        for ($a = 0; $a < $n; $a++) {
            for ($c = $first[$a]; $c < $first[$a + 1]; $c++) {
                $i = self::root($root, $a);
                $j = self::root($root, $other[$c]);
                $root[max($i, $j)] = min($i, $j);
            }
        }
        /** @var list<int> $part */
        $part = [];
        $number = 0;
        foreach ($root as $i => $lowest) {
            // The lowest node of a part is its root, or that of a lower one: those below are known.
            $part[] = $lowest === $i ? $number++ : $part[$lowest];
        }

        return $part;
    }

    /**
     * @param array<int, float> $of each node
     *
     * @return list<float> of each node, the sum over the part that it is in
     */
    public function sums(array $of): array
    {
        $sums = array_fill(0, $this->parts, 0.0);
        foreach ($this->part as $i => $part) {
            $sums[$part] += $of[$i];
        }

        return array_map(static fn (int $part): float => $sums[$part], $this->part);
    }

    /** @param array<int, int> $root a lower node of the same part for each, or itself */
    private static function root(array &$root, int $i): int
    {
        while ($root[$i] !== $i) {
            $i = $root[$i] = $root[$root[$i]];
        }

        return $i;
    }

    /**
     * @param array<int, float> $values
     *
     * @return array<int, float> of each node, the mean of it and those that it hangs together with
     */
    public function mixed(array $values): array
    {
        $sum = $values;
        $count = array_fill(0, count($values), 1);
        foreach ($values as $a => $value) {
            for ($c = $this->first[$a], $end = $this->first[$a + 1]; $c < $end; ++$c) {
                $b = $this->other[$c];
                $sum[$a] += $values[$b];
                $sum[$b] += $value;
                ++$count[$a];
                ++$count[$b];
            }
        }
        foreach ($sum as $i => $of) {
            $sum[$i] = $of / $count[$i];
        }

        return $sum;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return array<int, array{float, float, float, float, float, float}> around each part: low corner, high corner
     */
    public function boxes(array $x, array $y, array $z): array
    {
        $boxes = array_fill(0, $this->parts, [INF, INF, INF, -INF, -INF, -INF]);
        foreach ($this->part as $i => $part) {
            [$a, $b, $c, $d, $e, $f] = $boxes[$part];
            $boxes[$part] = [min($a, $x[$i]), min($b, $y[$i]), min($c, $z[$i]), max($d, $x[$i]), max($e, $y[$i]), max($f, $z[$i])];
        }

        return $boxes;
    }
}
