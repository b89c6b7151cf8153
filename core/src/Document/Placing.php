<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use YardBreak\Core\Math\Quaternion;

/** Where the result stands as a whole: made larger, turned about the origin, then moved, after everything has been computed. */
final readonly class Placing
{
    /**
     * @param array{float, float, float} $position m
     * @param array{float, float, float, float} $rotation
     */
    private function __construct(public array $position, public array $rotation, public float $scale)
    {
    }

    /**
     * @return self|null null: it stands where it was computed
     *
     * @throws BadDocument
     */
    public static function read(Settings $settings): ?self
    {
        if (! $settings->bool('on')) {
            return null;
        }
        $rotation = $settings->at('rotation');

        return new self(
            $settings->vector('position'),
            Quaternion::fromDegrees($rotation->float('x'), $rotation->float('y'), $rotation->float('z')),
            $settings->float('scale'),
        );
    }
}
