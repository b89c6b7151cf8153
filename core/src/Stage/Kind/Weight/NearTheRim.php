<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Falloff;
use YardBreak\Core\Mesh\OpenRim;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Edged;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** Full along the open edges of a sheet, all of them or those on one side. */
final class NearTheRim implements WeightKind
{
    private const SIDES = ['low-x' => [0, -1], 'high-x' => [0, 1], 'low-y' => [1, -1], 'high-y' => [1, 1], 'low-z' => [2, -1], 'high-z' => [2, 1]];

    public static function make(Settings $settings, Prop $prop, PropShape $shape): WeightSource
    {
        $rim = OpenRim::of($shape->mesh());
        $side = self::SIDES[$settings->string('side')] ?? null;
        if ($side !== null) {
            $rim = $rim->on($side[0], $side[1]);
        }

        $within = $settings->float('within');

        return new Edged(static function (Samples $at) use ($rim, $within): array {
            return array_map(static fn (float $far): float => $far - $within, $rim->distances($at->x, $at->y, $at->z));
        }, $settings->float('softness'), Falloff::of('smooth'), ['rim', $settings->string('side'), $within]);
    }

    public static function check(Settings $settings, Prop $prop): void
    {
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [];
    }
}
