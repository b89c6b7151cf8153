<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\BrokenProp;

/** What is asked of two props before anything moves. */
final class Meeting
{
    /** Whether one is over the other at the first frame, so that they may meet. */
    public static function may(Prop $one, TriangleMesh $mesh, Prop $other, TriangleMesh $theirs): bool
    {
        [$a, $b] = [self::box($one, $mesh), self::box($other, $theirs)];

        return $a[0][0] < $b[1][0] && $b[0][0] < $a[1][0] && $a[0][2] < $b[1][2] && $b[0][2] < $a[1][2];
    }

    /** How wide a piece is, as a cube of the mean volume, m. */
    public static function across(Prop $prop, BrokenProp $broken): float
    {
        [$x, $y, $z] = $prop->transform->scaleAt(1.0);

        return (abs($x * $y * $z) * array_sum(array_column($broken->mass, 'volume')) / max(1, count($broken->pieces))) ** (1.0 / 3.0);
    }

    /** @return array{array{float, float, float}, array{float, float, float}} low and high corner in the shot at the first frame */
    private static function box(Prop $prop, TriangleMesh $mesh): array
    {
        [$low, $high] = $mesh->bounds();
        $corners = [];
        foreach ([$low[0], $high[0]] as $x) {
            foreach ([$low[1], $high[1]] as $y) {
                foreach ([$low[2], $high[2]] as $z) {
                    $corners[] = $prop->transform->carried([$x, $y, $z], 1.0);
                }
            }
        }

        return [
            [min(array_column($corners, 0)), min(array_column($corners, 1)), min(array_column($corners, 2))],
            [max(array_column($corners, 0)), max(array_column($corners, 1)), max(array_column($corners, 2))],
        ];
    }
}
