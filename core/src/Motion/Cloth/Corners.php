<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Motion\Collider;

/**
 * Corners of a solid thing against triangles that are held wholly, for the length of a step: between their vertices they do not sink in.
 *
 * @phpstan-import-type Place from Firm
 */
final readonly class Corners
{
    /**
     * @param list<array{float, float, float}> $corners of the thing, in its own axes
     * @param list<array{int, int, int, int, float}> $pairs which corner, three vertices of a triangle, and on which side of that the thing is: 1 or -1
     * @param float $deepest deeper than this it is not in it, but behind it, m
     */
    private function __construct(private Collider $collider, private array $corners, private array $pairs, private float $gap, private float $deepest)
    {
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param list<int> $triangles three vertices each
     * @param array<int, list<int>> $around by vertex, where in them the triangles at it begin
     * @param list<int> $near vertices that may come near
     * @param array<int, mixed> $held vertices that somebody holds wholly
     * @param bool $closed whether they are the skin of something solid: then nothing belongs inside
     * @param float $reach how far both may come towards each other in the step, m
     *
     * @return self|null null: it comes near none
     */
    public static function of(Collider $collider, array $x, array $y, array $z, array $triangles, array $around, array $near, array $held, bool $closed, float $gap, float $reach): ?self
    {
        $close = [];
        foreach ($near as $i) {
            foreach (isset($held[$i]) ? $around[$i] : [] as $t) {
                if (isset($held[$triangles[$t]], $held[$triangles[$t + 1]], $held[$triangles[$t + 2]])) {
                    $close[$t] = true;
                }
            }
        }
        if ($close === []) {
            return null;
        }
        ksort($close);
        $mesh = $collider->surface()->mesh();
        [$position, $rotation] = $collider->pose();
        $corners = $places = [];
        foreach ($mesh->x as $v => $own) {
            $corners[] = $corner = [$own, $mesh->y[$v], $mesh->z[$v]];
            $places[] = Quaternion::carried($position, $rotation, $corner);
        }
        [[$cx, $cy, $cz], $radius] = $collider->ball();
        $pairs = [];
        foreach ($close as $t => $_) {
            [$a, $b, $c] = [$triangles[$t], $triangles[$t + 1], $triangles[$t + 2]];
            [$nx, $ny, $nz] = self::normal($x, $y, $z, $a, $b, $c);
            $side = ! $closed && $nx * ($cx - $x[$a]) + $ny * ($cy - $y[$a]) + $nz * ($cz - $z[$a]) < 0.0 ? -1.0 : 1.0;
            [$lx, $ly, $lz] = [min($x[$a], $x[$b], $x[$c]) - $reach, min($y[$a], $y[$b], $y[$c]) - $reach, min($z[$a], $z[$b], $z[$c]) - $reach];
            [$hx, $hy, $hz] = [max($x[$a], $x[$b], $x[$c]) + $reach, max($y[$a], $y[$b], $y[$c]) + $reach, max($z[$a], $z[$b], $z[$c]) + $reach];
            foreach ($places as $v => [$px, $py, $pz]) {
                if ($px >= $lx && $px <= $hx && $py >= $ly && $py <= $hy && $pz >= $lz && $pz <= $hz) {
                    $pairs[] = [$v, $a, $b, $c, $side];
                }
            }
        }

        return $pairs === [] ? null : new self($collider, $corners, $pairs, $gap, $radius);
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is places of all vertices, m
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was a substep before
     *
     * @return list<Place> of each corner that is in it; and of all that come near, so that they do not go through in one substep
     */
    public function places(array $is, array $was): array
    {
        [$x, $y, $z] = $is;
        [$position, $rotation] = $this->collider->pose();
        $places = $nearest = $ahead = [];
        foreach ($this->pairs as [$v, $a, $b, $c, $side]) {
            [$px, $py, $pz] = $places[$v] ??= Quaternion::carried($position, $rotation, $this->corners[$v]);
            [$ux, $uy, $uz] = [$x[$b] - $x[$a], $y[$b] - $y[$a], $z[$b] - $z[$a]];
            [$vx, $vy, $vz] = [$x[$c] - $x[$a], $y[$c] - $y[$a], $z[$c] - $z[$a]];
            [$dx, $dy, $dz] = [$px - $x[$a], $py - $y[$a], $pz - $z[$a]];
            [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
            $area = $nx * $nx + $ny * $ny + $nz * $nz;
            if ($area < 1e-24) {
                continue;
            }
            $length = $side * sqrt($area);
            $before = ($nx * $dx + $ny * $dy + $nz * $dz) / $length;
            if (-$before > $this->deepest) {
                continue;
            }
            // Over the triangle itself, by areas.
            $s = ($nx * ($dy * $vz - $dz * $vy) + $ny * ($dz * $vx - $dx * $vz) + $nz * ($dx * $vy - $dy * $vx)) / $area;
            $r = ($nx * ($uy * $dz - $uz * $dy) + $ny * ($uz * $dx - $ux * $dz) + $nz * ($ux * $dy - $uy * $dx)) / $area;
            if ($s < 0.0 || $r < 0.0 || $s + $r > 1.0) {
                continue;
            }
            $goes = [0.0, 0.0, 0.0];
            foreach ([[$a, 1.0 - $s - $r], [$b, $s], [$c, $r]] as [$i, $share]) {
                $goes = [$goes[0] + $share * ($x[$i] - $was[0][$i]), $goes[1] + $share * ($y[$i] - $was[1][$i]), $goes[2] + $share * ($z[$i] - $was[2][$i])];
            }
            $place = [[$px, $py, $pz], [-$nx / $length, -$ny / $length, -$nz / $length], $goes, $this->gap - $before];
            if ($place[3] <= 0.0) {
                $ahead[] = $place;
            }
            if (! isset($nearest[$v]) || abs($before) < $nearest[$v][0]) {
                $nearest[$v] = [abs($before), $place];
            }
        }

        // What is behind one triangle and nearer before another is beyond something thin, not in it.
        return [...array_column(array_filter($nearest, static fn (array $near): bool => $near[1][3] > 0.0), 1), ...$ahead];
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return array{float, float, float} as long as twice the triangle's area
     */
    private static function normal(array $x, array $y, array $z, int $a, int $b, int $c): array
    {
        [$ux, $uy, $uz] = [$x[$b] - $x[$a], $y[$b] - $y[$a], $z[$b] - $z[$a]];
        [$vx, $vy, $vz] = [$x[$c] - $x[$a], $y[$c] - $y[$a], $z[$c] - $z[$a]];

        return [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
    }

    public function collider(): Collider
    {
        return $this->collider;
    }
}
