<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Mix;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Stage\Kind\HasOutline;
use YardBreak\Core\Stage\Kind\Kinds;

/** Where the sources of a weight are, at all frames. */
final class Outlines
{
    /**
     * @return list<array{layer: int, shape: string, inShot: bool, frames: list<list<float>|null>}> only sources that are somewhere; one
     *                                                                                              frame if nothing ever changes
     *
     * @throws BadDocument
     */
    public static function of(Mix $mix, Prop $prop, PropShape $shape): array
    {
        $found = [];
        foreach ($mix->stack as $layer => $settings) {
            $source = $settings->choice('source');
            $kind = Kinds::weight($source->kind);
            if (! is_a($kind, HasOutline::class, true)) {
                continue;
            }
            $frames = $seen = [];
            for ($n = 1; $n <= $prop->time->frames; $n++) {
                foreach ($kind::outlines($source->settings, $prop, $shape, (float) $n) as $k => $outline) {
                    $seen[$k] ??= $outline;
                    $frames[$k][] = $outline?->numbers();
                }
            }
            foreach ($seen as $k => $outline) {
                if ($outline !== null) {
                    $same = count(array_unique($frames[$k], SORT_REGULAR)) === 1;
                    $found[] = ['layer' => $layer, 'shape' => $outline->shape, 'inShot' => $outline->inShot, 'frames' => $same ? [$frames[$k][0]] : $frames[$k]];
                }
            }
        }

        return $found;
    }
}
