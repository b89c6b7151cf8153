<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** A break by drawn lines without any. */
final class NothingDrawn extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        return $prop->pattern->has('board') && $prop->pattern->settings->list('lines') === []
            ? new Finding('warn', "{$at}/break/{$prop->pattern->kind}/lines", "No cut line has been drawn on {$prop->name} yet, so it stays in one piece.")
            : null;
    }
}
