<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use Closure;
use YardBreak\Core\Break\ToneMap;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Falloff;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PatternBench;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Stage\SurfaceSeats;
use YardBreak\Core\Weight\Edged;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\Sweep;
use YardBreak\Core\Weight\WeightSource;

/** A picture, or numbered ones, laid over a side of the prop and straight through it, or on its surface: its tones are the weight, or say in which order it comes. */
final class FromAPicture implements WeightKind
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): ?WeightSource
    {
        $places = self::places($settings, $prop, $shape);
        if ($places === null) {
            return null;
        }
        $inputs = ['picture', $settings->string('lies'), $settings->string('facing'), $settings->bool('dark')];
        if ($settings->string('moves') === 'numbered') {
            return self::numbered($settings, $shape, $places, $inputs);
        }
        $asset = $settings->at('picture')->string('asset');
        if ($asset === '') {
            return null;
        }
        $inputs[] = $asset;
        $dark = $settings->bool('dark');
        $late = static fn (Samples $at): array => self::late($shape->others->tones($asset), $places($at), $dark);

        return $settings->string('tells') === 'order'
            ? new Sweep($late, 1.0, $settings->float('from'), $settings->float('to'), 'linear', $settings->float('blend'), $inputs)
            : new Edged($late, 1.0, Falloff::of('linear'), $inputs);
    }

    /**
     * @param Closure(Samples): list<array{float, float}> $places
     * @param list<mixed> $inputs
     */
    private static function numbered(Settings $settings, PropShape $shape, Closure $places, array $inputs): ?WeightSource
    {
        $pictures = array_values(array_filter(array_map(static fn (Settings $picture): string => $picture->string('asset'), $settings->list('pictures'))));
        if ($pictures === []) {
            return null;
        }
        $dark = $settings->bool('dark');
        [$starts, $every, $repeats] = [$settings->int('starts'), $settings->int('every'), $settings->string('after') === 'repeats'];
        $shown = static function (float $frame) use ($pictures, $starts, $every, $repeats): array {
            $count = count($pictures);
            $at = max(0.0, ($frame - $starts) / $every);
            $at = $repeats ? fmod($at, $count) : min($count - 1.0, $at);
            $first = (int) $at;

            return [$first, $repeats ? ($first + 1) % $count : min($count - 1, $first + 1), $at - $first];
        };

        return new Edged(static function (Samples $at, float $frame) use ($shape, $places, $pictures, $dark, $shown): array {
            [$one, $other, $share] = $shown($frame);
            $where = $places($at);
            $late = self::late($shape->others->tones($pictures[$one]), $where, $dark);
            if ($share > 0.0) {
                foreach (self::late($shape->others->tones($pictures[$other]), $where, $dark) as $k => $then) {
                    $late[$k] += $share * ($then - $late[$k]);
                }
            }

            return $late;
        }, 1.0, Falloff::of('linear'), $inputs, static function (float $frame) use ($pictures, $shown): array {
            [$one, $other, $share] = $shown($frame);

            // Which they are by what is in them: another one later on changes nothing before it.
            return [self::mark($pictures[$one]), $share > 0.0 ? self::mark($pictures[$other]) : 0.0, $share];
        });
    }

    private static function mark(string $asset): float
    {
        return (float) hexdec(substr($asset, 0, 12));
    }

    /**
     * @param list<array{float, float}> $places
     *
     * @return list<float> 0 where the picture is wholly what counts, 1 where it is wholly the other
     */
    private static function late(ToneMap $tones, array $places, bool $dark): array
    {
        $late = [];
        foreach ($places as [$right, $up]) {
            $tone = $tones->smooth($right, $up);
            $late[] = $dark ? $tone : 1.0 - $tone;
        }

        return $late;
    }

    /** @return (Closure(Samples): list<array{float, float}>)|null where places lie on the picture, from 0 to 1 to the right and upwards; null: they lie nowhere */
    private static function places(Settings $settings, Prop $prop, PropShape $shape): ?Closure
    {
        if ($settings->string('lies') === 'texture') {
            return self::onTheSurface($prop, $shape);
        }
        $axis = PatternBench::axis($settings->string('facing'));
        [$u, $v] = [($axis + 1) % 3, ($axis + 2) % 3];

        return static function (Samples $at) use ($shape, $u, $v): array {
            [$low, $high] = $shape->bounds();
            $places = [$at->x, $at->y, $at->z];
            $wide = max(1e-12, $high[$u] - $low[$u]);
            $tall = max(1e-12, $high[$v] - $low[$v]);

            return array_map(static fn (float $right, float $up): array => [($right - $low[$u]) / $wide, ($up - $low[$v]) / $tall], $places[$u], $places[$v]);
        };
    }

    /** @return (Closure(Samples): list<array{float, float}>)|null by the texture coordinates of the nearest place of the surface; beyond 0 to 1 it lies there again and again */
    private static function onTheSurface(Prop $prop, PropShape $shape): ?Closure
    {
        $uvs = $shape->others->ownMesh($prop)->uvs;
        if ($uvs === null) {
            return null;
        }
        $seats = new SurfaceSeats($prop, $shape->others);

        return static function (Samples $at) use ($uvs, $seats): array {
            $places = [];
            foreach ($seats->of($at) as [$face, $s, $t]) {
                $k = 6 * $face;
                $right = $uvs[$k] + $s * ($uvs[$k + 2] - $uvs[$k]) + $t * ($uvs[$k + 4] - $uvs[$k]);
                $up = $uvs[$k + 1] + $s * ($uvs[$k + 3] - $uvs[$k + 1]) + $t * ($uvs[$k + 5] - $uvs[$k + 1]);
                // What ends at 1 ends there.
                $places[] = [$right >= 0.0 && $right <= 1.0 ? $right : $right - floor($right), $up >= 0.0 && $up <= 1.0 ? $up : $up - floor($up)];
            }

            return $places;
        };
    }

    public static function check(Settings $settings, Prop $prop): void
    {
        if ($settings->string('moves') === 'still' && $settings->string('tells') === 'order' && $settings->int('to') < $settings->int('from')) {
            throw $settings->wrong('to', 'It must not end before it starts. To turn it around, let the bright parts go first.');
        }
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [];
    }
}
