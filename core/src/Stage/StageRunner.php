<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\Progress;
use YardBreak\Core\Refusal;

/**
 * Runs stages once: a result is kept under the SHA-256 of the stage's inputs and version, so nothing is computed twice and no
 * kept result can be out of date.
 */
final class StageRunner
{
    /** Raised when results are kept in other bytes than before, but are the same. */
    private const KEPT = 4;

    /** @var array<string, int> how often each stage really ran */
    public array $runs = [];

    public function __construct(private readonly StageStore $store)
    {
    }

    /** @param Stage<*> $stage */
    public static function hash(Stage $stage): string
    {
        return hash('sha256', $stage->name() . $stage->version() . serialize($stage->inputs()));
    }

    /**
     * @template T
     *
     * @param Stage<T> $stage
     *
     * @return T
     *
     * @throws Refusal
     */
    public function result(Stage $stage, Progress $progress = new Progress()): mixed
    {
        $key = self::key($stage);
        $kept = $this->store->get($key);

        return $kept !== null ? $stage->decode($kept) : $this->store->alone($key, function () use ($stage, $key, $progress): mixed {
            // Somebody may have kept it while one waited.
            $kept = $this->store->get($key);
            if ($kept !== null) {
                return $stage->decode($kept);
            }
            $this->runs[$stage->name()] = $this->ran($stage->name()) + 1;
            $result = $stage->run($progress);
            $this->store->put($key, ...$stage->encode($result));

            return $result;
        });
    }

    /** @param Stage<*> $stage */
    public function isKept(Stage $stage): bool
    {
        return $this->store->get(self::key($stage)) !== null;
    }

    /** @param Stage<*> $stage */
    private static function key(Stage $stage): string
    {
        return hash('sha256', 'kept ' . self::KEPT . ' ' . self::hash($stage));
    }

    public function ran(string $stage): int
    {
        return $this->runs[$stage] ?? 0;
    }
}
