<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Collider;

/**
 * Corners of a solid thing against triangles that are held wholly, for the length of a step: between their vertices they do not sink in.
 *
 * @phpstan-import-type Place from Firm
 */
final readonly class Corners
{
    /** Of corners of a finely divided thing that lie within this share of a triangle's side the outermost is enough, if what is round stands out by less than a share of the gap beyond it. */
    private const ALIKE = 0.5;

    /**
     * @param list<float> $own corners of the thing, in its own axes, three numbers each
     * @param list<array{int, int, int, float}> $triangles three vertices, and on which side of it the thing is: 1 or -1
     * @param list<list<int>> $near by triangle, corners that may come near
     * @param float $deepest deeper than this it is not in it, but behind it, m
     * @param float $soon how far both may come towards each other in a substep, m
     */
    private function __construct(private Collider $collider, private array $own, private array $triangles, private array $near, private float $gap, private float $deepest, private float $soon)
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
     * @param float $soon and in a substep, m
     *
     * @return self|null null: it comes near none
     */
    public static function of(Collider $collider, array $x, array $y, array $z, array $triangles, array $around, array $near, array $held, bool $closed, float $gap, float $reach, float $soon): ?self
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
        $faces = $some = [];
        $areas = 0.0;
        [[$cx, $cy, $cz], $radius] = $collider->ball();
        foreach ($close as $t => $_) {
            [$a, $b, $c] = [$triangles[$t], $triangles[$t + 1], $triangles[$t + 2]];
            [$nx, $ny, $nz] = self::normal($x, $y, $z, $a, $b, $c);
            $areas += sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $faces[] = [$a, $b, $c, ! $closed && $nx * ($cx - $x[$a]) + $ny * ($cy - $y[$a]) + $nz * ($cz - $z[$a]) < 0.0 ? -1.0 : 1.0];
        }
        $corners = self::outermost($collider->surface()->mesh(), min(self::ALIKE * sqrt($areas / count($close)), sqrt(self::ALIKE * $radius * $gap)));
        [$px, $py, $pz] = self::placed($collider, $corners);
        foreach ($faces as [$a, $b, $c]) {
            [$lx, $ly, $lz] = [min($x[$a], $x[$b], $x[$c]) - $reach, min($y[$a], $y[$b], $y[$c]) - $reach, min($z[$a], $z[$b], $z[$c]) - $reach];
            [$hx, $hy, $hz] = [max($x[$a], $x[$b], $x[$c]) + $reach, max($y[$a], $y[$b], $y[$c]) + $reach, max($z[$a], $z[$b], $z[$c]) + $reach];
            $own = [];
            foreach ($px as $v => $at) {
                if ($at >= $lx && $at <= $hx && $py[$v] >= $ly && $py[$v] <= $hy && $pz[$v] >= $lz && $pz[$v] <= $hz) {
                    $own[] = $v;
                }
            }
            $some[] = $own;
        }

        return array_filter($some) === [] ? null : new self($collider, $corners, $faces, $some, $gap, $radius, $soon);
    }

    /**
     * @param float $size of a cell of space, m
     *
     * @return list<float> of each cell the corner that is farthest from the middle, three numbers each
     */
    private static function outermost(TriangleMesh $mesh, float $size): array
    {
        [$low, $high] = $mesh->bounds();
        [$mx, $my, $mz] = [0.5 * ($low[0] + $high[0]), 0.5 * ($low[1] + $high[1]), 0.5 * ($low[2] + $high[2])];
        $per = 1.0 / max(1e-9, $size);
        $cells = [];
        foreach ($mesh->x as $v => $x) {
            $y = $mesh->y[$v];
            $z = $mesh->z[$v];
            $far = ($x - $mx) * ($x - $mx) + ($y - $my) * ($y - $my) + ($z - $mz) * ($z - $mz);
            $cell = floor($per * $x) . ' ' . floor($per * $y) . ' ' . floor($per * $z);
            if (! isset($cells[$cell]) || $far > $cells[$cell][0]) {
                $cells[$cell] = [$far, $x, $y, $z];
            }
        }
        $own = [];
        foreach ($cells as [, $x, $y, $z]) {
            array_push($own, $x, $y, $z);
        }

        return $own;
    }

    /**
     * @param list<float> $own
     *
     * @return array{list<float>, list<float>, list<float>} in the world, m
     */
    private static function placed(Collider $collider, array $own): array
    {
        [[$ox, $oy, $oz], $rotation] = $collider->pose();
        [$a, $b, $c, $d, $e, $f, $g, $h, $i] = Quaternion::matrix($rotation);
        $px = $py = $pz = [];
        for ($k = 0, $end = count($own); $k < $end; $k += 3) {
            $x = $own[$k];
            $y = $own[$k + 1];
            $z = $own[$k + 2];
            $px[] = $ox + $a * $x + $b * $y + $c * $z;
            $py[] = $oy + $d * $x + $e * $y + $f * $z;
            $pz[] = $oz + $g * $x + $h * $y + $i * $z;
        }

        return [$px, $py, $pz];
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is places of all vertices, m
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was a substep before
     *
     * @return list<Place> of each corner that is in it; and of all that come near, so that they do not go through in one substep
     */
    public function places(array $is, array $was): array
    {
        [$in, $ahead, $depth] = $this->look($is, $was, $this->soon);
        if ($depth > $this->soon) {
            // So deep that it may be nearer before another.
            [$in] = $this->look($is, $was, $depth);
        }

        return [...$in, ...$ahead];
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was
     * @param float $far what is farther before a triangle does not matter, m
     *
     * @return array{list<Place>, list<Place>, float} of each corner that is in it, of all that come near, and how deep the deepest is, m
     */
    private function look(array $is, array $was, float $far): array
    {
        [$x, $y, $z] = $is;
        [$PX, $PY, $PZ] = self::placed($this->collider, $this->own);
        $nearest = $ahead = [];
        $depth = 0.0;
        foreach ($this->triangles as $t => [$a, $b, $c, $side]) {
            $ax = $x[$a];
            $ay = $y[$a];
            $az = $z[$a];
            $ux = $x[$b] - $ax;
            $uy = $y[$b] - $ay;
            $uz = $z[$b] - $az;
            $vx = $x[$c] - $ax;
            $vy = $y[$c] - $ay;
            $vz = $z[$c] - $az;
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $area = $nx * $nx + $ny * $ny + $nz * $nz;
            if ($area < 1e-24) {
                continue;
            }
            $length = $side * sqrt($area);
            foreach ($this->near[$t] as $v) {
                $dx = $PX[$v] - $ax;
                $dy = $PY[$v] - $ay;
                $dz = $PZ[$v] - $az;
                $before = ($nx * $dx + $ny * $dy + $nz * $dz) / $length;
                if ($before > $far || -$before > $this->deepest) {
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
                $place = [[$PX[$v], $PY[$v], $PZ[$v]], [-$nx / $length, -$ny / $length, -$nz / $length], $goes, $this->gap - $before];
                if ($place[3] <= 0.0) {
                    $ahead[] = $place;
                }
                if (! isset($nearest[$v]) || abs($before) < $nearest[$v][0]) {
                    $nearest[$v] = [abs($before), $place];
                }
                $depth = max($depth, -$before);
            }
        }

        // What is behind one triangle and nearer before another is beyond something thin, not in it.
        return [array_column(array_filter($nearest, static fn (array $near): bool => $near[1][3] > 0.0), 1), $ahead, $depth];
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
