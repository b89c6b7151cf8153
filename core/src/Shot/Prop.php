<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;

/** One thing in the shot. */
final readonly class Prop
{
    /**
     * @param list<Animated> $place x, y, z in metres
     * @param list<Animated> $turn about x, y, z in degrees
     * @param array{string, string, string} $colours outer, inner, sides
     * @param list<string> $layers colours of the layers along a rim, the innermost first
     */
    private function __construct(
        public string $id,
        public string $name,
        public Source $source,
        public array $place,
        public array $turn,
        public BreakSettings $break,
        public Timing $timing,
        public MotionSettings $motion,
        public array $colours,
        public array $layers,
    ) {
    }

    /** @throws BadDocument */
    public static function read(Fields $fields): self
    {
        $place = $turn = [];
        foreach (['x', 'y', 'z'] as $axis) {
            $place[] = $fields->at('place')->animated($axis);
            $turn[] = $fields->at('turn')->animated($axis);
        }

        return new self(
            $fields->string('id'),
            $fields->string('name'),
            Source::read($fields->at('source')),
            $place,
            $turn,
            BreakSettings::read($fields->at('break')),
            Timing::read($fields->at('timing')),
            MotionSettings::read($fields->at('motion')),
            [$fields->at('look')->string('outer'), $fields->at('look')->string('inner'), $fields->at('look')->string('side')],
            array_map(static fn (int $k): string => $fields->at('look')->string("layer{$k}"), [1, 2, 3, 4]),
        );
    }

    /** @return array{float, float, float} */
    public function placeAt(float $frame): array
    {
        return [$this->place[0]->at($frame), $this->place[1]->at($frame), $this->place[2]->at($frame)];
    }

    /** @return array{float, float, float, float} */
    public function turnAt(float $frame): array
    {
        return Quaternion::fromDegrees($this->turn[0]->at($frame), $this->turn[1]->at($frame), $this->turn[2]->at($frame));
    }

    public function isKeyed(): bool
    {
        foreach ([...$this->place, ...$this->turn] as $value) {
            if (! $value->isConstant()) {
                return true;
            }
        }

        return false;
    }
}
