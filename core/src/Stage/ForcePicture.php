<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Pushes;

/** Forces as they can be drawn: which way and how hard they act at places all over the shot, at a frame. */
final class ForcePicture
{
    /** Places along the longest side of the shot. */
    private const ALONG = 9;

    /** Beyond the props on each side, as a share of the longest side. */
    private const BEYOND = 0.25;

    /**
     * @param list<ForceField> $fields
     *
     * @return array{apart: float, most: float, air: bool, places: list<float>, ways: list<float>} m between places; the largest
     *                                                                                           acceleration (m/s2) or velocity of the air (m/s); three numbers a place
     */
    public static function of(Shot $shot, array $fields, Pipeline $pipeline, float $frame): array
    {
        [$low, $high] = self::bounds($shot, $pipeline, $frame);
        $size = max(0.1, $high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);
        $apart = $size * (1.0 + 2.0 * self::BEYOND) / (self::ALONG - 1);
        $axes = [];
        foreach ([0, 1, 2] as $axis) {
            $middle = 0.5 * ($low[$axis] + $high[$axis]);
            $count = max(3, (int) round(($high[$axis] - $low[$axis] + 2.0 * self::BEYOND * $size) / $apart) + 1);
            $axes[] = array_map(static fn (int $k): float => $middle + ($k - 0.5 * ($count - 1)) * $apart, range(0, $count - 1));
        }
        $x = $y = $z = [];
        foreach ($axes[0] as $px) {
            foreach ($axes[1] as $py) {
                foreach ($axes[2] as $pz) {
                    $x[] = $px;
                    $y[] = $py;
                    $z[] = $pz;
                }
            }
        }
        $ways = $places = [];
        $most = 0.0;
        foreach (self::ways($fields, $x, $y, $z, $frame, $shot->fps) as $i => $way) {
            array_push($places, $x[$i], $y[$i], $z[$i]);
            array_push($ways, ...$way);
            $most = max($most, sqrt($way[0] ** 2 + $way[1] ** 2 + $way[2] ** 2));
        }

        return ['apart' => $apart, 'most' => $most, 'air' => self::moveAir($fields), 'places' => $places, 'ways' => $ways];
    }

    /**
     * @param list<ForceField> $fields
     * @param array{float, float, float} $place in the world, m
     *
     * @return array{float, float, float} m/s2; of the air m/s
     */
    public static function at(Shot $shot, array $fields, float $frame, array $place): array
    {
        return self::ways($fields, [$place[0]], [$place[1]], [$place[2]], $frame, $shot->fps)[0];
    }

    /**
     * @param list<ForceField> $fields
     * @param non-empty-list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     *
     * @return non-empty-list<array{float, float, float}>
     */
    private static function ways(array $fields, array $x, array $y, array $z, float $frame, float $fps): array
    {
        $pushes = new Pushes(count($x));
        // What lasts less than a frame is seen in the frame in which it acts.
        foreach ($fields as $field) {
            $field->act($x, $y, $z, $frame, 1.0 / $fps, $pushes);
        }
        [$u, $v, $w] = self::moveAir($fields) ? [$pushes->u, $pushes->v, $pushes->w] : [$pushes->ax, $pushes->ay, $pushes->az];

        return array_map(static fn (int $i): array => [$u[$i], $v[$i], $w[$i]], array_keys($x));
    }

    /**
     * Whether that is all they do: else what the air does is told apart.
     *
     * @param list<ForceField> $fields
     */
    private static function moveAir(array $fields): bool
    {
        return $fields !== [] && array_filter($fields, static fn (ForceField $field): bool => ! $field->movesAir()) === [];
    }

    /** @return array{array{float, float, float}, array{float, float, float}} of all props where their keys put them, and of the floor below them */
    private static function bounds(Shot $shot, Pipeline $pipeline, float $frame): array
    {
        $low = [INF, INF, INF];
        $high = [-INF, -INF, -INF];
        foreach ($shot->props as $prop) {
            [$from, $to] = $pipeline->prepared($prop)->bounds();
            foreach ([$from[0], $to[0]] as $x) {
                foreach ([$from[1], $to[1]] as $y) {
                    foreach ([$from[2], $to[2]] as $z) {
                        foreach ($prop->transform->carried([$x, $y, $z], $frame) as $axis => $value) {
                            $low[$axis] = min($low[$axis], $value);
                            $high[$axis] = max($high[$axis], $value);
                        }
                    }
                }
            }
        }

        return $shot->props === [] ? [[-1.0, 0.0, -1.0], [1.0, 2.0, 1.0]] : [[$low[0], min($low[1], 0.0), $low[2]], [$high[0], $high[1], $high[2]]];
    }
}
