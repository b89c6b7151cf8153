<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\Progress;
use YardBreak\Core\Refusal;

/**
 * A step from document to frames: a pure function of its inputs, whose result can be kept as bytes.
 *
 * @template T
 */
interface Stage
{
    public function name(): string;

    /** Raised when the result changes for the same inputs. */
    public function version(): int;

    /** @return list<mixed> exactly what decides the result: settings in force, hashes of what it builds on */
    public function inputs(): array;

    /**
     * @return T
     *
     * @throws Refusal
     */
    public function run(Progress $progress): mixed;

    /**
     * @param T $result
     *
     * @return list<string> together they are what decode() takes
     */
    public function encode(mixed $result): array;

    /** @return T */
    public function decode(string $bytes): mixed;
}
