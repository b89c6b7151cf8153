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
        $v = $fields->at('velocity');
        $s = $fields->at('spin');

        return new self(
            $fields->string('before') === 'falls',
            $fields->float('density'),
            $fields->float('friction'),
            $fields->float('bounce'),
            [$v->float('x'), $v->float('y'), $v->float('z')],
            [deg2rad($s->float('x')), deg2rad($s->float('y')), deg2rad($s->float('z'))],
        );
    }
}
