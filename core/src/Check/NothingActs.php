<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\ShotForces;

/** No force reaches what lets go, and nothing starts with a speed. */
final class NothingActs implements Check
{
    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        // What goes a way that is set needs no force; wind reaches what is light.
        $moved = array_filter($shot->props, static fn (Prop $prop): bool => $prop->mover->has('staged')) !== [];
        $drifts = array_filter($shot->props, static fn (Prop $prop): bool => $prop->mover->has('drifts')) !== [];
        foreach ($shot->forces as $force) {
            $field = ShotForces::field($force, $shot, $pipeline->surfaces);
            if ($field->movesAir() || $force->kind->has('slows')) {
                $moved = $moved || ($drifts && $field->movesAir());
                continue;
            }
            for ($frame = 1; $frame <= $shot->frames; $frame++) {
                if (array_filter($field->uniform((float) $frame) ?? [1.0]) !== []) {
                    return [];
                }
            }
        }
        if ($moved || $shot->props === [] || array_filter($shot->props, self::starts(...)) !== []) {
            return [];
        }

        return [new Finding('warn', '/forces', 'Nothing will fall: no force acts, and no prop starts with a velocity or spin.', [
            'label' => 'Earth’s gravity', 'pointer' => '/forces', 'value' => [['id' => 'gravity', 'name' => 'Gravity', 'on' => true, 'force' => 'gravity', 'gravity' => ['strength' => 9.80665]]],
        ])];
    }

    private static function starts(Prop $prop): bool
    {
        $settings = $prop->mover->settings;
        $speeds = [];
        foreach (['velocity', 'angularVelocity'] as $name) {
            array_push($speeds, ...($settings->has($name) ? $settings->vector($name) : []));
        }

        $outward = $settings->has('outward') && $settings->float('outward') !== 0.0;

        return $outward || $prop->transform->isKeyed() || array_filter($speeds) !== [];
    }
}
