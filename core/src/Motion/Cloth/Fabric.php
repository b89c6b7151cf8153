<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/** What a cloth is made of. */
final readonly class Fabric
{
    /** What a fabric gives is said under a pull of so many newtons for each metre of width. */
    public const PULL = 100.0;

    /** A flat plate across the wind (Hoerner 1965, Fluid-Dynamic Drag; from memory). */
    private const PLATE = 1.17;

    /** kg/m3 (ISO 2533). */
    private const AIR = 1.225;

    /**
     * @param float $mass kg/m2
     * @param float $stretch pull of a strip along its threads, N for each metre of width and each time it doubles
     * @param float $shear the same across the threads' diagonal, as a share of it, 0 to 1
     * @param float $bend flexural rigidity, N m2 for each metre of width
     * @param float $damping 1/s
     * @param float $drag of the air, as a share of a flat plate's
     * @param float $friction Coulomb
     * @param float $gap distance that is kept from other surfaces, m
     * @param bool $feelsItself whether it lies on itself, or passes through
     */
    public function __construct(
        public float $mass,
        public float $stretch,
        public float $shear,
        public float $bend,
        public float $damping,
        public float $drag,
        public float $friction,
        public float $gap,
        public bool $feelsItself = false,
    ) {
    }

    /**
     * The rigidity of a cloth that droops by 41.5 degrees where so much of it hangs over an edge (Peirce 1930, ASTM D1388:
     * the bending length is half the overhang, and its cube times the weight is the rigidity).
     *
     * @param float $mass kg/m2
     * @param float $overhang m
     *
     * @return float N m2 for each metre of width
     */
    public static function rigidity(float $mass, float $overhang): float
    {
        return 9.80665 * $mass * (0.5 * $overhang) ** 3;
    }

    /** How much longer than at rest an edge may be at the end of a frame, as a share. */
    public function limit(): float
    {
        return max(ClothTuning::LIMIT, ClothTuning::LIMIT_GIVES * self::PULL / $this->stretch);
    }

    /** Share of the squared speed through the air that is lost in a metre across it, 1/m. */
    public function airResistance(): float
    {
        return 0.5 * self::AIR * self::PLATE * $this->drag / $this->mass;
    }
}
