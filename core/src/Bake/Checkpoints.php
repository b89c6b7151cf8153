<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

/** Keeps states of simulations, each under the hash of everything that acted up to it. */
interface Checkpoints
{
    /** @return array{string, string}|null state, and path of a frames file that holds the frames up to it */
    public function find(string $hash): ?array;

    /** @param string $path of the frames file that holds the frames up to this state */
    public function keep(string $hash, string $state, string $path): void;
}
