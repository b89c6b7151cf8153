<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\OpenRim;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** A mesh too coarse to fold, a distance kept that is larger than its edges, or a hold along edges that it does not have. */
final class ClothMesh extends PropCheck
{
    /** A side of so few edges folds like card. */
    private const EDGES = 10.0;

    /** About so many triangles fold well and bake in seconds. */
    private const GOOD = 4000;

    /** Flakes less than so many edges of the mesh wide are mostly needles at their rims. */
    private const ACROSS = 6.0;

    /** So many even triangles across a flake bend well. */
    private const WELL = 5.0;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! $prop->mover->has('folds') || $mesh->isEmpty()) {
            return null;
        }
        $kind = $prop->mover->kind;
        foreach ($prop->held()->stack as $k => $layer) {
            if ($layer->choice('source')->has('rim') && OpenRim::of($mesh)->isEmpty()) {
                return new Finding('warn', "{$at}/motion/{$kind}/hold/{$k}", "{$prop->name} should be held along its open edges, but its mesh is closed and has none: nothing holds it.");
            }
        }
        $settings = $prop->mover->settings;
        if ($settings->has('keepsVolume') && $settings->bool('keepsVolume') && ! $prop->isSkin() && Topology::closedParts($mesh) === []) {
            return new Finding('warn', "{$at}/motion/{$kind}/keepsVolume", "{$prop->name} is to keep its volume, but its mesh is open: it has no inside.", [
                'label' => 'Let it hang as it is', 'pointer' => "{$at}/motion/{$kind}/keepsVolume", 'value' => false,
            ]);
        }
        $edge = $mesh->meanEdge();
        $gap = $prop->mover->settings->float('gap');
        if ($gap > $edge) {
            $better = round(0.2 * $edge, 4);

            return new Finding('warn', "{$at}/motion/{$kind}/gap", sprintf('%s keeps %s m off what it touches, more than its edges are long (%s m): it floats.', $prop->name, round($gap, 4), round($edge, 4)), [
                'label' => "Keep {$better} m off", 'pointer' => "{$at}/motion/{$kind}/gap", 'value' => max(0.0001, $better),
            ]);
        }
        $pattern = $prop->pattern->settings;
        if ($pattern->has('edge') && $pattern->float('thickness') === 0.0 && $pattern->float('edge') === 0.0) {
            $flake = sqrt($mesh->area() / max(1, $pattern->int('count')));
            if ($flake < self::ACROSS * $edge) {
                $better = round(max(0.0001, $flake / self::WELL), 4);

                return new Finding('warn', "{$at}/break/{$prop->pattern->kind}/edge", "The flakes of {$prop->name} are cut out of triangles as large as they are, into needles: they bend along these only, and come through each other.", [
                    'label' => "Make them of even triangles, {$better} m", 'pointer' => "{$at}/break/{$prop->pattern->kind}/edge", 'value' => $better,
                ]);
            }
        }
        if (self::isTooCoarse($prop, $mesh)) {
            return new Finding('warn', "{$at}/prepare/even", sprintf('%s is too coarse to fold: its edges are %s m long, a tenth of its size at most is needed.', $prop->name, round($edge, 3)), [
                'label' => 'Make it of ' . self::GOOD . ' even triangles', 'pointer' => "{$at}/prepare/even", 'value' => self::GOOD,
            ]);
        }

        return null;
    }

    /** Whether it is too coarse to fold. A skin that comes off in flakes is as fine as those: they bend, they need not fold. */
    public static function isTooCoarse(Prop $prop, TriangleMesh $mesh): bool
    {
        return ! $prop->isSkin() && $mesh->size() < self::EDGES * $mesh->meanEdge() && $prop->prepare->int('even') < self::GOOD;
    }
}
