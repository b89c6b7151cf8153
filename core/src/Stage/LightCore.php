<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Transform;
use YardBreak\Core\Math\Quaternion;

/** What light pieces come off: one piece that goes where the keys say, and where its file has it if it plays that. */
final class LightCore implements KnownWay
{
    /** @var array{float, float} frames between which the step under way leads */
    private array $step = [1.0, 1.0];

    private float $now = 1.0;

    /**
     * @param array{float, float, float} $centre of it, in the prop's space
     * @param PlayedPieces|null $played null: it stands in that as it does at rest
     */
    public function __construct(private readonly Transform $transform, private readonly array $centre, private readonly ?PlayedPieces $played = null)
    {
    }

    /** A step begins. */
    public function setOut(float $from, float $to): void
    {
        $this->step = [$from, $to];
        $this->now = $from;
    }

    /** @param float $share of the step that has gone by */
    public function goOn(float $share): void
    {
        $this->now = $this->step[0] + $share * ($this->step[1] - $this->step[0]);
    }

    public function placesAt(float $frame): array
    {
        $rotation = $this->transform->rotationAt($frame);
        [$sx, $sy, $sz] = $scale = $this->transform->scaleAt($frame);
        [[$cx, $cy, $cz], $ride] = $this->played?->at($frame)[0] ?? [$this->centre, null];
        $turn = $ride === null ? $rotation : Quaternion::multiply($rotation, $ride);

        return [[...Quaternion::carried($this->transform->positionAt($frame), $rotation, [$sx * $cx, $sy * $cy, $sz * $cz]), ...$turn], $scale];
    }

    public function step(): array
    {
        return $this->step;
    }

    public function now(): float
    {
        return $this->now;
    }
}
