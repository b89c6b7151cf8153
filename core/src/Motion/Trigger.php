<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** Decides when pieces that are held let go. */
interface Trigger
{
    /**
     * @param array<int, float> $weights of the pieces that are still held, by their numbers
     *
     * @return array<int, bool> whether each of them is due by a frame
     */
    public function due(float $frame, array $weights): array;

    /** Whether the moment has come from which it lets go, if it has one that is known beforehand. */
    public function hasBegun(float $frame): bool;

    /** @return list<mixed> what decides it, beside that moment and the weights */
    public function still(): array;

    /** Weight above which a part lets go, 0 to 1; null: it does not go by the weight. */
    public function threshold(int $part): ?float;

    /** The touch that lets go; null: none does. */
    public function strike(): ?Strike;

    /** How many frames after the moment a part lets go; the first to go does at once. */
    public function delay(int $part): float;
}
