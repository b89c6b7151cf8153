<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Camera;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\GlbFile;
use YardBreak\Core\Format\GlbNodes;
use YardBreak\Core\Format\GlbScene;
use YardBreak\Core\Math\FewKeys;
use YardBreak\Core\Math\Quaternion;

/**
 * How cameras and things move in a GLB file, as keys of a document: one number at each frame where a straight line to the next would
 * be too far off. The first key of the file stands at frame 1.
 *
 * @phpstan-type Keyed float|array{keys: list<array{frame: int, value: float, ease: string}>}
 * @phpstan-type Keys array<string, Keyed>
 * @phpstan-import-type Matrix from GlbNodes
 */
final readonly class FileMotion
{
    /** As many keys as a number may have, and as many frames as a shot. */
    private const KEYS = 500;

    private const FRAMES = 5000;

    /** How far off a line between two keys may be: as a share of the whole way, or so much, m or times; and degrees. */
    private const SHARE = 1e-4;

    private const LENGTH = 1e-5;

    private const ANGLE = 5e-3;

    /** How much a matrix may lean, as a share, and still be a turn and a size. */
    private const UPRIGHT = 1e-3;

    public function __construct(private GlbScene $scene)
    {
    }

    /** @return list<array{node: int, name: string, moves: bool}> cameras of the file that see in perspective */
    public function cameras(): array
    {
        $cameras = [];
        foreach ($this->scene->nodes->all() as $index => $node) {
            if ($this->opening($node) !== null) {
                $cameras[] = ['node' => $index, 'name' => $this->scene->nodes->name($index), 'moves' => $this->scene->nodes->moves($index)];
            }
        }

        return $cameras;
    }

    /** @return float|null width by height of a camera's picture; null: the file does not say */
    public function aspect(int $node): ?float
    {
        $aspect = GlbFile::number($this->lens($this->scene->nodes->all()[$node] ?? [])['aspectRatio'] ?? null);

        return $aspect > 0.0 ? $aspect : null;
    }

    /**
     * @param array<mixed> $node
     *
     * @return array<mixed> none: it has no camera that sees in perspective
     */
    private function lens(array $node): array
    {
        return GlbFile::list($this->scene->file->entry('cameras', GlbFile::int($node, 'camera', -1)), 'perspective');
    }

    /**
     * @param array<mixed> $node
     *
     * @return float|null from the lower to the upper edge of its picture, radians
     */
    private function opening(array $node): ?float
    {
        $angle = GlbFile::number($this->lens($node)['yfov'] ?? null);

        return $angle > 0.0 && $angle < M_PI ? $angle : null;
    }

    /**
     * @param int $node that has a camera
     * @param float $unit of the file, m
     * @param float $away how far from the camera the place is that it looks at, m
     * @param float $aspect width by height of the picture that it has here
     *
     * @return array{position: Keys, target: Keys, orbit: float, roll: Keyed, lens: float} of the shot's camera
     *
     * @throws BadFile if there is no such camera
     */
    public function camera(int $node, float $fps, float $unit, float $away, float $aspect): array
    {
        $angle = $this->opening($this->scene->nodes->all()[$node] ?? []);
        if ($angle === null) {
            throw new BadFile('The file has no such camera.');
        }
        $position = $target = [[], [], []];
        $rolls = [];
        $roll = 0.0;
        foreach ($this->places($fps) as $places) {
            $m = $places[$node];
            [$turn] = self::parted($m) ?? throw new BadFile('The camera “' . $this->scene->nodes->name($node) . '” is drawn out of shape. Export it without a size of its own.');
            $at = [$unit * $m[12], $unit * $m[13], $unit * $m[14]];
            [$ahead, $roll] = Camera::aim($turn, $roll);
            foreach ([0, 1, 2] as $axis) {
                $position[$axis][] = $at[$axis];
                $target[$axis][] = $at[$axis] + $away * $ahead[$axis];
            }
            $rolls[] = $roll;
        }
        $off = self::off([...$position, ...$target]);

        return [
            'position' => self::vector($position, $off),
            'target' => self::vector($target, $off),
            'orbit' => 0.0,
            'roll' => self::keyed($rolls, self::ANGLE),
            'lens' => round(Camera::lensFor($angle, $aspect), 3),
        ];
    }

    /**
     * Of what has the file's meshes, in the axes and about the origin that the prop has.
     *
     * @param array{float, float, float, float} $turn from the file's axes to the prop's
     * @param float $unit of the file, m
     * @param array{float, float, float} $origin of the prop, in its own axes, seen from the file's, m
     *
     * @return array{position: Keys, rotation: Keys, scale: Keys}
     *
     * @throws BadFile if nothing moves, or not as one
     */
    public function thing(float $fps, array $turn, float $unit, array $origin): array
    {
        $nodes = array_values(array_unique(array_column($this->scene->parts, 'node')));
        if (! $this->scene->moves()) {
            throw new BadFile('Nothing moves in the file: it has no keys for what has its mesh.');
        }
        $rest = array_map(fn (array $m): array => GlbNodes::inverse($m) ?? throw new BadFile('A part of the mesh has no size at rest.'), array_intersect_key($this->scene->nodes->places(null), array_flip($nodes)));
        $values = array_fill(0, 9, []);
        $degrees = [0.0, 0.0, 0.0];
        $axes = self::matrix($turn);
        $back = self::matrix(Quaternion::conjugate($turn));
        foreach ($this->places($fps) as $places) {
            $way = null;
            foreach ($nodes as $node) {
                $own = GlbNodes::multiply($places[$node], $rest[$node]);
                if ($this->scene->bends($node) || ($way !== null && ! self::alike($way, $own))) {
                    throw new BadFile('Parts of it move by themselves in the file, or it bends: that cannot be told by keys of the whole.');
                }
                $way = $own;
            }
            $m = GlbNodes::multiply(GlbNodes::multiply($axes, $way ?? $axes), $back);
            [$rotation, $scale] = self::parted($m) ?? throw new BadFile('It is drawn out of shape in the file, or gone: that cannot be told by its place, turn and size.');
            $degrees = Quaternion::degrees($rotation, $degrees);
            foreach ([0, 1, 2] as $axis) {
                $values[$axis][] = $unit * $m[12 + $axis] + $m[$axis] * $origin[0] + $m[4 + $axis] * $origin[1] + $m[8 + $axis] * $origin[2];
                $values[3 + $axis][] = $degrees[$axis];
                $values[6 + $axis][] = $scale[$axis];
            }
        }
        [$position, $rotation, $scale] = array_chunk($values, 3);

        return ['position' => self::vector($position, self::off($position)), 'rotation' => self::vector($rotation, self::ANGLE), 'scale' => self::vector($scale, self::off($scale))];
    }

    /** @return iterable<array<int, Matrix>> of all nodes, at each frame */
    private function places(float $fps): iterable
    {
        $nodes = $this->scene->nodes;
        $count = min(self::FRAMES, 1 + (int) ceil(($nodes->ends() - $nodes->begins()) * $fps - 1e-6));
        for ($k = 0; $k < max(1, $count); $k++) {
            yield $nodes->places($nodes->begins() + $k / $fps);
        }
    }

    /**
     * @param Matrix $a
     * @param Matrix $b
     */
    private static function alike(array $a, array $b): bool
    {
        foreach ($a as $k => $value) {
            if (abs($value - $b[$k]) > self::UPRIGHT * (1.0 + abs($value))) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param Matrix $m
     *
     * @return array{array{float, float, float, float}, array{float, float, float}}|null a turn after a size; null: it is more than that
     */
    private static function parted(array $m): ?array
    {
        $scale = [hypot(hypot($m[0], $m[1]), $m[2]), hypot(hypot($m[4], $m[5]), $m[6]), hypot(hypot($m[8], $m[9]), $m[10])];
        if (min($scale) < 1e-9) {
            return null;
        }
        $r = [];
        foreach ([0, 1, 2] as $row) {
            foreach ([0, 1, 2] as $column) {
                $r[] = $m[4 * $column + $row] / $scale[$column];
            }
        }
        [$a, $b, $c, $d, $e, $f, $g, $h, $i] = $r;
        $leans = max(abs($a * $b + $d * $e + $g * $h), abs($b * $c + $e * $f + $h * $i), abs($c * $a + $f * $d + $i * $g));
        $mirrored = $a * ($e * $i - $f * $h) + $b * ($f * $g - $d * $i) + $c * ($d * $h - $e * $g) < 0.0;

        return $leans > self::UPRIGHT || $mirrored ? null : [Quaternion::ofMatrix([$a, $b, $c, $d, $e, $f, $g, $h, $i]), $scale];
    }

    /**
     * @param array{float, float, float, float} $turn
     *
     * @return Matrix
     */
    private static function matrix(array $turn): array
    {
        $m = Quaternion::matrix($turn);

        return [$m[0], $m[3], $m[6], 0.0, $m[1], $m[4], $m[7], 0.0, $m[2], $m[5], $m[8], 0.0, 0.0, 0.0, 0.0, 1.0];
    }

    /**
     * How far off these may be: by the longest of their ways.
     *
     * @param non-empty-array<int, list<float>> $values
     */
    private static function off(array $values): float
    {
        return max(self::LENGTH, self::SHARE * max(array_map(static fn (array $each): float => $each === [] ? 0.0 : max($each) - min($each), $values)));
    }

    /**
     * @param array<int, list<float>> $values of x, y and z
     *
     * @return Keys
     */
    private static function vector(array $values, float $off): array
    {
        return ['x' => self::keyed($values[0], $off), 'y' => self::keyed($values[1], $off), 'z' => self::keyed($values[2], $off)];
    }

    /**
     * @param list<float> $values
     *
     * @return Keyed
     */
    private static function keyed(array $values, float $off): float|array
    {
        $kept = FewKeys::of($values, $off, self::KEYS);
        if (count($kept) < 2) {
            return self::rounded($values[0] ?? 0.0);
        }

        return ['keys' => array_map(static fn (int $k): array => ['frame' => $k + 1, 'value' => self::rounded($values[$k]), 'ease' => 'linear'], $kept)];
    }

    /** To what is far below anything that is seen, and can be read. */
    private static function rounded(float $value): float
    {
        return round($value, 6) + 0.0;
    }
}
