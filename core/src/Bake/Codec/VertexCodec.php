<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake\Codec;

/**
 * Vertices of one frame in 65,535 steps between the frame's bounds: six singles (low corner, high corner), then three
 * unsigned 16-bit numbers a vertex. Off by at most half a step: the bounds' size over 131,070.
 */
final class VertexCodec implements TrackCodec
{
    use Linear;

    private const STEPS = 65535;

    public function size(): ?int
    {
        return null;
    }

    public function numbers(): int
    {
        return 3;
    }

    public function encode(array $values): string
    {
        $low = [INF, INF, INF];
        $high = [-INF, -INF, -INF];
        foreach ($values as $k => $value) {
            $axis = $k % 3;
            $low[$axis] = $value < $low[$axis] ? $value : $low[$axis];
            $high[$axis] = $value > $high[$axis] ? $value : $high[$axis];
        }
        if ($values === []) {
            return '';
        }
        // As singles they must still hold everything.
        $bounds = pack('g6', ...$low, ...$high);
        /** @var array<int, float> $b */
        $b = unpack('g6', $bounds);
        $scale = [];
        foreach ([0, 1, 2] as $axis) {
            $span = $b[$axis + 4] - $b[$axis + 1];
            $scale[$axis] = $span > 0.0 ? self::STEPS / $span : 0.0;
        }
        $steps = [];
        foreach ($values as $k => $value) {
            $axis = $k % 3;
            $step = (int) round(($value - $b[$axis + 1]) * $scale[$axis]);
            $steps[] = $step < 0 ? 0 : ($step > self::STEPS ? self::STEPS : $step);
        }

        return $bounds . pack('v*', ...$steps);
    }

    public function decode(string $bytes): array
    {
        if ($bytes === '') {
            return [];
        }
        /** @var array<int, float> $b */
        $b = unpack('g6', $bytes);
        /** @var array<int, int> $steps */
        $steps = unpack('v*', $bytes, 24);
        $values = [];
        foreach (array_values($steps) as $k => $step) {
            $axis = $k % 3;
            $values[] = $b[$axis + 1] + $step * ($b[$axis + 4] - $b[$axis + 1]) / self::STEPS;
        }

        return $values;
    }
}
