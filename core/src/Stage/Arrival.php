<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Document\Prop;

/**
 * How far a front has gone when it gets to each vertex of a prop's surface, as {@see SurfaceWays} has it.
 *
 * @implements Stage<list<float>>
 */
final class Arrival implements Stage
{
    /**
     * @param list<mixed> $inputs what decides where and when it sets out and where it is slowed
     * @param Closure(SurfaceWays): array{array<int, float>, array<int, float>} $begins way at which it sets out, and the part of it before that, by vertex, m
     * @param (Closure(SurfaceWays): list<float>)|null $slowness by vertex
     */
    public function __construct(
        private readonly Prop $prop,
        private readonly Surfaces $surfaces,
        private readonly array $inputs,
        private readonly Closure $begins,
        private readonly ?Closure $slowness,
        private readonly bool $coarse = false,
    ) {
    }

    public function name(): string
    {
        return 'arrival';
    }

    public function version(): int
    {
        return 2;
    }

    public function inputs(): array
    {
        return [$this->surfaces->hash($this->prop), $this->inputs];
    }

    /** @return list<float> m; INF: it never gets there */
    public function run(Progress $progress): array
    {
        $ways = SurfaceWays::of($this->prop, $this->surfaces, $this->coarse);

        return $ways->march(...[...($this->begins)($ways), $this->slowness === null ? null : ($this->slowness)($ways)]);
    }

    public function encode(mixed $result): array
    {
        return [pack('e*', ...$result)];
    }

    public function decode(string $bytes): array
    {
        /** @var array<int, float> $ways */
        $ways = unpack('e*', $bytes);

        return array_values($ways);
    }
}
