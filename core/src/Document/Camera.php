<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;

/** The camera of the shot. It looks along its own -z, with its own y up, as cameras of glTF do. */
final readonly class Camera
{
    /** Width of the picture that focal lengths are told for, mm. */
    private const WIDTH = 36.0;

    /**
     * @param list<Animated> $position x, y and z, m
     * @param list<Animated> $target what it looks at, m
     * @param Animated $orbit how far it has gone round its target, anticlockwise seen from above, degrees
     * @param Animated $roll clockwise, degrees
     * @param Animated $lens focal length, mm
     * @param float $aspect width by height
     */
    private function __construct(private array $position, private array $target, private Animated $orbit, private Animated $roll, private Animated $lens, public float $aspect)
    {
    }

    /**
     * @return self|null null: the shot has none
     *
     * @throws BadDocument
     */
    public static function read(Settings $settings): ?self
    {
        if (! $settings->bool('on')) {
            return null;
        }
        $axes = static fn (Settings $vector): array => array_map($vector->animated(...), ['x', 'y', 'z']);
        [$width, $height] = array_map(floatval(...), explode(':', $settings->string('aspect')) + [1 => '1']);

        return new self($axes($settings->at('position')), $axes($settings->at('target')), $settings->animated('orbit'), $settings->animated('roll'), $settings->animated('lens'), $width / $height);
    }

    /** From the lower to the upper edge of its picture at a frame, radians. */
    public function heightAt(float $frame): float
    {
        return 2.0 * atan(self::WIDTH / (2.0 * $this->lens->at($frame) * $this->aspect));
    }

    /** @return array{float, float, float, float, float, float, float} place and turn at a frame */
    public function poseAt(float $frame): array
    {
        [$px, $py, $pz] = array_map(static fn (Animated $value): float => $value->at($frame), $this->position);
        [$tx, $ty, $tz] = array_map(static fn (Animated $value): float => $value->at($frame), $this->target);
        $round = deg2rad($this->orbit->at($frame));
        [$dx, $dz] = [$px - $tx, $pz - $tz];
        $px = $tx + $dx * cos($round) + $dz * sin($round);
        $pz = $tz + $dz * cos($round) - $dx * sin($round);
        $yaw = atan2($px - $tx, $pz - $tz);
        $pitch = atan2($ty - $py, hypot($tx - $px, $tz - $pz));
        $turn = Quaternion::multiply(
            Quaternion::multiply(Quaternion::aboutAxis([0.0, 1.0, 0.0], $yaw), Quaternion::aboutAxis([1.0, 0.0, 0.0], $pitch)),
            // Leaned clockwise, the camera turns the other way about the axis that comes towards the viewer.
            Quaternion::aboutAxis([0.0, 0.0, 1.0], -deg2rad($this->roll->at($frame))),
        );

        return [$px, $py, $pz, ...$turn];
    }
}
