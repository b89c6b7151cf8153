<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

/** Which edges go through which triangles, while vertices are moved a little at a time: only what has moved is looked at again. */
final class Piercings
{
    /** @var array<int, array<string, array{int, int, int}>> by pair, as {@see Tangles::piercedBy()} tells them */
    private array $found = [];

    /** @var array<int, list<int>> by the first corner of a triangle, pairs that it is in */
    private array $pairs = [];

    /** @var array<int, list<int>> by vertex, triangles of pairs at it, by their first corner */
    private array $around = [];

    /** @var array<int, float> by twice the first corner of a triangle of a pair: its least and largest x, y and z, m */
    private array $box = [];

    private readonly int $end;

    /**
     * @param list<int> $facing pairs of triangles as {@see Tangles::facing()} tells them
     * @param list<int> $triangles three vertices each
     */
    public function __construct(private readonly array $facing, private readonly array $triangles)
    {
        $this->end = count($triangles);
        foreach ($facing as $pair => $key) {
            $one = intdiv($key, $this->end);
            $this->pairs[$one][] = $pair;
            $this->pairs[$key - $one * $this->end][] = $pair;
        }
        foreach ($this->pairs as $t => $_) {
            for ($c = $t; $c < $t + 3; $c++) {
                $this->around[$triangles[$c]][] = $t;
            }
        }
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $places of all vertices, m
     * @param list<int>|null $moved vertices that have moved since the last look, if there was one; null: all are looked at
     */
    public function look(array $places, ?array $moved = null): void
    {
        $touched = $moved === null ? $this->pairs : [];
        foreach ($moved ?? [] as $v) {
            foreach ($this->around[$v] ?? [] as $t) {
                $touched[$t] = true;
            }
        }
        Tangles::bound($this->box, array_keys($touched), $places, $this->triangles);
        $again = $moved === null ? $this->facing : [];
        foreach ($moved === null ? [] : $touched as $t => $_) {
            foreach ($this->pairs[$t] as $pair) {
                $again[$pair] = $this->facing[$pair];
            }
        }
        $this->found = array_diff_key($this->found, $again) + Tangles::piercedBy($this->meeting($again), ...$places, triangles: $this->triangles);
    }

    /** @return array<string, array{int, int, int}> ends of the edge, first corner of the triangle; in the order of the pairs */
    public function all(): array
    {
        ksort($this->found);

        return Tangles::together($this->found);
    }

    /**
     * @param array<int, int> $pairs
     *
     * @return array<int, int> those of them whose boxes meet
     */
    private function meeting(array $pairs): array
    {
        $box = $this->box;
        $end = $this->end;
        foreach ($pairs as $pair => $key) {
            $k = intdiv($key, $end);
            $l = 2 * ($key - $k * $end);
            $k *= 2;
            if ($box[$k] > $box[$l + 1] || $box[$k + 1] < $box[$l] || $box[$k + 2] > $box[$l + 3] || $box[$k + 3] < $box[$l + 2] || $box[$k + 4] > $box[$l + 5] || $box[$k + 5] < $box[$l + 4]) {
                unset($pairs[$pair]);
            }
        }

        return $pairs;
    }
}
