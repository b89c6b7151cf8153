<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use Closure;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Mix;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Stage\Arrival;
use YardBreak\Core\Stage\Kind\HasOutline;
use YardBreak\Core\Stage\Kind\SoftEdge;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\Nearness;
use YardBreak\Core\Stage\Outline;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\SettingOut;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Stage\SurfaceWays;
use YardBreak\Core\Stage\Weighing;
use YardBreak\Core\Weight\Edged;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** A front that grows over the surface from places, from where another weight has come half way, or from where other props touch. */
final class OverTheSurface implements WeightKind, HasOutline
{
    /** What sets out from a weight does so where the weight has come this far. */
    private const HALF = 0.5;

    public static function make(Settings $settings, Prop $prop, PropShape $shape): WeightSource
    {
        $places = $settings->string('begins') === 'places' ? $settings->vectors('places') : [];
        $slow = self::weight($settings, 'slowedBy', $prop, $shape);
        $slowness = $slow === null ? null : static fn (SurfaceWays $ways): array => array_map(
            static fn (float $weight): float => $weight >= 1.0 ? INF : 1.0 / (1.0 - max(0.0, $weight)),
            $slow->evaluate($ways->places(), 1.0),
        );
        // From places it sets out at way 0, whatever the speed; elsewhere as far on as the front is when it is set off.
        $inputs = [$places, self::inputs($settings, $prop, $shape->others), $places !== [] ? [] : $settings->inForce()];
        $way = self::way($settings, $prop, $shape, $places, $inputs, $slowness);
        $front = self::front($settings, $prop);
        $softness = $settings->float('softness');
        $beyond = static function (Samples $at, float $frame) use ($way, $front, $softness): array {
            // The soft edge lies before the front: where the front is nothing has been felt yet.
            $full = $front($frame) - $softness;

            return array_map(static fn (float $far): float => $far - $full, $way($at, $frame));
        };

        return new Edged($beyond, $softness, SoftEdge::of($settings), ['over the surface', $inputs], static fn (float $frame): array => [$front($frame)]);
    }

    /**
     * @param list<array{float, float, float}> $places from which it sets out
     * @param list<mixed> $inputs what decides the ways
     * @param (Closure(SurfaceWays): list<float>)|null $slowness
     *
     * @return Closure(Samples, float): list<float> ways to places, as far as they are known at a frame, m
     */
    private static function way(Settings $settings, Prop $prop, PropShape $shape, array $places, array $inputs, ?Closure $slowness): Closure
    {
        $coarse = $shape->until !== null;
        $depth = match ($settings->string('begins')) {
            'weight' => self::depths($settings, $prop, $shape),
            'touch' => self::touches($settings, $prop, $shape),
            default => null,
        };
        $front = self::front($settings, $prop);
        $seen = $shape->others->seen?->sightings;
        if ($depth !== null && $seen?->isLive() === true) {
            return self::unfolding($depth, $front, $prop, $shape, $slowness);
        }
        $last = min($prop->time->frames, $shape->until ?? PHP_INT_MAX, $seen?->last() ?? PHP_INT_MAX);
        $begins = static function (SurfaceWays $ways) use ($depth, $front, $last, $places): array {
            if ($depth !== null) {
                $begun = (new SettingOut($depth, $front, $ways->places()))->by($last);

                return [$begun, $begun];
            }
            $near = $places === [] ? [] : $ways->near($places);

            return [$near, array_fill_keys(array_keys($near), 0.0)];
        };
        $known = $ways = null;

        return static function (Samples $at) use ($prop, $shape, $inputs, $begins, $slowness, $coarse, $places, &$ways, &$known): array {
            $arrival = new Arrival($prop, $shape->others, $inputs, $begins, $slowness, $coarse);
            $ways ??= $coarse ? $arrival->run(new Progress()) : $shape->others->result($arrival);
            $known = ($known[0] ?? null) === $at ? $known : [$at, SurfaceWays::of($prop, $shape->others, $coarse)->reader($ways, $places, $slowness === null)($at)];

            return $known[1];
        };
    }

