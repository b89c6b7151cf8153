<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Soft;

/** Where a soft thing's surface is, as its nodes are. While others meet it it is asked for again and again, for now and for a substep before: the last two are remembered. */
final class Outside
{
    /** @var list<array{array{array<int, float>, array<int, float>, array<int, float>}, array{list<float>, list<float>, list<float>}|null, array{list<float>, list<float>, list<float>}}> nodes, how it is raised, and where it is then */
    private array $known = [];

    public function __construct(private readonly Skin $skin)
    {
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $nodes m
     * @param array{list<float>, list<float>, list<float>}|null $raised how far beside where its boxes carry it, m
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    public function at(array $nodes, ?array $raised): array
    {
        foreach ($this->known as [$then, $as, $surface]) {
            if ($then === $nodes && $as === $raised) {
                return $surface;
            }
        }

        return $this->remember($nodes, $raised, $this->skin->places(...$nodes, beside: $raised));
    }

    /**
     * Its nodes have gone elsewhere, as some of its vertices were pushed.
     *
     * @param array{list<float>, list<float>, list<float>} $surface before
     * @param list<int> $pushed vertices
     * @param array{array<int, float>, array<int, float>, array<int, float>} $nodes now
     * @param array{list<float>, list<float>, list<float>}|null $raised
     */
    public function follow(array $surface, array $pushed, array $nodes, ?array $raised): void
    {
        $this->remember($nodes, $raised, $this->skin->placesAgain($surface, $pushed, ...$nodes, beside: $raised));
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $nodes
     * @param array{list<float>, list<float>, list<float>}|null $raised
     * @param array{list<float>, list<float>, list<float>} $surface
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    private function remember(array $nodes, ?array $raised, array $surface): array
    {
        $this->known = [[$nodes, $raised, $surface], ...array_slice($this->known, 0, 1)];

        return $surface;
    }
}
