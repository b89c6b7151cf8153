<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Soft;

/** What a soft body is made of. */
final readonly class Matter
{
    /**
     * @param float $density kg/m3
     * @param float $young Young's modulus, Pa
     * @param float $poisson Poisson's ratio, 0 to below 0.5: how far it gets thinner as it is drawn out
     * @param float $damping 1/s
     * @param float $drag of the air, as a share of a flat plate's
     * @param float $friction Coulomb
     * @param float $gap distance that is kept from other surfaces, m
     * @param bool $feelsItself whether its parts push each other, or pass through
     */
    public function __construct(
        public float $density,
        public float $young,
        public float $poisson,
        public float $damping,
        public float $drag,
        public float $friction,
        public float $gap,
        public bool $feelsItself,
    ) {
    }

    /** Lamé's second parameter, the shear modulus, as a share of Young's modulus. */
    public function shear(): float
    {
        return 0.5 / (1.0 + $this->poisson);
    }

    /** Lamé's first parameter, as a share of Young's modulus. */
    public function lame(): float
    {
        return $this->poisson / ((1.0 + $this->poisson) * (1.0 - 2.0 * $this->poisson));
    }
}
