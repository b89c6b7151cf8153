<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** Held until something touches it, while nothing else moves. */
final class NothingTouches extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        $bends = $prop->mover->has('touched');
        if (! $prop->trigger->has('found') || ! ($prop->mover->has('collides') || $bends) || self::isOnItsWay($prop)) {
            return null;
        }
        foreach ($shot->props as $other) {
            // What bends feels what its keys bring it against, too.
            if ($other !== $prop && self::canTouch($other) && (self::moves($other) || $other->transform->isKeyed() || $other->plays() || ($bends && $prop->transform->isKeyed()))) {
                return null;
            }
        }
        $text = "{$prop->name} is held until something touches it, but nothing else that can touch it moves.";
        $field = "{$at}/motion/{$prop->mover->kind}/before";

        return $prop->mover->settings->has('before')
            ? new Finding('warn', $field, $text, ['label' => 'Let it fall', 'pointer' => $field, 'value' => 'falls'])
            : new Finding('warn', "{$at}/release/trigger", $text, ['label' => 'Let it go at frame 1', 'pointer' => "{$at}/release", 'value' => ['trigger' => 'frame', 'frame' => ['frame' => 1]]]);
    }

    /** Whether it comes against things by itself. */
    private static function isOnItsWay(Prop $prop): bool
    {
        return $prop->startsFree() || ! $prop->held()->isEmpty() || $prop->plays();
    }

    private static function canTouch(Prop $prop): bool
    {
        return $prop->mover->has('collides') || $prop->mover->has('felt') || $prop->mover->has('vertices');
    }
}
