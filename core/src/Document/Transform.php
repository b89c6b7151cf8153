<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;

/**
 * Where a prop stands over time, and how large: scaled along its own axes, turned about the fixed axes x, y, z, then moved; all of it
 * carried along its path if it has one.
 */
final readonly class Transform
{
    /**
     * @param list<Animated> $position m
     * @param list<Animated> $rotation degrees
     * @param list<Animated> $scale
     * @param PropPath|null $path null: it has none, or none that leads anywhere
     * @param bool $hasPath whether one is asked for
     */
    private function __construct(private array $position, private array $rotation, private array $scale, public ?PropPath $path, public bool $hasPath)
    {
    }

    /** @throws BadDocument */
    public static function read(Settings $settings): self
    {
        $read = static fn (string $name): array => array_map($settings->at($name)->animated(...), ['x', 'y', 'z']);

        return new self($read('position'), $read('rotation'), $read('scale'), PropPath::read($settings->at('path')), $settings->at('path')->bool('on'));
    }

    /** @return array{float, float, float} */
    public function positionAt(float $frame): array
    {
        $own = [$this->position[0]->at($frame), $this->position[1]->at($frame), $this->position[2]->at($frame)];

        return $this->path === null ? $own : Quaternion::carried($this->path->positionAt($frame), $this->path->rotationAt($frame), $own);
    }

    /** @return array{float, float, float, float} */
    public function rotationAt(float $frame): array
    {
        $own = Quaternion::fromDegrees($this->rotation[0]->at($frame), $this->rotation[1]->at($frame), $this->rotation[2]->at($frame));

        return $this->path === null ? $own : Quaternion::multiply($this->path->rotationAt($frame), $own);
    }

    /** @return array{float, float, float} along the prop's own axes */
    public function scaleAt(float $frame): array
    {
        return [$this->scale[0]->at($frame), $this->scale[1]->at($frame), $this->scale[2]->at($frame)];
    }

    /**
     * Where a place of the prop is in the world.
     *
     * @param array{float, float, float} $point in the prop's own axes, before it is scaled
     *
     * @return array{float, float, float}
     */
    public function carried(array $point, float $frame): array
    {
        [$sx, $sy, $sz] = $this->scaleAt($frame);

        return Quaternion::carried($this->positionAt($frame), $this->rotationAt($frame), [$sx * $point[0], $sy * $point[1], $sz * $point[2]]);
    }

    /** Whether it is ever of another size than it was made. */
    public function isScaled(): bool
    {
        foreach ($this->scale as $value) {
            if (! $value->isConstant() || $value->at(1.0) !== 1.0) {
                return true;
            }
        }

        return false;
    }

    /** @return list<float> frames at which its size has a key, in order; none: it stays as large as it is */
    public function sizeFrames(): array
    {
        $frames = array_unique(array_merge(...array_map(static fn (Animated $value): array => $value->isConstant() ? [] : $value->frames(), $this->scale)));
        sort($frames);

        return $frames;
    }

    public function isKeyed(): bool
    {
        foreach ($this->numbers() as $value) {
            if (! $value->isConstant()) {
                return true;
            }
        }

        return false;
    }

    /** @return list<float> frames at which any of its numbers has a key */
    public function frames(): array
    {
        return array_values(array_unique(array_merge(...array_map(static fn (Animated $value): array => $value->isConstant() ? [] : $value->frames(), $this->numbers()))));
    }

    /** @return list<mixed> all that decides it */
    public function inputs(): array
    {
        $path = $this->path === null ? [] : [$this->path->inputs()];

        return [...array_map(static fn (Animated $value): array => $value->inputs(), $this->numbers()), ...$path];
    }

    /** @return list<Animated> all that can be keyed */
    private function numbers(): array
    {
        return [...$this->position, ...$this->rotation, ...$this->scale, ...$this->path === null ? [] : [$this->path->along]];
    }
}
