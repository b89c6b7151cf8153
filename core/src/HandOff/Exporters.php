<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Stage\Pipeline;

/** Every format there is: the one place that names them. */
final class Exporters
{
    /** @var array<string, class-string<AnimatedGlb|FrameObj>> */
    private const ALL = ['glb' => AnimatedGlb::class, 'obj' => FrameObj::class];

    /** @throws BadFile if there is no such format */
    public static function of(string $format, Pipeline $pipeline): Exporter
    {
        $class = self::ALL[$format] ?? throw new BadFile('Write to a file that ends in .' . implode(' or .', array_keys(self::ALL)) . '.');

        return new $class($pipeline);
    }
}
