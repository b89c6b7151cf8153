<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Polyline;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Stage\Direction;
use YardBreak\Core\Stage\Kind\HasOutline;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\Outline;
use YardBreak\Core\Stage\PatternBench;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\Sweep;

/** A front that travels along an axis, a direction, outward from a place, or along a line. */
final class FrontSweep implements WeightKind, HasOutline
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): Sweep
    {
        [$way, $length, $inputs] = match ($settings->string('axis')) {
            'direction' => self::along(Direction::of($settings, 'direction'), $shape),
            'outward' => self::outward($settings->vector('at'), $shape),
            'line' => self::line($settings->vectors('places')),
            default => self::straight(PatternBench::axis($settings->string('axis')), $shape),
        };
        $backwards = $settings->bool('backwards');
        $turned = $backwards ? static fn (Samples $at): array => array_map(static fn (float $far): float => $length - $far, $way($at)) : $way;

        return new Sweep(
            $turned,
            $length,
            $settings->float('from'),
            $settings->float('to'),
            $settings->string('ease'),
            $settings->float('softness'),
            [$settings->string('axis'), $inputs, $backwards],
        );
    }

    public static function check(Settings $settings, Prop $prop): void
    {
        if ($settings->int('to') < $settings->int('from')) {
            throw $settings->wrong('to', 'The front must not end before it starts. To turn it around, let it run backwards.');
        }
        if ($settings->string('axis') === 'direction') {
            Direction::check($settings, 'direction');
        }
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [];
    }

    /** @return array{Closure(Samples): list<float>, float, list<mixed>} way of each place, its length, what decides it */
    private static function straight(int $axis, PropShape $shape): array
    {
        [$low, $high] = [$shape->bounds()[0][$axis], $shape->bounds()[1][$axis]];

        return [static fn (Samples $at): array => array_map(static fn (float $place): float => $place - $low, [$at->x, $at->y, $at->z][$axis]), $high - $low, [$low]];
    }

    /**
     * @param array{float, float, float} $direction
     *
     * @return array{Closure(Samples): list<float>, float, list<mixed>}
     */
    private static function along(array $direction, PropShape $shape): array
    {
        [$low, $high] = Direction::extent($direction, $shape->bounds());

        return [static fn (Samples $at): array => array_map(static fn (float $place): float => $place - $low, Direction::along($direction, $at)), $high - $low, [$direction, $low]];
    }

    /**
     * To the farthest corner of the bounds.
     *
     * @param array{float, float, float} $place
     *
     * @return array{Closure(Samples): list<float>, float, list<mixed>}
     */
    private static function outward(array $place, PropShape $shape): array
    {
        [$px, $py, $pz] = $place;
        [$low, $high] = $shape->bounds();
        $length = sqrt(max($px - $low[0], $high[0] - $px) ** 2 + max($py - $low[1], $high[1] - $py) ** 2 + max($pz - $low[2], $high[2] - $pz) ** 2);

        return [static fn (Samples $at): array => array_map(static fn (float $x, float $y, float $z): float => sqrt(($x - $px) ** 2 + ($y - $py) ** 2 + ($z - $pz) ** 2), $at->x, $at->y, $at->z), $length, $place];
    }

    /**
     * Each place where the line is nearest to it.
     *
     * @param list<array{float, float, float}> $places
     *
     * @return array{Closure(Samples): list<float>, float, list<mixed>}
     */
    private static function line(array $places): array
    {
        $line = new Polyline($places);

        return [static fn (Samples $at): array => array_map($line->nearest(...), $at->x, $at->y, $at->z), $line->length(), $places];
    }

    public static function outlines(Settings $settings, Prop $prop, PropShape $shape, float $frame): array
    {
        if ($settings->string('axis') !== 'line') {
            return [self::front($settings, $prop, $shape, $frame)];
        }
        $places = $settings->vectors('places');

        return array_map(Outline::line(...), array_slice($places, 0, -1), array_slice($places, 1));
    }

    private static function front(Settings $settings, Prop $prop, PropShape $shape, float $frame): ?Outline
    {
        $sweep = self::make($settings, $prop, $shape);
        $front = $sweep->front($frame);
        if ($front <= 0.0 || $front >= $sweep->length + $settings->float('softness')) {
            return null;
        }
        $far = $settings->bool('backwards') ? $sweep->length - $front : $front;
        if ($settings->string('axis') === 'outward') {
            return $far <= 0.0 ? null : new Outline('ball', false, $settings->vector('at'), Quaternion::IDENTITY, [$far, $far, $far]);
        }
        $direction = match ($settings->string('axis')) {
            'x' => [1.0, 0.0, 0.0],
            'y' => [0.0, 1.0, 0.0],
            'z' => [0.0, 0.0, 1.0],
            default => Direction::of($settings, 'direction'),
        };
        [$low, $high] = $shape->bounds();
        $middle = [0.5 * ($low[0] + $high[0]), 0.5 * ($low[1] + $high[1]), 0.5 * ($low[2] + $high[2])];
        [$from] = Direction::extent($direction, $shape->bounds());
        $ahead = $from + $far - $direction[0] * $middle[0] - $direction[1] * $middle[1] - $direction[2] * $middle[2];
        $turn = Quaternion::between([0.0, 1.0, 0.0], $direction);
        // A little larger than the prop across it.
        $half = static function (float $x, float $z) use ($turn, $low, $high): float {
            [$x, $y, $z] = Quaternion::rotate($turn, [$x, 0.0, $z]);

            return 0.55 * (abs($x) * ($high[0] - $low[0]) + abs($y) * ($high[1] - $low[1]) + abs($z) * ($high[2] - $low[2]));
        };

        return new Outline('plane', false, [$middle[0] + $ahead * $direction[0], $middle[1] + $ahead * $direction[1], $middle[2] + $ahead * $direction[2]], $turn, [$half(1.0, 0.0), 0.0, $half(0.0, 1.0)]);
    }
}
