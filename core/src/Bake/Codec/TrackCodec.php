<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake\Codec;

/** Bytes of a track's values at one frame; byte for byte in docs/frames.md. */
interface TrackCodec
{
    /** Bytes of one part, so that a frame can hold only the parts that changed; null: it is always written whole. */
    public function size(): ?int;

    /** Numbers of one part. */
    public function numbers(): int;

    /** @param array<int, float|int> $values */
    public function encode(array $values): string;

    /** @return list<float|int> */
    public function decode(string $bytes): array;

    /**
     * Values between those of two frames.
     *
     * @param array<int, float|int> $a
     * @param array<int, float|int> $b as many
     * @param float $share 0: a, 1: b
     *
     * @return list<float|int>
     */
    public function between(array $a, array $b, float $share): array;
}
