<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Stage\Pipeline;

/** No force reaches what lets go, and nothing starts with a speed. */
final class NothingActs implements Check
{
    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        foreach ($shot->forces as $choice) {
            $force = Kinds::force($choice->kind)::make($choice->settings);
            for ($frame = 1; $frame <= $shot->frames; $frame++) {
                if ($force->uniform((float) $frame) !== [0.0, 0.0, 0.0]) {
                    return [];
                }
            }
        }
        if ($shot->props === [] || array_filter($shot->props, self::starts(...)) !== []) {
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

        return $prop->transform->isKeyed() || array_filter($speeds) !== [];
    }
}
