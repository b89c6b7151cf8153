<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;

/** A light that is so far away that it falls everywhere the same way. It shines along its own -z, as lights of glTF and USD do. */
final readonly class Light
{
    /**
     * @param Animated $strength that of what faces it, as much as a matt white needs of it to be seen as white times pi
     * @param Animated $angle where it comes from seen from above, from z towards x, degrees
     * @param Animated $height above the ground, degrees
     * @param string $colour sRGB, as #rrggbb
     */
    private function __construct(private Animated $strength, private Animated $angle, private Animated $height, public string $colour)
    {
    }

    /** @throws BadDocument */
    public static function read(Settings $lights, string $name): self
    {
        return new self($lights->animated($name), $lights->animated("{$name}Angle"), $lights->animated("{$name}Height"), $lights->string("{$name}Colour"));
    }

    public function strengthAt(float $frame): float
    {
        return $this->strength->at($frame);
    }

    /** @return array{float, float, float, float} how it is turned at a frame */
    public function rotationAt(float $frame): array
    {
        return Quaternion::multiply(
            Quaternion::aboutAxis([0.0, 1.0, 0.0], deg2rad($this->angle->at($frame))),
            Quaternion::aboutAxis([1.0, 0.0, 0.0], -deg2rad($this->height->at($frame))),
        );
    }
}