    /**
     * The same while it is not known yet what will set it off: each time more of it is, the ways are found anew.
     *
     * @param Closure(Samples, float): list<float> $depth
     * @param Closure(float): float $front
     * @param (Closure(SurfaceWays): list<float>)|null $slowness
     *
     * @return Closure(Samples, float): list<float>
     */
    private static function unfolding(Closure $depth, Closure $front, Prop $prop, PropShape $shape, ?Closure $slowness): Closure
    {
        $setting = $known = $slow = null;

        return static function (Samples $at, float $frame) use ($depth, $front, $prop, $shape, $slowness, &$setting, &$known, &$slow): array {
            $ways = SurfaceWays::of($prop, $shape->others);
            $setting ??= new SettingOut($depth, $front, $ways->places());
            $begun = $setting->by((int) floor($frame));
            if (($known[0] ?? null) !== $at || $known[1] !== count($begun)) {
                $slow ??= $slowness === null ? null : $slowness($ways);
                $known = [$at, count($begun), $begun === [] ? array_fill(0, count($at->x), INF) : $ways->reader($ways->march($begun, $begun, $slow), [], $slowness === null)($at)];
            }

            return $known[2];
        };
    }

    /** @return Closure(float): float how far a front has gone by a frame, m */
    private static function front(Settings $settings, Prop $prop): Closure
    {
        $speed = $settings->animated('speed');
        $from = $settings->string('begins') === 'places' ? $settings->float('from') : 1.0;

        return static fn (float $frame): float => $frame < $from ? -INF : $speed->travelled($from, $frame) / $prop->time->fps;
    }

    /** @return Closure(Samples, float): list<float> how far a weight is above half */
    private static function depths(Settings $settings, Prop $prop, PropShape $shape): Closure
    {
        $weight = self::weight($settings, 'weight', $prop, $shape);

        return static fn (Samples $at, float $frame): array => $weight === null ? array_fill(0, count($at->x), -1.0)
            : array_map(static fn (float $value): float => $value - self::HALF, $weight->evaluate($at, $frame));
    }

    /** @return Closure(Samples, float): list<float> how much nearer than needed other props are, m */
    private static function touches(Settings $settings, Prop $prop, PropShape $shape): Closure
    {
        $near = $settings->float('near');
        $things = Nearness::things($settings, $prop, $shape);

        return static function (Samples $at, float $frame) use ($near, $things): array {
            $depth = array_fill(0, count($at->x), -INF);
            foreach ($things as $distances) {
                // As far again, so that it is known how it came near.
                foreach ($distances($at, $frame, 2.0 * $near + 1e-6) as $k => $far) {
                    $depth[$k] = max($depth[$k], $near - $far);
                }
            }

            return array_values($depth);
        };
    }

    /** @throws BadDocument */
    private static function weight(Settings $settings, string $name, Prop $prop, PropShape $shape): ?WeightSource
    {
        $mix = $prop->weights[$settings->string($name)] ?? null;

        return $mix === null ? null : Weighing::made($mix, $prop, $shape);
    }

    public static function check(Settings $settings, Prop $prop): void
    {
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        $begins = $settings->string('begins');
        $mixes = array_map(static fn (string $name): ?Mix => $prop->weights[$settings->string($name)] ?? null, $begins === 'weight' ? ['slowedBy', 'weight'] : ['slowedBy']);

        return [
            array_map(static fn (?Mix $mix): array => $mix === null ? [] : Weighing::inputsOf($mix, $prop, $others), $mixes),
            $begins === 'touch' ? NearProps::inputs($settings, $prop, $others) : [],
            $prop->time->fps,
            $begins === 'places' ? 0 : $prop->time->frames,
        ];
    }

    /** Marks where it is picked to begin. */
    public static function outlines(Settings $settings, Prop $prop, PropShape $shape, float $frame): array
    {
        [$low, $high] = $shape->bounds();
        $size = 0.012 * max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);

        return $settings->string('begins') === 'places'
            ? array_map(static fn (array $place): Outline => new Outline('ball', false, $place, Quaternion::IDENTITY, [$size, $size, $size]), $settings->vectors('places'))
            : [];
    }
}
