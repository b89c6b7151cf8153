<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use YardBreak\Core\Motion\Scatter;

/** An endless plane that bodies rest on. */
final readonly class FloorPlane
{
    /**
     * @param array{float, float, float} $normal unit, towards what lies on it
     * @param float $distance of the plane from the origin along the normal, m
     * @param Scatter|null $scatter how rough it is; null: smooth
     */
    public function __construct(public array $normal, public float $distance, public float $friction, public float $restitution, public ?Scatter $scatter = null)
    {
    }
}
