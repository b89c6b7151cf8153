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

    /** @return float focal length that sees so much from the lower to the upper edge, mm */
    public static function lensFor(float $radians, float $aspect): float
    {
        return self::WIDTH / (2.0 * $aspect * tan(0.5 * $radians));
    }

    /**
     * What a camera that is turned so looks along, and how it is leaned: {@see poseAt} back.
     *
     * @param array{float, float, float, float} $turn
     * @param float $near how it was leaned before, degrees
     *
     * @return array{array{float, float, float}, float} unit; degrees, clockwise
     */
    public static function aim(array $turn, float $near): array
    {
        $ahead = Quaternion::rotate($turn, [0.0, 0.0, -1.0]);
        $level = self::level(atan2(-$ahead[0], -$ahead[2]), atan2($ahead[1], hypot($ahead[0], $ahead[2])));
        $lean = Quaternion::multiply(Quaternion::conjugate($level), $turn);
        $roll = -rad2deg(2.0 * atan2($lean[2], $lean[3]));

        return [$ahead, $roll + 360.0 * round(($near - $roll) / 360.0)];
    }

    /**
     * @param float $yaw radians
     * @param float $pitch radians
     *
     * @return array{float, float, float, float} of a camera that is not leaned
     */
    private static function level(float $yaw, float $pitch): array
    {
        return Quaternion::multiply(Quaternion::aboutAxis([0.0, 1.0, 0.0], $yaw), Quaternion::aboutAxis([1.0, 0.0, 0.0], $pitch));
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
            self::level($yaw, $pitch),
            // Leaned clockwise, the camera turns the other way about the axis that comes towards the viewer.
            Quaternion::aboutAxis([0.0, 0.0, 1.0], -deg2rad($this->roll->at($frame))),
        );

        return [$px, $py, $pz, ...$turn];
    }
}
