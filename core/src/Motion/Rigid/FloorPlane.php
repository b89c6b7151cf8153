<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/** An endless plane that bodies rest on. */
final readonly class FloorPlane
{
    /**
     * @param array{float, float, float} $normal unit, towards what lies on it
     * @param float $distance of the plane from the origin along the normal, m
     */
    public function __construct(public array $normal, public float $distance, public float $friction, public float $restitution)
    {
    }
}
