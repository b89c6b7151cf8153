<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
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
                if ($source->has('picture')) {
                    $finding = self::picture($prop, $source->settings, $pointer, $mesh);
                    if ($finding !== null) {
                        return $finding;
                    }
                }
                if ($source->has('painted') && $source->settings->list('strokes') === []) {
                    return new Finding('warn', "{$pointer}/strokes", "A weight of {$prop->name} is painted by hand, but nothing has been painted yet.");
                }
            }
        }

        return null;
    }

    private static function picture(Prop $prop, Settings $settings, string $pointer, TriangleMesh $mesh): ?Finding
    {
        $numbered = $settings->string('moves') === 'numbered';
        if ($numbered ? $settings->list('pictures') === [] : $settings->at('picture')->string('asset') === '') {
            return new Finding('warn', $pointer . ($numbered ? '/pictures' : '/picture'), "A weight of {$prop->name} goes by a picture, but none has been brought in: it is 0 everywhere.");
        }

        return $settings->string('lies') !== 'texture' || $mesh->uvs !== null ? null : new Finding('warn', "{$pointer}/lies", "A weight of {$prop->name} goes by a picture on its surface, but its mesh has no texture coordinates: it is 0 everywhere.", [
            'label' => 'Lay it over a side', 'pointer' => "{$pointer}/lies", 'value' => 'side',
        ]);
    }
}
