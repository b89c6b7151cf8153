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
            $frames = [];
            $seen = null;
            for ($n = 1; $n <= $prop->time->frames; $n++) {
                $outline = $kind::outline($source->settings, $prop, $shape, (float) $n);
                $seen ??= $outline;
                $frames[] = $outline?->numbers();
            }
            if ($seen !== null) {
                $same = count(array_unique($frames, SORT_REGULAR)) === 1;
                $found[] = ['layer' => $layer, 'shape' => $seen->shape, 'inShot' => $seen->inShot, 'frames' => $same ? [$frames[0]] : $frames];
            }
        }

        return $found;
    }
}
