<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** Flakes by the thousand that are each moved as a hard piece. */
final class TooManyHardPieces extends PropCheck
{
    /** Hard pieces that bake in reasonable time. */
    private const MANY = 600;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        $settings = $prop->pattern->settings;
        if (! self::moves($prop) || ! $prop->mover->has('collides') || ! $prop->isSkin() || ! $settings->has('count') || $settings->int('count') <= self::MANY) {
            return null;
        }
        $text = sprintf('%s has %s flakes, and each is moved as a hard piece of its own: a bake will take hours.', $prop->name, number_format($settings->int('count')));
        foreach ($prop->mover->settings->schema->kinds('mover') as $kind) {
            if ($prop->mover->settings->schema->traitOf('mover', $kind, 'drifts', []) === true) {
                return new Finding('warn', "{$at}/motion/mover", $text, ['label' => 'Move them as light pieces', 'pointer' => "{$at}/motion/mover", 'value' => $kind]);
            }
        }

        return new Finding('warn', "{$at}/break/{$prop->pattern->kind}/count", $text, [
            'label' => 'Take ' . self::MANY, 'pointer' => "{$at}/break/{$prop->pattern->kind}/count", 'value' => self::MANY,
        ]);
    }
}
