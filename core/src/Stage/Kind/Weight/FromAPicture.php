<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PatternBench;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Edged;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\Sweep;
use YardBreak\Core\Weight\WeightSource;

/** A picture laid over a side of the prop and straight through it: its tones are the weight, or say in which order it comes. */
final class FromAPicture implements WeightKind
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): ?WeightSource
    {
        $asset = $settings->at('picture')->string('asset');
        if ($asset === '') {
            return null;
        }
        $late = self::later($settings, $asset, $shape);
        $inputs = ['picture', $asset, $settings->string('facing'), $settings->bool('dark')];

        return $settings->string('tells') === 'order'
            ? new Sweep($late, 1.0, $settings->float('from'), $settings->float('to'), 'linear', $settings->float('blend'), $inputs)
            : new Edged(static fn (Samples $at): array => $late($at), 1.0, 'linear', $inputs);
    }

    /** @return Closure(Samples): list<float> 0 where the picture is wholly what counts, 1 where it is wholly the other */
    private static function later(Settings $settings, string $asset, PropShape $shape): Closure
    {
        $axis = PatternBench::axis($settings->string('facing'));
        [$u, $v] = [($axis + 1) % 3, ($axis + 2) % 3];
        $dark = $settings->bool('dark');

        return static function (Samples $at) use ($asset, $shape, $u, $v, $dark): array {
            $tones = $shape->others->tones($asset);
            [$low, $high] = $shape->bounds();
            $places = [$at->x, $at->y, $at->z];
            $wide = max(1e-12, $high[$u] - $low[$u]);
            $tall = max(1e-12, $high[$v] - $low[$v]);

            return array_map(static function (float $right, float $up) use ($tones, $low, $u, $v, $wide, $tall, $dark): float {
                $tone = $tones->smooth(($right - $low[$u]) / $wide, ($up - $low[$v]) / $tall);

                return $dark ? $tone : 1.0 - $tone;
            }, $places[$u], $places[$v]);
        };
    }

    public static function check(Settings $settings, Prop $prop): void
    {
        if ($settings->string('tells') === 'order' && $settings->int('to') < $settings->int('from')) {
            throw $settings->wrong('to', 'It must not end before it starts. To turn it around, let the bright parts go first.');
        }
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [];
    }
}
