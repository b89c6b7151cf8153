<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

/** Units that the numbers of a file may stand for. */
final class Units
{
    private const METRES = ['m' => 1.0, 'cm' => 0.01, 'mm' => 0.001, 'in' => 0.0254, 'ft' => 0.3048];

    /** @return float m; of what is no unit, a metre */
    public static function metres(string $unit): float
    {
        return self::METRES[$unit] ?? 1.0;
    }
}
