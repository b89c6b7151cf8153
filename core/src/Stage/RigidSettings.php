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
     * @param array{float, float, float} $velocity m/s, at the start
     * @param array{float, float, float} $spin rad/s, at the start
     */
    private function __construct(
        public bool $falls,
        public float $density,
        public float $friction,
        public float $restitution,
        public array $velocity,
        public array $spin,
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
            $settings->vector('velocity'),
            array_map(deg2rad(...), $settings->vector('angularVelocity')),
        );
    }
}
