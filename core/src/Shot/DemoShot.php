<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** The Tidemill demo: *Jar off the sill*. A clay grain jar tips off the mill's window sill and breaks on the stone floor. */
final class DemoShot
{
    public const NAME = 'Jar off the sill';

    /** @return array<mixed> */
    public static function document(): array
    {
        return [
            'version' => 1,
            'fps' => 24,
            'frames' => 96,
            'floor' => ['friction' => 0.75, 'bounce' => 0.05],
            'cues' => [['id' => 'tip', 'name' => 'Tips', 'frame' => 1], ['id' => 'hit', 'name' => 'Hits the floor', 'frame' => 24]],
            'props' => [
                [
                    'id' => 'jar',
                    'name' => 'Clay jar',
                    'source' => ['kind' => 'jar', 'height' => 0.42, 'wall' => 0.011],
                    'place' => ['x' => 0.125, 'y' => 0.9, 'z' => 0.0],
                    'break' => ['pattern' => 'cellular', 'pieces' => 60, 'seed' => 7, 'evenness' => 0.25, 'prefix' => 'shard'],
                    'timing' => ['release' => 'contact', 'contactSpeed' => 1.5],
                    'motion' => [
                        'before' => 'falls', 'density' => 1900, 'friction' => 0.6, 'bounce' => 0.08,
                        'velocity' => ['x' => 0.25, 'y' => 0, 'z' => 0.03], 'spin' => ['x' => 4, 'y' => 10, 'z' => -75],
                    ],
                    'look' => ['outer' => '#b9793f', 'inner' => '#c4532b'],
                ],
                [
                    'id' => 'sill',
                    'name' => 'Oak sill',
                    'source' => ['kind' => 'box', 'width' => 0.5, 'height' => 0.08, 'depth' => 0.7, 'divisions' => 1],
                    'place' => ['x' => -0.1, 'y' => 0.86, 'z' => 0.0],
                    'break' => ['pattern' => 'whole'],
                    'timing' => ['release' => 'never'],
                    'motion' => ['before' => 'held', 'density' => 700, 'friction' => 0.5, 'bounce' => 0.05],
                    'look' => ['outer' => '#a08a6a', 'inner' => '#a08a6a'],
                ],
            ],
        ];
    }
}
