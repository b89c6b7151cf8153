<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Force;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Wind;
use YardBreak\Core\Stage\Kind\ForceKind;

/** Air that moves, with gusts in it. */
final class TurbulentWind implements ForceKind
{
    public static function make(Settings $settings): ForceField
    {
        $velocity = $settings->at('velocity');

        return new Wind(
            array_map($velocity->animated(...), ['x', 'y', 'z']),
            $settings->animated('turbulence'),
            $settings->float('size'),
            $settings->int('period'),
            $settings->int('seed'),
        );
    }

    public static function inputs(Settings $settings): array
    {
        $velocity = $settings->at('velocity');

        return [
            ...array_map(static fn (string $axis): array => $velocity->animated($axis)->inputs(), ['x', 'y', 'z']),
            $settings->animated('turbulence')->inputs(),
            $settings->float('size'),
            $settings->int('period'),
            $settings->int('seed'),
        ];
    }
}
