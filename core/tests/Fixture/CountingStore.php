<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\StageStore;

/** Counts how often each result is read. */
final class CountingStore implements StageStore
{
    /** @var array<string, int> by hash */
    public array $reads = [];

    private MemoryStore $store;

    public function __construct()
    {
        $this->store = new MemoryStore();
    }

    public function countAnew(): void
    {
        $this->reads = [];
    }

    public function get(string $hash): ?string
    {
        $kept = $this->store->get($hash);
        if ($kept !== null) {
            $this->reads[$hash] = ($this->reads[$hash] ?? 0) + 1;
        }

        return $kept;
    }

    public function put(string $hash, string ...$parts): void
    {
        $this->store->put($hash, ...$parts);
    }

    public function alone(string $hash, callable $work): mixed
    {
        return $this->store->alone($hash, $work);
    }
}
