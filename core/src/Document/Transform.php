<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;

/** Where a prop stands over time: turned about the fixed axes x, y, z, then moved. */
final readonly class Transform
{
    /**
     * @param list<Animated> $position m
     * @param list<Animated> $rotation degrees
     */
    private function __construct(private array $position, private array $rotation)
    {
    }

    /** @throws BadDocument */
    public static function read(Settings $settings): self
    {
        $read = static fn (string $name): array => array_map($settings->at($name)->animated(...), ['x', 'y', 'z']);

        return new self($read('position'), $read('rotation'));
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

    public function isKeyed(): bool
    {
        foreach ([...$this->position, ...$this->rotation] as $value) {
            if (! $value->isConstant()) {
                return true;
            }
        }

        return false;
    }

    /** @return list<list<array{float, float, string}>> of each of the six numbers */
    public function keys(): array
    {
        return array_map(static fn (Animated $value): array => $value->keys(), [...$this->position, ...$this->rotation]);
    }
}
