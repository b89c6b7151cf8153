<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use YardBreak\Core\Mesh\SurfaceTree;

/** The plane at which a way ends that would go through a surface. */
final class LightWall
{
    /**
     * The plane that a way first crosses, facing where it comes from.
     *
     * @param array{float, float, float} $from
     * @param array{float, float, float} $way
     *
     * @return array{float, float, float, float}|null normal and offset
     */
    public static function across(SurfaceTree $tree, array $from, array $way): ?array
    {
        [$px, $py, $pz] = $from;
        [$dx, $dy, $dz] = $way;
        $hit = $tree->crossed($px, $py, $pz, $dx, $dy, $dz);
        if ($hit === null) {
            return null;
        }
        [$t, $share] = $hit;
        [$x, $y, $z] = [$px + $share * $dx, $py + $share * $dy, $pz + $share * $dz];
        [$nx, $ny, $nz] = $tree->facing($t, $x, $y, $z);
        if ($nx * $dx + $ny * $dy + $nz * $dz > 0.0) {
            if ($tree->closed) {
                // On its way out.
                return null;
            }
            [$nx, $ny, $nz] = [-$nx, -$ny, -$nz];
        }

        return [$nx, $ny, $nz, $nx * $x + $ny * $y + $nz * $z];
    }
}
