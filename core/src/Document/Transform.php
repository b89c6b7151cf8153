<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;

/** Where a prop stands over time, and how large: scaled along its own axes, turned about the fixed axes x, y, z, then moved. */
final readonly class Transform
{
    /**
     * @param list<Animated> $position m
     * @param list<Animated> $rotation degrees
     * @param list<Animated> $scale
     */
    private function __construct(private array $position, private array $rotation, private array $scale)
    {
    }

    /** @throws BadDocument */
    public static function read(Settings $settings): self
    {
        $read = static fn (string $name): array => array_map($settings->at($name)->animated(...), ['x', 'y', 'z']);

        return new self($read('position'), $read('rotation'), $read('scale'));
    }

    /** @return array{float, float, float} */
    public function positionAt(float $frame): array
    {
        return [$this->position[0]->at($frame), $this->position[1]->at($frame), $this->position[2]->at($frame)];
    }

    /** @return array{float, float, float, float} */
    public function rotationAt(float $frame): array
    {
        return Quaternion::fromDegrees($this->rotation[0]->at($frame), $this->rotation[1]->at($frame), $this->rotation[2]->at($frame));
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

    public function isKeyed(): bool
    {
        foreach ([...$this->position, ...$this->rotation, ...$this->scale] as $value) {
            if (! $value->isConstant()) {
                return true;
            }
        }

        return false;
    }

    /** @return list<float> frames at which any of its numbers has a key */
    public function frames(): array
    {
        return array_values(array_unique(array_merge(...array_map(static fn (Animated $value): array => $value->isConstant() ? [] : $value->frames(), [...$this->position, ...$this->rotation, ...$this->scale]))));
    }

    /** @return list<mixed> all that decides it */
    public function inputs(): array
    {
        return array_map(static fn (Animated $value): array => $value->inputs(), [...$this->position, ...$this->rotation, ...$this->scale]);
    }
}
