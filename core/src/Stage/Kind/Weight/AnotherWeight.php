<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Stage\Weighing;
use YardBreak\Core\Weight\WeightSource;

/** Another weight of the same prop. */
final class AnotherWeight implements WeightKind
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): ?WeightSource
    {
        $mix = $prop->weights[$settings->string('weight')] ?? null;

        return $mix === null ? null : Weighing::made($mix, $prop, $shape);
    }

    public static function check(Settings $settings, Prop $prop): void
    {
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        $mix = $prop->weights[$settings->string('weight')] ?? null;

        return $mix === null ? [] : Weighing::inputsOf($mix, $prop, $others);
    }
}
