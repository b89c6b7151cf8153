<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** Pieces that go a way are to fall at a moment that never comes. */
final class NeverFalls extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        $settings = $prop->mover->settings;
        if (! $settings->has('after')) {
            return null;
        }
        $motion = "{$at}/motion/{$prop->mover->kind}";
        if ($settings->string('after') === 'end' && $prop->neverLetsGo()) {
            return new Finding('warn', "{$at}/release/trigger", "{$prop->name} is to fall from the end of its way, but it never sets out.", [
                'label' => 'Let it go at frame 12', 'pointer' => "{$at}/release", 'value' => ['trigger' => 'frame', 'frame' => ['frame' => 12]],
            ]);
        }
        $falls = match ($settings->string('after')) {
            'cue' => $settings->cue('fallsAtCue'),
            'frame' => $settings->int('fallsAt'),
            default => 1,
        };
        if ($falls === null) {
            return new Finding('warn', "{$motion}/fallsAtCue", "{$prop->name} is to fall at a cue, but none is chosen: it stays where its way leads.", [
                'label' => 'Let each fall from the end of its way', 'pointer' => "{$motion}/after", 'value' => 'end',
            ]);
        }

        return $falls <= $shot->frames ? null : new Finding('warn', "{$motion}/after", "{$prop->name} is to fall at frame {$falls}, after the end of the shot, which is frame {$shot->frames}.", [
            'label' => 'Let each fall from the end of its way', 'pointer' => "{$motion}/after", 'value' => 'end',
        ]);
    }
}
