<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** A mesh that was brought in is as large as a house: files often count in centimetres or millimetres. */
final class OddSize extends PropCheck
{
    /** Larger than this, m, one is asked. */
    private const LARGE = 8.0;

    /** A thing of this size in centimetres would still be as large as a house, m. */
    private const HUGE = 800.0;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! $prop->source->has('units') || $prop->source->settings->string('units') !== 'm') {
            return null;
        }
        [$low, $high] = $mesh->bounds();
        $sizes = [$high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]];
        $size = max($sizes);
        if ($size <= self::LARGE || $prop->prepare->float('size') > 0.0) {
            return null;
        }
        $way = $size === $sizes[1] ? 'high' : 'wide';
        [$unit, $word] = $size > self::HUGE ? ['mm', 'millimetres'] : ['cm', 'centimetres'];

        return new Finding('warn', "{$at}/source/{$prop->source->kind}/units", sprintf('%s is %s m %s. Is the file in %s?', $prop->name, round($size, 1), $way, $word), [
            'label' => "It is in {$word}", 'pointer' => "{$at}/source/{$prop->source->kind}/units", 'value' => $unit,
        ]);
    }
}
