<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;

/** What a prop's hard pieces are like. */
final readonly class RigidSettings
{
    /**
     * @param bool $falls whether it falls whole from the first frame on
     * @param float $density kg/m3
     * @param string $shape what its pieces are felt as: parts, hull or ball
     * @param float $ball radius of that, in parts of how far a piece reaches
     * @param float $siblings how far its pieces must move from where they were in each other before they feel each other, m
     * @param float $glue Pa; 0: none
     * @param float $glueVariety share by which bonds are stronger or weaker
     * @param bool $glueByWeight whether it is weaker where the weight is
     * @param array{float, float, float} $velocity m/s, at the start
     * @param array{float, float, float} $spin rad/s, at the start
     * @param float $anySpin rad/s, what a piece turns besides at most as it lets go
     */
    private function __construct(
        public bool $falls,
        public float $density,
        public float $friction,
        public float $restitution,
        public string $shape,
        public float $ball,
        public float $siblings,
        public float $glue,
        public float $glueVariety,
        public int $glueSeed,
        public bool $glueByWeight,
        public array $velocity,
        public array $spin,
        public float $anySpin,
        public int $startSeed,
    ) {
    }

    public static function of(Prop $prop): self
    {
        $settings = $prop->mover->settings;

        return new self(
            $settings->string('before') === 'falls',
            $settings->float('density'),
            $settings->float('friction'),
            $settings->float('restitution'),
            $settings->string('shape'),
            0.01 * $settings->float('ballSize'),
            0.01 * $settings->float('siblings'),
            1e6 * $settings->float('glue'),
            $settings->float('glueVariety'),
            $settings->int('glueSeed'),
            $settings->bool('glueByWeight'),
            $settings->vector('velocity'),
            array_map(deg2rad(...), $settings->vector('angularVelocity')),
            deg2rad($settings->float('anySpin')),
            $settings->int('startSeed'),
        );
    }
}
