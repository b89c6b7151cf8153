<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\SmoothPath;

/** The path that a prop goes along: what is keyed is how far. */
final readonly class PropPath
{
    /** Turns that take the side of a prop that looks ahead to z. */
    private const AHEAD = ['z' => 0.0, 'x' => -90.0, '-z' => 180.0, '-x' => 90.0];

    /**
     * @param Animated $along percent of its length
     * @param string $turns how what goes along it is turned: not, level, wholly
     * @param string $ahead which side of it looks ahead
     */
    private function __construct(private SmoothPath $path, public Animated $along, private string $turns, private string $ahead, private Settings $settings)
    {
    }

    /**
     * @return self|null null: it goes along none
     *
     * @throws BadDocument
     */
    public static function read(Settings $settings): ?self
    {
        $places = $settings->vectors('places');
        if (! $settings->bool('on') || count($places) < 2) {
            return null;
        }

        return new self(new SmoothPath($places, $settings->bool('closed')), $settings->animated('along'), $settings->string('turns'), $settings->string('ahead'), $settings);
    }

    /** @return array{float, float, float} m */
    public function positionAt(float $frame): array
    {
        return $this->path->at($this->passed($frame));
    }

    /** @return array{float, float, float, float} */
    public function rotationAt(float $frame): array
    {
        if ($this->turns === 'not') {
            return [0.0, 0.0, 0.0, 1.0];
        }
        $passed = $this->passed($frame);
        if ($this->turns === 'wholly') {
            $turn = $this->path->turnAt($passed);
        } else {
            [$x, , $z] = $this->path->wayAt($passed);
            $turn = Quaternion::aboutAxis([0.0, 1.0, 0.0], atan2($x, $z));
        }

        return Quaternion::multiply($turn, Quaternion::fromDegrees(0.0, self::AHEAD[$this->ahead] ?? 0.0, 0.0));
    }

    /** m */
    public function length(): float
    {
        return $this->path->length();
    }

    /** @return list<array{float, float, float}> places along it, close enough to be drawn as a line */
    public function drawn(): array
    {
        return $this->path->drawn();
    }

    /** @return mixed all that decides it */
    public function inputs(): mixed
    {
        return [$this->settings->inForce(), $this->along->inputs()];
    }

    private function passed(float $frame): float
    {
        return 0.01 * $this->along->at($frame) * $this->path->length();
    }
}
