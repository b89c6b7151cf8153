<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

/** Keeps results for as long as the process runs: for the command line and tests. */
final class MemoryStore implements StageStore
{
    /** @var array<string, string> */
    private array $kept = [];

    public function get(string $hash): ?string
    {
        return $this->kept[$hash] ?? null;
    }

    public function put(string $hash, string ...$parts): void
    {
        $this->kept[$hash] = implode('', $parts);
    }

    public function alone(string $hash, callable $work): mixed
    {
        return $work();
    }
}
