<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

/** Where results of stages are kept, under the SHA-256 of everything they were made from. */
interface StageStore
{
    public function get(string $hash): ?string;

    /** @param string ...$parts kept as one */
    public function put(string $hash, string ...$parts): void;

    /**
     * Does some work while nobody else does work of the same name: whoever comes second finds the first one's result.
     *
     * @template T
     *
     * @param callable(): T $work
     *
     * @return T
     */
    public function alone(string $hash, callable $work): mixed;
}
