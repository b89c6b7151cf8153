<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Kind\HasBlow;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Weight\Everywhere;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;
use YardBreak\Core\Weight\WeightStack;

/** A prop's weight: its sources, where it is read, and all that decides it. */
final class Weighing
{
    /** @throws BadDocument */
    public static function of(Prop $prop, PropShape $shape): WeightStack
    {
        return self::mixed($prop->stack, $prop, $shape);
    }

    /**
     * How far each place is held while it has not let go; with no source wholly.
     *
     * @throws BadDocument
     */
    public static function held(Prop $prop, PropShape $shape): WeightSource
    {
        return $prop->held() === [] ? new Everywhere(1.0) : self::mixed($prop->held(), $prop, $shape);
    }

    /**
     * @param list<Settings> $stack sources with how they are mixed
     *
     * @throws BadDocument
     */
    public static function mixed(array $stack, Prop $prop, PropShape $shape): WeightStack
    {
        $layers = [];
        foreach ($stack as $layer) {
            $source = $layer->choice('source');
            $made = Kinds::weight($source->kind)::make($source->settings, $prop, $shape);
            if ($made !== null) {
                $layers[] = [$made, $layer->string('mix'), $layer->float('amount'), $layer->bool('invert')];
            }
        }

        return new WeightStack($layers);
    }

    /** @throws BadDocument */
    public static function check(Prop $prop): void
    {
        foreach ([...$prop->stack, ...$prop->held()] as $layer) {
            $source = $layer->choice('source');
            Kinds::weight($source->kind)::check($source->settings);
        }
    }

    /** @return list<mixed> what decides the weight, beside the prop's mesh */
    public static function inputs(Prop $prop, Surfaces $others): array
    {
        return self::inputsOf($prop->stack, $prop, $others);
    }

    /**
     * @param list<Settings> $stack
     *
     * @return list<mixed>
     */
    public static function inputsOf(array $stack, Prop $prop, Surfaces $others): array
    {
        return array_map(static function (Settings $layer) use ($prop, $others): array {
            $source = $layer->choice('source');

            return [$layer->inForce(), Kinds::weight($source->kind)::inputs($source->settings, $prop, $others)];
        }, $stack);
    }

    /**
     * Where the weight of each part is read: of cloth at its vertices, of a piece at its centre of mass. A front from a blow meets rings and walls around it,
     * whose centre lies in the hole; they are read at the corner that is neither nearer nor farther than most.
     */
    public static function places(Prop $prop, BrokenProp $broken): Samples
    {
        if ($prop->mover->has('vertices')) {
            $mesh = TriangleMesh::together($broken->pieces);

            return new Samples(array_values($mesh->x), array_values($mesh->y), array_values($mesh->z));
        }
        $fromBlow = array_filter($prop->stack, static fn (Settings $layer): bool => $layer->choice('source')->has('blow')) !== [];
        $distance = $fromBlow ? self::blow($prop) : null;
        if ($distance === null) {
            return Samples::of(array_map(static fn (MassProperties $mass): array => $mass->centre, $broken->mass));
        }
        $places = [];
        foreach ($broken->pieces as $mesh) {
            $places[] = self::median($mesh, $distance);
        }

        return Samples::of($places);
    }

    /** @return (Closure(float, float, float): float)|null m from the blow or the opening's rim; null: the break has none */
    public static function blow(Prop $prop): ?Closure
    {
        $kind = Kinds::pattern($prop->pattern->kind);

        return $prop->pattern->has('blow') && is_a($kind, HasBlow::class, true) ? $kind::distance($prop->pattern->settings) : null;
    }

    /**
     * @param Closure(float, float, float): float $distance
     *
     * @return array{float, float, float}
     */
    private static function median(TriangleMesh $mesh, Closure $distance): array
    {
        $far = [];
        foreach ($mesh->x as $v => $x) {
            $far[$v] = $distance($x, $mesh->y[$v], $mesh->z[$v]);
        }
        asort($far);
        $v = array_keys($far)[intdiv(count($far), 2)] ?? 0;

        return [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]];
    }
}
