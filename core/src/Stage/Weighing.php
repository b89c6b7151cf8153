<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Mix;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Kind\HasBlow;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Stage\Kind\SoftEdge;
use YardBreak\Core\Weight\Everywhere;
use YardBreak\Core\Weight\Following;
use YardBreak\Core\Weight\Remapped;
use YardBreak\Core\Weight\Response;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;
use YardBreak\Core\Weight\WeightStack;

/** A prop's weight: its sources, where it is read, and all that decides it. */
final class Weighing
{
    /**
     * The weight by which a prop lets go.
     *
     * @throws BadDocument
     */
    public static function of(Prop $prop, PropShape $shape): WeightSource
    {
        return self::made($prop->weight, $prop, $shape);
    }

    /**
     * How far each place is held while it has not let go; with no source wholly.
     *
     * @throws BadDocument
     */
    public static function held(Prop $prop, PropShape $shape): WeightSource
    {
        return $prop->held()->isEmpty() ? new Everywhere(1.0) : self::made($prop->held(), $prop, $shape);
    }

    /** @throws BadDocument */
    public static function made(Mix $mix, Prop $prop, PropShape $shape): WeightSource
    {
        $layers = [];
        foreach ($mix->stack as $layer) {
            $source = $layer->choice('source');
            $made = Kinds::weight($source->kind)::make($source->settings, $prop, $shape);
            if ($made !== null) {
                $layers[] = [$made, $layer->string('mix'), $layer->animated('amount'), $layer->bool('invert')];
            }
        }

        $weight = $mix->shape === null ? new WeightStack($layers) : self::shaped(new WeightStack($layers), $mix->shape, $prop->time->fps);
        $seen = $shape->others->seen;

        return $seen !== null && self::mixGoesByMotion($mix, $prop) ? new Witnessed($weight, $seen->sightings) : $weight;
    }

    /** Whether any weight of a prop goes by how others move in the bake. */
    public static function goesByMotion(Prop $prop): bool
    {
        return array_filter([$prop->weight, $prop->held(), ...array_values($prop->weights)], static fn (Mix $mix): bool => self::mixGoesByMotion($mix, $prop)) !== [];
    }

    public static function mixGoesByMotion(Mix $mix, Prop $prop): bool
    {
        foreach ($mix->stack as $layer) {
            $source = $layer->choice('source');
            if ($source->has('seen') && isset($source->settings->inForce()['where'])) {
                return true;
            }
            $fields = $source->trait('weights');
            $by = array_intersect_key($source->settings->inForce(), array_flip(is_array($fields) ? $fields : []));
            foreach (array_intersect_key($prop->weights, array_flip(array_filter($by, is_string(...)))) as $next) {
                if (self::mixGoesByMotion($next, $prop)) {
                    return true;
                }
            }
        }

        return false;
    }

    /** Whether any weight of a prop goes by which piece a place is on. */
    public static function goesByPieces(Prop $prop): bool
    {
        foreach ($prop->mixes() as $mix) {
            foreach ($mix->stack as $layer) {
                if ($layer->choice('source')->has('picked')) {
                    return true;
                }
            }
        }

        return false;
    }

    private static function shaped(WeightSource $weight, Settings $shape, float $fps): WeightSource
    {
        $points = $shape->points('curve');
        if ($points !== [] && $points !== [[0.0, 0.0], [1.0, 1.0]]) {
            $weight = new Remapped($weight, $shape->curve('curve'));
        }
        $response = match ($shape->string('follows')) {
            'late' => Response::late($shape->float('lag')),
            'spring' => Response::spring($shape->float('frequency'), $shape->float('damping')),
            default => null,
        };
        $keeps = $shape->bool('keeps');

        return $keeps || $response !== null ? new Following($weight, $keeps, $response, $fps) : $weight;
    }

    /** @throws BadDocument if settings contradict each other, or a weight goes by itself */
    public static function check(Prop $prop): void
    {
        foreach ([$prop->weight, $prop->held(), ...array_values($prop->weights)] as $mix) {
            foreach ($mix->stack as $layer) {
                $source = $layer->choice('source');
                Kinds::weight($source->kind)::check($source->settings, $prop);
                if ($source->settings->has('edgeCurve')) {
                    SoftEdge::of($source->settings);
                }
            }
            $mix->shape?->curve('curve');
        }
        foreach ($prop->weights as $mix) {
            self::goesBy($mix, $prop, []);
        }
    }

    /**
     * @param list<string> $by names of weights that go by this one
     *
     * @throws BadDocument
     */
    private static function goesBy(Mix $mix, Prop $prop, array $by): void
    {
        foreach ($mix->stack as $layer) {
            $source = $layer->choice('source');
            $fields = $source->trait('weights');
            foreach (is_array($fields) ? $fields : [] as $field) {
                $next = $prop->weights[$source->settings->string($field)] ?? null;
                if ($next === null) {
                    continue;
                }
                if ($next->name === $mix->name || in_array($next->name, $by, true)) {
                    throw $source->settings->wrong($field, "{$mix->name} goes by {$next->name}, which goes by {$mix->name}: a weight cannot go by itself. Choose another.");
                }
                self::goesBy($next, $prop, [...$by, $mix->name]);
            }
        }
    }

    /** @return list<mixed> what decides the weight by which it lets go, beside the prop's mesh */
    public static function inputs(Prop $prop, Surfaces $others): array
    {
        return self::inputsOf($prop->weight, $prop, $others);
    }

    /** @return list<mixed> */
    public static function inputsOf(Mix $mix, Prop $prop, Surfaces $others): array
    {
        $layers = array_map(static function (Settings $layer) use ($prop, $others): array {
            $source = $layer->choice('source');

            return [$layer->inForce(), Kinds::weight($source->kind)::inputs($source->settings, $prop, $others)];
        }, $mix->stack);
        $shape = $mix->shape?->inForce() ?? [];

        return [$layers, array_diff_key($shape, ['stack' => 0, 'id' => 0, 'name' => 0]), ($shape['follows'] ?? 'once') === 'once' ? 0 : $prop->time->fps];
    }

    /**
     * Where the weight of each part is read: of cloth at its vertices, of a piece at its centre of mass. A front from a blow meets rings and walls around it,
     * whose centre lies in the hole; they are read at the corner that is neither nearer nor farther than most.
     */
    public static function places(Prop $prop, BrokenProp $broken): Samples
    {
        if ($prop->mover->has('vertices')) {
            return self::vertices($broken);
        }
        $fromBlow = array_filter($prop->weight->stack, static fn (Settings $layer): bool => $layer->choice('source')->has('blow')) !== [];
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

    /** All vertices of a prop's pieces, piece by piece. */
    public static function vertices(BrokenProp $broken): Samples
    {
        $mesh = TriangleMesh::together($broken->pieces);

        return new Samples(array_values($mesh->x), array_values($mesh->y), array_values($mesh->z));
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
