<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Mover;

use Closure;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Stage\ClothProp;
use YardBreak\Core\Stage\ClothSettings;
use YardBreak\Core\Stage\Kind\Carries;
use YardBreak\Core\Stage\Kind\MoverKind;
use YardBreak\Core\Stage\PlayedRest;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Stage\VertexMover;
use YardBreak\Core\Weight\Samples;

/** It goes where its file has it: as cloth does that never lets go, so that all that cloth meets meets it. */
final class AsInItsFile implements MoverKind, Carries
{
    public static function make(Shot $shot, array $props, array $broken, Surfaces $others): Mover
    {
        $h = VertexMover::substepOf($shot);
        $figures = [];
        foreach ($props as $k => $prop) {
            if ($others->moving($prop) === null) {
                throw new BreakFailed("{$prop->name} is to move as in its file, but plays none. Bring in a GLB in which it moves, and let it play that.");
            }
            $settings = $prop->mover->settings;
            $figures[] = new ClothProp($prop, ClothSettings::led($settings->float('friction'), $settings->float('gap')), $broken[$k], [], $h, $others, VertexMover::settling($shot));
        }

        return new VertexMover($shot, $props, $figures, $others);
    }

    public static function carrier(Prop $prop, Samples $at, Surfaces $others): Closure
    {
        $played = PlayedRest::of($prop, $at, [1.0, 1.0, 1.0], $others);

        return static function (float $frame) use ($prop, $at, $played): array {
            [$x, $y, $z] = $played?->at($frame) ?? [$at->x, $at->y, $at->z];
            $places = [];
            foreach ($x as $k => $along) {
                array_push($places, ...$prop->transform->carried([$along, $y[$k], $z[$k]], $frame));
            }

            return $places;
        };
    }
}
