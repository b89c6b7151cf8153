<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * How much a mesh is curved outwards where it is round, as something flat of a certain size meets it: who keeps its corners on what is
 * round has its middle in it. By angles at edges (mean curvature: Steiner 1840) and what is missing of a full turn at places (Gaussian:
 * Gauss 1827), both as sums over a neighbourhood, so that bumps and dents of what is rough undo each other. Vertices in the same place
 * count as one, all sizes of a surface share it.
 */
final class Roundness
{
    /** A place around which so much of a full turn is missing is a tip, radians: of a cone half of its opening is sixty degrees or less. */
    private const TIP = 0.8;

    /** How far the middle of a triangle lies within a ball on which its corners are, in squares of its mean edge over the radius: half the square of its circumradius, of an even one a sixth, of half a square this. */
    private const SAG = 0.2;

    /** Rounds in which places take half of what their neighbours have; each spreads by half an edge. */
    private const MOST_ROUNDS = 40;

    /** @var array{list<int>, list<int>}|null both ends of each edge */
    private ?array $edges = null;

    /** @var list<float> what is bent at each place: length times angle, over four, m */
    private array $bent = [];

    /** @var list<float> what is missing there of a full turn, radians */
    private array $turn = [];

    /** @var list<float> area that belongs to it, m2 */
    private array $area = [];

    /** @var list<float> by how much faces there stand out beyond others, each as much as it is bent, m2 */
    private array $facets = [];

    /** @var array<int, int> the first vertex in the same place */
    private array $same = [];

    /** @var array<int, array{list<float>, list<float>}> by rounds: curvature at each vertex, 1/m, and how far the flat faces lie within what they stand for, m */
    private array $known = [];

    public function __construct(private readonly TriangleMesh $mesh)
    {
    }

    /**
     * How far off the corners of a triangle must be kept for its middle not to come into this: at each face.
     *
     * @param float $edge how long its edges are on average, m
     *
     * @return list<float> m; 0 where this is flat or hollow
     */
    public function keeps(float $edge): array
    {
        [$curvature, $facet] = $this->at($edge);
        $keeps = [];
        foreach (array_chunk($this->mesh->triangles, 3) as [$a, $b, $c]) {
            $bend = ($curvature[$a] + $curvature[$b] + $curvature[$c]) / 3.0;
            if ($bend <= 0.0) {
                $keeps[] = 0.0;
                continue;
            }
            $own = ($facet[$a] + $facet[$b] + $facet[$c]) / 3.0;
            // What is smaller than this one's faces bends with them, all at once at their edges.
            $wide = sqrt($own / (self::SAG * $bend));
            $keeps[] = self::SAG * $edge * $edge * $bend + ($wide > $edge ? $own * $edge / $wide : $own);
        }

        return $keeps;
    }

    /** @return list<int> the first vertex at each place that comes to a point and that no sharp edge leads to */
    public function tips(): array
    {
        $this->edges ??= $this->measure();

        return array_keys(array_filter($this->turn, fn (float $turn, int $v): bool => $turn > self::TIP && $this->bent[$v] > 0.0 && $this->same[$v] === $v, ARRAY_FILTER_USE_BOTH));
    }

    /** @return array{list<float>, list<float>} */
    private function at(float $edge): array
    {
        $this->edges ??= $this->measure();
        $mean = $this->mesh->meanEdge();
        // So many rounds spread as far as half of what meets it.
        $rounds = $mean > 0.0 ? (int) min(self::MOST_ROUNDS, ceil(($edge / $mean) ** 2 / 2.0)) : 0;

        return $this->known[$rounds] ??= $this->spread($rounds);
    }

