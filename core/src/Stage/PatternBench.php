<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\ToneMap;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\TriangleMesh;

/** What patterns need beside their own settings: pictures, how the prop stands, its weight. */
final class PatternBench
{
    private const AXES = ['x' => 0, 'y' => 1, 'z' => 2];

    /**
     * @param array{float, float, float, float} $rotation of the prop at frame 1
     * @param (callable(int): WeightDensity)|null $finer finer where the prop's weight is high at a frame; null: it has none
     * @param (callable(string): (array{string, Closure(): TriangleMesh}|null))|null $others another prop's mesh, and its hash
     */
    public function __construct(private readonly Assets $assets, public readonly array $rotation = Quaternion::IDENTITY, private $finer = null, private $others = null)
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

    /**
     * The mesh of another prop, as it was prepared.
     *
     * @return array{string, Closure(): TriangleMesh} hash and mesh
     *
     * @throws BreakFailed if there is none
     */
    public function other(string $id): array
    {
        return ($this->others === null ? null : ($this->others)($id)) ?? throw new BreakFailed($id === '' ? 'No prop is chosen that the bits look like.' : 'The prop that the bits look like is not in the shot any more. Choose another.');
    }
}
