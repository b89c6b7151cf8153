<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\Kind\SoftEdge;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Edged;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** Full in pieces that are picked, each by a place on it. Before there are pieces (where it makes a break finer) it is none. */
final class PickedPieces implements WeightKind
{
    /** What is this near to a piece, in parts of the prop's size, is in it: corners that it shares with others. */
    private const NEAR = 1e-9;

    public static function make(Settings $settings, Prop $prop, PropShape $shape): WeightSource
    {
        $places = $settings->vectors('places');
        $within = $settings->float('within');
        $softness = $settings->float('softness');
        $trees = null;
        $beyond = static function (Samples $at) use ($places, $within, $softness, $shape, &$trees): array {
            $trees ??= self::trees($shape->pieces(), $places);
            [$low, $high] = $shape->bounds();
            $near = self::NEAR * max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);
            $beyond = [];
            foreach ($at->x as $i => $x) {
                $far = INF;
                foreach ($trees as $tree) {
                    $triangle = $tree->nearest($x, $at->y[$i], $at->z[$i], min($far, $within + $softness + 2.0 * $near));
                    // Deep inside, its surface may be farther than that.
                    $triangle = $triangle < 0 && $tree->closed ? $tree->nearest($x, $at->y[$i], $at->z[$i], INF) : $triangle;
                    if ($triangle >= 0) {
                        $tree->look($triangle, $x, $at->y[$i], $at->z[$i]);
                        $far = min($far, $tree->distance);
                    }
                }
                $beyond[] = $far - $within - $near;
            }

            return $beyond;
        };

        return new Edged($beyond, $softness, SoftEdge::of($settings), ['picked', $places, $within]);
    }

    /**
     * @param list<array{float, float, float}> $places
     *
     * @return list<SurfaceTree> of the pieces they are on, each once
     */
    private static function trees(?BrokenProp $broken, array $places): array
    {
        if ($broken === null || $places === []) {
            return [];
        }
        $boxes = [];
        foreach ($broken->pieces as $k => $mesh) {
            $boxes[$k] = $mesh->bounds();
        }
        $made = $picked = [];
        foreach ($places as [$x, $y, $z]) {
            // No piece is nearer than its box.
            $order = array_map(static fn (array $box): float => max(0.0, $box[0][0] - $x, $x - $box[1][0]) ** 2 + max(0.0, $box[0][1] - $y, $y - $box[1][1]) ** 2 + max(0.0, $box[0][2] - $z, $z - $box[1][2]) ** 2, $boxes);
            asort($order);
            $best = INF;
            $of = null;
            foreach ($order as $k => $square) {
                if ($square >= $best * $best) {
                    break;
                }
                $tree = $made[$k] ??= SurfaceTree::of($broken->pieces->mesh($k), $broken->mass[$k]->volume > 0.0);
                $triangle = $tree->nearest($x, $y, $z, $best);
                if ($triangle >= 0) {
                    $tree->look($triangle, $x, $y, $z);
                    if (abs($tree->distance) < $best) {
                        [$best, $of] = [abs($tree->distance), $k];
                    }
                }
            }
            if ($of !== null) {
                $picked[$of] = $made[$of];
            }
        }
        ksort($picked);

        return array_values($picked);
    }

    public static function check(Settings $settings, Prop $prop): void
    {
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [];
    }
}
