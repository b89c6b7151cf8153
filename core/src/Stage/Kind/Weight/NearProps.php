<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\SoftEdge;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\Nearness;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Reach;
use YardBreak\Core\Weight\WeightSource;

/** Near other props, where their keys put them or as they move in the bake. */
final class NearProps implements WeightKind
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): ?WeightSource
    {
        $things = Nearness::things($settings, $prop, $shape);
        // Where they go is sampled with all props.
        $hashes = array_map(static fn (string $id): array => [$id, isset($prop->others[$id]) ? $shape->others->hash($prop->others[$id]) : null], $settings->strings('props'));

        return $things === [] ? null : new Reach($things, $settings->animated('full'), $settings->animated('none'), SoftEdge::of($settings), [$settings->string('measure'), $settings->string('where'), $hashes]);
    }

    public static function check(Settings $settings, Prop $prop): void
    {
        $full = $settings->animated('full');
        $none = $settings->animated('none');
        foreach ([...$full->frames(), ...$none->frames()] as $frame) {
            if ($none->at($frame) < $full->at($frame)) {
                throw $settings->wrong('none', 'Beyond this distance there is nothing: it must not be less than the distance within which the weight is full. To turn it around, invert the source.');
            }
        }
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        $inputs = [$prop->transform->inputs(), $settings->string('where') === 'motion' ? $others->seen?->sightings->name() : null];
        foreach ($settings->strings('props') as $id) {
            $other = $prop->others[$id] ?? null;
            $inputs[] = $other === null ? null : [$others->hash($other), $other->transform->inputs()];
        }

        return $inputs;
    }
}
