<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Stage\Direction;
use YardBreak\Core\Stage\Kind\SoftEdge;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Stage\SurfaceSeats;
use YardBreak\Core\Weight\Edged;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** Full where the surface faces one way, as told by the place of the surface that is nearest. */
final class FacingAWay implements WeightKind
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): WeightSource
    {
        $direction = Direction::of($settings, 'direction');
        $inShot = $settings->string('space') === 'shot';
        $within = $settings->float('within');
        $seats = new SurfaceSeats($prop, $shape->others);
        $beyond = static function (Samples $at, float $frame) use ($direction, $inShot, $within, $prop, $seats): array {
            [$x, $y, $z] = $inShot ? Quaternion::rotate(Quaternion::conjugate($prop->transform->rotationAt($frame)), $direction) : $direction;

            return array_map(static fn (array $normal): float => rad2deg(acos(max(-1.0, min(1.0, $x * $normal[0] + $y * $normal[1] + $z * $normal[2])))) - $within, $seats->normals($at));
        };
        $sample = static fn (float $frame): array => $inShot ? $prop->transform->rotationAt($frame) : [];

        return new Edged($beyond, $settings->float('soft'), SoftEdge::of($settings), ['facing', $direction, $within, $inShot], $sample);
    }

    public static function check(Settings $settings, Prop $prop): void
    {
        Direction::check($settings, 'direction');
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return $settings->string('space') === 'shot' ? $prop->transform->inputs() : [];
    }
}
