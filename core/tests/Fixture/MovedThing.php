<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Touch;

/** Something that a test moves by hand. */
final class MovedThing implements Collider
{
    /** @var array{float, float, float} */
    public array $position = [0.0, 0.0, 0.0];

    /** @var array{float, float, float, float} */
    public array $rotation = [0.0, 0.0, 0.0, 1.0];

    /** m in a step */
    public float $growth = 0.0;

    /** kg; INF: it stands for ever. */
    public float $mass = INF;

    /** @var array{float, float, float} by what it was pulled in all, N s */
    public array $pulled = [0.0, 0.0, 0.0];

    /**
     * @param float $radius of the ball around it, m
     * @param float $travel how far it says that it may come in a step, m
     */
    public function __construct(private readonly SurfaceTree $tree, private readonly float $friction, private readonly float $radius = 3.0, private readonly float $travel = 1.0, private readonly string $name = 'thing')
    {
    }

    public function name(): string
    {
        return $this->name;
    }

    public function ball(): array
    {
        return [$this->position, $this->radius];
    }

    public function surface(): SurfaceTree
    {
        return $this->tree;
    }

    public function friction(): float
    {
        return $this->friction;
    }

    public function pose(): array
    {
        return [$this->position, $this->rotation];
    }

    public function mass(): float
    {
        return $this->mass;
    }

    public function travel(float $dt): float
    {
        return $this->travel;
    }

    public function growth(float $dt): float
    {
        return $this->growth;
    }

    public function push(Touch $touch): void
    {
    }

    public function stop(array $place, array $way, float $most, float $friction, float $bears): float
    {
        return 0.0;
    }

    public function feels(): bool
    {
        return false;
    }

    public function meet(array $place, array $way, float $goes, float $spare): void
    {
    }

    public function bear(float $force): void
    {
    }

    public function yields(array $place): float
    {
        return 1.0 / $this->mass;
    }

    public function pull(array $impulse, array $moment, bool $moves, float $h): void
    {
        $this->pulled = Vector::plus($this->pulled, $impulse);
    }
}
