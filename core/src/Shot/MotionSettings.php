<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** What a prop's pieces are like; see the schema for each field. Spin in radians a second. */
final readonly class MotionSettings
{
    /**
     * @param array{float, float, float} $velocity
     * @param array{float, float, float} $spin
     */
    private function __construct(
        public bool $falls,
        public float $density,
        public float $friction,
        public float $bounce,
        public array $velocity,
        public array $spin,
    ) {
    }

    public static function read(Fields $fields): self
    {
        return new self(
            $fields->string('before') === 'falls',
            $fields->float('density'),
            $fields->float('friction'),
            $fields->float('bounce'),
            $fields->at('velocity')->vector(),
            array_map(deg2rad(...), $fields->at('spin')->vector()),
        );
    }
}
