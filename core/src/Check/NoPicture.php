<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** A weight from a picture or by hand, and none has been brought in, nothing painted. */
final class NoPicture extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        foreach ($prop->mixes() as $list => $mix) {
            foreach ($mix->stack as $k => $layer) {
                $source = $layer->choice('source');
                $pointer = "{$at}{$list}/{$k}/{$source->kind}";
                if ($source->has('picture') && $source->settings->at('picture')->string('asset') === '') {
                    return new Finding('warn', "{$pointer}/picture", "A weight of {$prop->name} goes by a picture, but none has been brought in: it is 0 everywhere.");
                }
                if ($source->has('painted') && $source->settings->list('strokes') === []) {
                    return new Finding('warn', "{$pointer}/strokes", "A weight of {$prop->name} is painted by hand, but nothing has been painted yet.");
                }
            }
        }

        return null;
    }
}
