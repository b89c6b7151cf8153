<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\Cloth\Fabric;

/** What a prop is like that is cloth. */
final readonly class ClothSettings
{
    /**
     * @param bool $led whether all of it goes where it is led, and never lets go
     * @param Animated $growth share by which it grows where the weight is full, %
     * @param Animated $pressure Pa
     * @param array{float, float, float}|null $grain the way along or across which alone it grows, unit; null: every way
     * @param bool $across whether it grows across that way
     * @param array{Animated, float}|null $filling volume that it keeps, %, and with how much it pushes at most, Pa; null: none
     * @param float $tears stretch at which seams open, as a share; 0: they do not
     * @param float $weaker how much of that is left out where the weight is full
     */
    private function __construct(
        public Fabric $fabric,
        public bool $led,
        public Animated $growth,
        public Animated $pressure,
        public ?array $grain = null,
        public bool $across = false,
        public ?array $filling = null,
        public float $tears = 0.0,
        public float $weaker = 0.0,
    ) {
    }

    public static function read(Settings $settings): self
    {
        $mass = 0.001 * $settings->float('mass');

        return new self(
            new Fabric(
                $mass,
                Fabric::PULL / (0.01 * $settings->float('stretch')),
                $settings->float('shear'),
                Fabric::rigidity($mass, $settings->float('overhang')),
                $settings->float('damping'),
                $settings->float('drag'),
                $settings->float('friction'),
                $settings->float('gap'),
                $settings->bool('feelsItself'),
            ),
            false,
            $settings->animated('growth'),
            $settings->animated('pressure'),
            $settings->string('grows') === 'all' ? null : Vector::unit($settings->vector('grain')),
            $settings->string('grows') === 'across',
            $settings->bool('keepsVolume') ? [$settings->animated('volume'), $settings->float('volumePush')] : null,
            0.01 * $settings->float('tears'),
            0.01 * $settings->float('weaker'),
        );
    }

    /** Of what only goes where it is led: all that matters is how others slide on it, and how near they come. */
    public static function led(float $friction, float $gap): self
    {
        return new self(new Fabric(0.2, Fabric::PULL / 0.005, 0.3, Fabric::rigidity(0.2, 0.05), 0.5, 0.0, $friction, $gap, false), true, Animated::constant(0.0), Animated::constant(0.0));
    }
}
