<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Generator;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

/** Parts: what does not hang together in the mesh already is parted, and nothing else. A hollow belongs to what is around it. */
final readonly class PartsPattern implements SkinPattern
{
    /** More could neither be drawn nor moved. */
    private const MOST = 20_000;

    /** @param bool $stacked whether parts that stand above each other are one: an i and its dot */
    public function __construct(public bool $stacked = false)
    {
    }

    public function keepsCore(): bool
    {
        return false;
    }

    public function flakes(TriangleMesh $mesh, Progress $progress): Generator
    {
        $parts = Topology::parts($mesh);
        if (count($parts) > self::MOST) {
            throw new BreakFailed(sprintf('The mesh has %s parts that hang together by nothing; at most %s can be moved. Are its corners joined? A repair joins them.', number_format(count($parts)), number_format(self::MOST)));
        }
        $parts = self::withHollows($mesh, $parts);
        foreach ($this->stacked ? self::stacked($mesh, $parts) : $parts as $k => $faces) {
            $progress->at('parts', $k, count($parts));
            yield $mesh->picked($faces);
        }
    }

    /**
     * @param list<list<int>> $parts faces of each
     *
     * @return list<list<int>>
     */
    private static function withHollows(TriangleMesh $mesh, array $parts): array
    {
        $volumes = $bounds = [];
        foreach ($parts as $k => $faces) {
            $part = $mesh->picked($faces);
            $volumes[$k] = Topology::of($part)->isWatertight() ? MassProperties::of($part)->volume : 0.0;
            $bounds[$k] = $part->bounds();
        }
        foreach ($volumes as $hollow => $volume) {
            if ($volume >= 0.0) {
                continue;
            }
            $around = null;
            foreach ($volumes as $k => $other) {
                if ($other > -$volume && self::holds($bounds[$k], $bounds[$hollow]) && ($around === null || $other < $volumes[$around])) {
                    $around = $k;
                }
            }
            if ($around !== null) {
                array_push($parts[$around], ...$parts[$hollow]);
                unset($parts[$hollow]);
            }
        }

        return array_values($parts);
    }

    /**
     * What stands above each other: over half as wide as the narrower, along x.
     *
     * @param list<list<int>> $parts
     *
     * @return list<list<int>>
     */
    private static function stacked(TriangleMesh $mesh, array $parts): array
    {
        $spans = array_map(static function (array $faces) use ($mesh): array {
            [$low, $high] = $mesh->picked($faces)->bounds();

            return [$low[0], $high[0]];
        }, $parts);
        // The widest first: what is above or below it joins it.
        uasort($spans, static fn (array $a, array $b): int => $b[1] - $b[0] <=> $a[1] - $a[0]);
        $joined = [];
        foreach ($spans as $k => [$from, $to]) {
            $into = $k;
            foreach ($joined as $other => $faces) {
                if (min($to, $spans[$other][1]) - max($from, $spans[$other][0]) > 0.5 * ($to - $from)) {
                    $into = $other;
                    break;
                }
            }
            $joined[$into] = [...$joined[$into] ?? [], ...$parts[$k]];
        }
        ksort($joined);

        return array_values($joined);
    }

    /**
     * @param array{array{float, float, float}, array{float, float, float}} $outer
     * @param array{array{float, float, float}, array{float, float, float}} $inner
     */
    private static function holds(array $outer, array $inner): bool
    {
        foreach ([0, 1, 2] as $axis) {
            if ($inner[0][$axis] < $outer[0][$axis] || $inner[1][$axis] > $outer[1][$axis]) {
                return false;
            }
        }

        return true;
    }
}
