<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Force;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Stage\Kind\Kinds;

/** The forces of a shot, made from its document. */
final class ShotForces
{
    /**
     * As a mover's props feel them: each is a group, in the order given.
     *
     * @param list<Prop> $props
     *
     * @throws BadDocument
     */
    public static function on(Shot $shot, array $props, Surfaces $others): Forces
    {
        $fields = [];
        foreach ($shot->forces as $force) {
            $groups = $force->props === [] ? null : array_keys(array_filter($props, $force->actsOn(...)));
            if ($groups !== []) {
                $fields[] = [self::field($force, $shot, $others), $groups, $force->byWeight];
            }
        }

        return new Forces($fields);
    }

    /** @throws BadDocument */
    public static function field(Force $force, Shot $shot, Surfaces $others): ForceField
    {
        return Kinds::force($force->kind->kind)::make($force->kind->settings, $shot, $others);
    }

    /**
     * @return list<mixed> all that decides what they do
     *
     * @throws BadDocument
     */
    public static function inputs(Shot $shot, Surfaces $others): array
    {
        return array_map(static function (Force $force) use ($shot, $others): array {
            $own = $force->kind->settings;

            return [$force->kind->kind, $own->inForce(), Kinds::force($force->kind->kind)::inputs($own, $shot, $others), $force->props, $force->byWeight];
        }, $shot->forces);
    }
}
