<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use Generator;
use YardBreak\Core\Document\Placing;
use YardBreak\Core\Format\UsdText;

/** What USD says over time: values of tracks by frame, in its own words, and how a prim is placed. */
final class UsdSamples
{
    /** Decimals of what is 1 at the most. */
    public const PARTS = 7;

    /** Decimals of what is only looked at: normals of what bends, colours, weights. */
    public const SHADES = 4;

    /** @param array{translation: string, rotation: string, scale?: string, weights?: string} $keys */
    public static function motion(UsdText $usd, array $keys, int $digits): void
    {
        $usd->over('double3 xformOp:translate', self::said(self::singles($keys['translation'], 3), static fn (array $place): string => UsdText::vector($place, $digits)));
        $usd->over('quatf xformOp:orient', self::turns($keys['rotation']));
        if (isset($keys['scale'])) {
            $usd->over('float3 xformOp:scale', self::said(self::singles($keys['scale'], 3), static fn (array $scale): string => UsdText::vector($scale, self::PARTS)));
            $usd->over('token visibility', self::said(self::singles($keys['scale'], 3), static fn (array $scale): string => min([1.0, ...$scale]) > 0.0 ? '"inherited"' : '"invisible"'));
        }
        $usd->line(self::order(isset($keys['scale'])));
    }

    /** The whole, placed as it is; nothing where it stands as it was computed. */
    public static function place(UsdText $usd, ?Placing $placing): void
    {
        if ($placing !== null) {
            $usd->line('double3 xformOp:translate = ' . UsdText::vector($placing->position, 9));
            $usd->line('quatf xformOp:orient = ' . self::turn($placing->rotation));
            $usd->line('float3 xformOp:scale = ' . UsdText::vector(array_fill(0, 3, $placing->scale), 9));
            $usd->line(self::order(true));
        }
    }

    /**
     * @param callable(float): float $at
     *
     * @return Generator<int, string> by frame
     */
    public static function numbers(callable $at, int $frames): Generator
    {
        for ($frame = 1; $frame <= $frames; $frame++) {
            yield $frame => UsdText::number($at($frame), self::PARTS);
        }
    }

    /** @return Generator<int, string> by frame; each on the side of the one before, so that nobody turns the long way round between them */
    public static function turns(string $bytes): Generator
    {
        $before = [0.0, 0.0, 0.0, 0.0];
        foreach (self::singles($bytes, 4) as $frame => $turn) {
            if ($before[0] * $turn[0] + $before[1] * $turn[1] + $before[2] * $turn[2] + $before[3] * $turn[3] < 0.0) {
                $turn = array_map(static fn (float $part): float => -$part, $turn);
            }
            yield $frame => self::turn($before = $turn);
        }
    }

    /**
     * @param iterable<int, array<int, float|int>> $values by frame
     * @param callable(array<int, float|int>): string $say
     *
     * @return Generator<int, string> by frame
     */
    public static function said(iterable $values, callable $say): Generator
    {
        foreach ($values as $frame => $of) {
            yield $frame => $say($of);
        }
    }

    /**
     * @param int $size how many a frame
     *
     * @return Generator<int, list<float>> by frame
     */
    public static function singles(string $bytes, int $size): Generator
    {
        for ($at = 0, $frame = 1; $at < strlen($bytes); $at += 4 * $size, $frame++) {
            /** @var array<int, float> $values */
            $values = unpack("g{$size}", $bytes, $at);
            yield $frame => array_values($values);
        }
    }

    /** @param array<int, float|int> $places three numbers a vertex */
    public static function extent(array $places, int $digits): string
    {
        $low = [INF, INF, INF];
        $high = [-INF, -INF, -INF];
        foreach ($places as $k => $at) {
            $low[$k % 3] = min($low[$k % 3], $at);
            $high[$k % 3] = max($high[$k % 3], $at);
        }

        return UsdText::vectors([...$low, ...$high], 3, $digits);
    }

    /** @param bool $sized whether there is a size */
    private static function order(bool $sized): string
    {
        return 'uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:orient"' . ($sized ? ', "xformOp:scale"' : '') . ']';
    }

    /** @param array<int, float> $turn x, y, z, w; USD says w first */
    private static function turn(array $turn): string
    {
        return UsdText::vector([$turn[3], $turn[0], $turn[1], $turn[2]], self::PARTS);
    }
}