    /** @return array{list<int>, list<int>} */
    private function measure(): array
    {
        [$x, $y, $z] = [$this->mesh->x, $this->mesh->y, $this->mesh->z];
        $vertices = count($x);
        $known = $normals = $heights = $beside = $from = $to = $sharp = [];
        foreach ($x as $v => $at) {
            $this->same[$v] = $known[pack('e3', $at, $y[$v], $z[$v])] ??= $v;
        }
        $bent = $area = $facets = array_fill(0, $vertices, 0.0);
        $turn = array_fill(0, $vertices, 2.0 * M_PI);
        foreach (array_chunk($this->mesh->triangles, 3) as $f => $corners) {
            $corners = array_map(fn (int $v): int => $this->same[$v], $corners);
            [$a, $b, $c] = $corners;
            [$ux, $uy, $uz] = [$x[$b] - $x[$a], $y[$b] - $y[$a], $z[$b] - $z[$a]];
            [$vx, $vy, $vz] = [$x[$c] - $x[$a], $y[$c] - $y[$a], $z[$c] - $z[$a]];
            [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
            $twice = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            if ($twice <= 0.0) {
                continue;
            }
            $normals[$f] = [$nx / $twice, $ny / $twice, $nz / $twice];
            $heights[$f] = $twice;
            $dot = $ux * $vx + $uy * $vy + $uz * $vz;
            $turn[$a] -= atan2($twice, $dot);
            $turn[$b] -= atan2($twice, $ux * $ux + $uy * $uy + $uz * $uz - $dot);
            $turn[$c] -= atan2($twice, $vx * $vx + $vy * $vy + $vz * $vz - $dot);
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$i, $j]) {
                $area[$i] += $twice / 6.0;
                $other = $beside[$j * $vertices + $i] ?? null;
                if ($other === null) {
                    $beside[$i * $vertices + $j] = $f;
                    continue;
                }
                unset($beside[$j * $vertices + $i]);
                [$ex, $ey, $ez] = [$x[$j] - $x[$i], $y[$j] - $y[$i], $z[$j] - $z[$i]];
                $length = sqrt($ex * $ex + $ey * $ey + $ez * $ez);
                [$px, $py, $pz] = $normals[$f];
                [$qx, $qy, $qz] = $normals[$other];
                // This face goes round along the edge: where the two lean away from each other, their normals turn about it that way.
                $cosine = $px * $qx + $py * $qy + $pz * $qz;
                $angle = atan2((($py * $qz - $pz * $qy) * $ex + ($pz * $qx - $px * $qz) * $ey + ($px * $qy - $py * $qx) * $ez) / $length, $cosine);
                if ($cosine < SurfaceNormals::SHARP) {
                    $sharp[$i] = $sharp[$j] = true;
                    continue;
                }
                $from[] = $i;
                $to[] = $j;
                // As wide as a face is across the edge.
                $stands = $angle > 0.0 ? 0.25 * $length * $angle * self::SAG * $angle * 0.5 * ($twice + $heights[$other]) / $length : 0.0;
                foreach ([$i, $j] as $end) {
                    $bent[$end] += 0.25 * $length * $angle;
                    $facets[$end] += $stands;
                }
            }
        }
        // At a rim or a sharp edge what is missing is no roundness.
        foreach ($beside as $key => $f) {
            $sharp[intdiv($key, $vertices)] = $sharp[$key % $vertices] = true;
        }
        [$this->bent, $this->area, $this->facets] = [array_values($bent), array_values($area), array_values($facets)];
        $this->turn = array_map(static fn (int $v): float => isset($sharp[$v]) ? 0.0 : $turn[$v], array_keys($turn));

        return [$from, $to];
    }

    /** @return array{list<float>, list<float>} */
    private function spread(int $rounds): array
    {
        [$bent, $turn, $area, $facets] = [$this->bent, $this->turn, $this->area, $this->facets];
        [$from, $to] = $this->edges ?? [[], []];
        $part = array_fill(0, count($area), 0.0);
        foreach ($from as $e => $i) {
            $part[$i] += 1.0;
            $part[$to[$e]] += 1.0;
        }
        // Half of what it has goes from each place, evenly.
        $part = array_map(static fn (float $valence): float => 0.5 / max(1.0, $valence), $part);
        for ($round = 0; $round < $rounds; $round++) {
            [$a, $b, $c, $d] = [$bent, $turn, $area, $facets];
            foreach ($from as $e => $i) {
                $j = $to[$e];
                $p = $part[$i];
                $q = $part[$j];
                $goes = $a[$i] * $p - $a[$j] * $q;
                $bent[$i] -= $goes;
                $bent[$j] += $goes;
                $goes = $b[$i] * $p - $b[$j] * $q;
                $turn[$i] -= $goes;
                $turn[$j] += $goes;
                $goes = $c[$i] * $p - $c[$j] * $q;
                $area[$i] -= $goes;
                $area[$j] += $goes;
                $goes = $d[$i] * $p - $d[$j] * $q;
                $facets[$i] -= $goes;
                $facets[$j] += $goes;
            }
        }
        $curvature = $facet = [];
        foreach ($this->same as $v => $i) {
            $mean = $area[$i] > 0.0 ? $bent[$i] / $area[$i] : 0.0;
            // The larger one of both curvatures: along a pole the other is nothing.
            $curvature[$v] = $area[$i] > 0.0 ? $mean + sqrt(max(0.0, $mean * $mean - $turn[$i] / $area[$i])) : 0.0;
            $facet[$v] = $bent[$i] > 0.0 ? $facets[$i] / $bent[$i] : 0.0;
        }

        return [array_values($curvature), array_values($facet)];
    }
}
