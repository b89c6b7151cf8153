<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use YardBreak\Core\Math\Quaternion;

/** An endless floor, level or tilted. */
final readonly class Plane
{
    /**
     * @param array{float, float, float} $normal unit, away from what lies on it
     * @param float $scatter how far what hits it is sent another way at most, radians
     */
    private function __construct(
        public string $id,
        public string $name,
        public float $height,
        public array $normal,
        public float $friction,
        public float $restitution,
        public float $scatter,
        public int $scatterSeed,
    ) {
    }

    /** @return self|null null: it is switched off */
    public static function read(Settings $settings): ?self
    {
        $tilt = $settings->at('tilt');

        return $settings->bool('on') ? new self(
            $settings->string('id'),
            $settings->string('name'),
            $settings->float('height'),
            Quaternion::rotate(Quaternion::fromDegrees($tilt->float('x'), 0.0, $tilt->float('z')), [0.0, 1.0, 0.0]),
            $settings->float('friction'),
            $settings->float('restitution'),
            deg2rad($settings->float('scatter')),
            $settings->int('scatterSeed'),
        ) : null;
    }

    /** @return list<mixed> all of it that acts */
    public function inputs(): array
    {
        return [$this->height, $this->normal, $this->friction, $this->restitution, ...$this->scatter > 0.0 ? [$this->scatter, $this->scatterSeed] : []];
    }

    /** How high a point is above it, m; negative: below. */
    public function above(float $x, float $y, float $z): float
    {
        return $this->normal[0] * $x + $this->normal[1] * ($y - $this->height) + $this->normal[2] * $z;
    }
}
