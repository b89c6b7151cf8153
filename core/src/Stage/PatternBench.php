<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\ToneMap;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Math\Quaternion;

/** What patterns need beside their own settings: pictures, how the prop stands, its weight. */
final class PatternBench
{
    private const AXES = ['x' => 0, 'y' => 1, 'z' => 2];

    /**
     * @param array{float, float, float, float} $rotation of the prop at frame 1
     * @param (callable(int): WeightDensity)|null $finer finer where the prop's weight is high at a frame; null: it has none
     */
    public function __construct(private readonly Assets $assets, public readonly array $rotation = Quaternion::IDENTITY, private $finer = null)
    {
    }

    public static function axis(string $name): int
    {
        return self::AXES[$name] ?? 1;
    }

    /**
     * @param array{float, float, float} $axis
     *
     * @return array{float, float, float} upright if it has no length
     */
    public static function unit(array $axis): array
    {
        $length = sqrt($axis[0] ** 2 + $axis[1] ** 2 + $axis[2] ** 2);

        return $length > 1e-9 ? [$axis[0] / $length, $axis[1] / $length, $axis[2] / $length] : [0.0, 1.0, 0.0];
    }

    public function finer(int $frame): ?WeightDensity
    {
        return $this->finer === null ? null : ($this->finer)($frame);
    }

    /** @throws BadFile */
    public function tones(string $asset): ToneMap
    {
        return Tones::of($this->assets, $asset);
    }
}
