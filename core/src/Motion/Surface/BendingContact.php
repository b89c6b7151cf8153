<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

use YardBreak\Core\Mesh\SurfaceTree;

/**
 * Vertices of one surface that bends, and points along its sharp edges, against the triangles of another, for the length of a step. Each
 * that may come near keeps the triangle it was nearest to and the side it was on; it and the triangle push each other by their masses.
 */
final class BendingContact
{
    /** What was inside already when the step began is pushed out by so much at a time at the most, in gaps; and so is what is put right without speed: more would be a shot. */
    private const OUT = 0.5;

    /** No vertex counts as lighter than the other side by more than this many times: light cloth is to bear heavy things. */
    private const LIGHTER = 3.0;

    /** Points along sharp edges are a gap apart, or this part of an edge of the other, which is flat so far: between two of them nothing comes through. */
    private const SPACING = 0.2;

    /** What is beside its triangle by no more than this share of it still counts as over it: it slides while a step goes on. */
    private const BESIDE = 0.25;

    /**
     * @param list<int> $from of the one: a vertex, or the one end of an edge
     * @param list<int> $to the same vertex, or the other end
     * @param list<float> $share how far it is from there to there
     * @param list<int> $faces of the other, the nearest of each
     * @param list<float> $sides 1 or -1: on which side of it
     * @param list<bool> $inside whether it was inside
     */
    private function __construct(private readonly array $from, private readonly array $to, private readonly array $share, private readonly array $faces, private readonly array $sides, private readonly array $inside, private readonly float $gap, private readonly float $friction)
    {
    }

    /**
     * @param Edges $edges of the one
     * @param float $edge how long those of the other are on average, m
     * @param float $reach how far both may come towards each other in the step, m
     */
    public static function of(Bending $one, Bending $other, Edges $edges, float $edge, SurfaceTree $tree, float $reach): ?self
    {
        $gap = max($one->gap, $other->gap);
        $limit = $gap + $reach;
        [[$lx, $ly, $lz], [$hx, $hy, $hz]] = $tree->bounds();
        [$i, $j, $t] = $edges->points($one, max($gap, self::SPACING * $edge));
        $all = array_keys($one->x);
        $from = $to = $share = $faces = $sides = $inside = [];
        foreach ([[$all, $all, array_fill(0, count($all), 0.0)], [$i, $j, $t]] as [$i, $j, $t]) {
            foreach ($i as $k => $a) {
                $b = $j[$k];
                $s = $t[$k];
                $x = $one->x[$a] + $s * ($one->x[$b] - $one->x[$a]);
                $y = $one->y[$a] + $s * ($one->y[$b] - $one->y[$a]);
                $z = $one->z[$a] + $s * ($one->z[$b] - $one->z[$a]);
                if ($x < $lx - $limit || $x > $hx + $limit || $y < $ly - $limit || $y > $hy + $limit || $z < $lz - $limit || $z > $hz + $limit) {
                    continue;
                }
                $triangle = $tree->nearest($x, $y, $z, $limit, -1);
                if ($triangle < 0) {
                    continue;
                }
                $tree->look($triangle, $x, $y, $z);
                [$nx, $ny, $nz] = $tree->facing($triangle, $x, $y, $z);
                $from[] = $a;
                $to[] = $b;
                $share[] = $s;
                $faces[] = $tree->seat($triangle, $x, $y, $z)[0];
                $inside[] = $tree->distance < 0.0;
                $sides[] = $other->closed || $nx * $tree->nx + $ny * $tree->ny + $nz * $tree->nz >= 0.0 ? 1.0 : -1.0;
            }
        }

        return $from === [] ? null : new self($from, $to, $share, $faces, $sides, $inside, $gap, sqrt($one->friction * $other->friction));
    }

    /**
     * Pushes both apart, with friction. A push is felt as speed only as far as they came towards each other.
     *
     * @param bool $rubs false: places are only put right, and no speed changes
     *
     * @return float the deepest that anything was, m
     */
    public function resolve(Bending $one, Bending $other, bool $rubs = true): float
    {
        [$X, $Y, $Z, $P, $Q, $R, $w] = [$one->x, $one->y, $one->z, $one->px, $one->py, $one->pz, $one->w];
        [$A, $B, $C, $S, $T, $U, $v] = [$other->x, $other->y, $other->z, $other->px, $other->py, $other->pz, $other->w];
        // Both feel a push as if their substeps were as long as the longer one.
        $h = max($one->h, $other->h);
        [$own, $their] = [$one->h / $h, $other->h / $h];
        $deepest = 0.0;
        foreach ($this->from as $k => $i) {
            $j = $this->to[$k];
            $sj = $this->share[$k];
            $si = 1.0 - $sj;
            $t = 3 * $this->faces[$k];
            [$a, $b, $c] = [$other->triangles[$t], $other->triangles[$t + 1], $other->triangles[$t + 2]];
            $ux = $A[$b] - $A[$a];
            $uy = $B[$b] - $B[$a];
            $uz = $C[$b] - $C[$a];
            $vx = $A[$c] - $A[$a];
            $vy = $B[$c] - $B[$a];
            $vz = $C[$c] - $C[$a];
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $l = $nx * $nx + $ny * $ny + $nz * $nz;
            if ($l < 1e-24) {
                continue;
            }
            $l = $this->sides[$k] / sqrt($l);
            $nx *= $l;
            $ny *= $l;
            $nz *= $l;
            $dx = $si * $X[$i] + $sj * $X[$j] - $A[$a];
            $dy = $si * $Y[$i] + $sj * $Y[$j] - $B[$a];
            $dz = $si * $Z[$i] + $sj * $Z[$j] - $C[$a];
            $push = $this->gap - $nx * $dx - $ny * $dy - $nz * $dz;
            if ($push <= 0.0) {
                continue;
            }
            // Where over the triangle it is.
            [$sb, $sc, $over] = self::shares($ux, $uy, $uz, $vx, $vy, $vz, $dx, $dy, $dz);
            if (! $over) {
                // Beside it the nearest edge or corner counts, and only from outside: beneath it is a neighbour's matter.
                $ex = $dx - $sb * $ux - $sc * $vx;
                $ey = $dy - $sb * $uy - $sc * $vy;
                $ez = $dz - $sb * $uz - $sc * $vz;
                $l = sqrt($ex * $ex + $ey * $ey + $ez * $ez);
                if ($push > $this->gap || $l >= $this->gap || $l < 1e-9) {
                    continue;
                }
                $push = $this->gap - $l;
                $nx = $ex / $l;
                $ny = $ey / $l;
                $nz = $ez / $l;
            }
            $deepest = $push > $deepest ? $push : $deepest;
            // Rounded it may be less than nothing, and push the wrong way, far.
            $sa = max(0.0, 1.0 - $sb - $sc);
            $wi = $si * $w[$i];
            $wj = $sj * $w[$j];
            $wt = $sa * $sa * $v[$a] + $sb * $sb * $v[$b] + $sc * $sc * $v[$c];
            if ($wi + $wj + $wt <= 0.0) {
                continue;
            }
            // What is much lighter weighs more than it does here: it may hang on what cannot give way, and has to bear the other.
            $by = 1.0;
            $mean = $sa * $v[$a] + $sb * $v[$b] + $sc * $v[$c];
            $mine = $wi + $wj;
            if ($mean > 0.0 && $mine > self::LIGHTER * $mean) {
                $mine = self::LIGHTER * $mean / $mine;
                $wi *= $mine;
                $wj *= $mine;
            } elseif ($mine > 0.0 && $mean > self::LIGHTER * $mine) {
                $by = self::LIGHTER * $mine / $mean;
            }
            // No corner goes farther than the push, however small its share is while the others are held.
            $sum = max($si * $wi + $sj * $wj + $by * $wt, $wi, $wj, $by * max($sa * $v[$a], $sb * $v[$b], $sc * $v[$c]));
            // How they came towards each other, in the longer of their substeps.
            $tx = ($si * ($X[$i] - $P[$i]) + $sj * ($X[$j] - $P[$j])) / $own - ($sa * ($A[$a] - $S[$a]) + $sb * ($A[$b] - $S[$b]) + $sc * ($A[$c] - $S[$c])) / $their;
            $ty = ($si * ($Y[$i] - $Q[$i]) + $sj * ($Y[$j] - $Q[$j])) / $own - ($sa * ($B[$a] - $T[$a]) + $sb * ($B[$b] - $T[$b]) + $sc * ($B[$c] - $T[$c])) / $their;
            $tz = ($si * ($Z[$i] - $R[$i]) + $sj * ($Z[$j] - $R[$j])) / $own - ($sa * ($C[$a] - $U[$a]) + $sb * ($C[$b] - $U[$b]) + $sc * ($C[$c] - $U[$c])) / $their;
            $along = $tx * $nx + $ty * $ny + $tz * $nz;
            $came = $rubs && $along < 0.0 ? -$along : 0.0;
            $push = ! $rubs || $this->inside[$k] ? min($push, $came + self::OUT * $this->gap) : $push;
            $felt = $push < $came ? $push : $came;
            $tx -= $along * $nx;
            $ty -= $along * $ny;
            $tz -= $along * $nz;
            $slid = sqrt($tx * $tx + $ty * $ty + $tz * $tz);
            $friction = $rubs ? $this->friction * $push : 0.0;
            $f = $slid > $friction ? $friction / $slid : ($rubs ? 1.0 : 0.0);
            $push /= $sum;
            $felt /= $sum;
            $f /= $sum;
            // Of the push what is no speed moves the place before as well.
            $mx = $push * $nx - $f * $tx;
            $my = $push * $ny - $f * $ty;
            $mz = $push * $nz - $f * $tz;
            $ox = $mx - $felt * $nx + $f * $tx;
            $oy = $my - $felt * $ny + $f * $ty;
            $oz = $mz - $felt * $nz + $f * $tz;
            $rest = 1.0 - $own;
            foreach ($sj > 0.0 ? [[$i, $wi], [$j, $wj]] : [[$i, $wi]] as [$n, $s]) {
                $X[$n] += $s * $mx;
                $Y[$n] += $s * $my;
                $Z[$n] += $s * $mz;
                $P[$n] += $s * ($ox + $rest * ($mx - $ox));
                $Q[$n] += $s * ($oy + $rest * ($my - $oy));
                $R[$n] += $s * ($oz + $rest * ($mz - $oz));
            }
            $rest = 1.0 - $their;
            foreach ([[$a, $sa], [$b, $sb], [$c, $sc]] as [$n, $share]) {
                $s = -$share * $by * $v[$n];
                $A[$n] += $s * $mx;
                $B[$n] += $s * $my;
                $C[$n] += $s * $mz;
                $S[$n] += $s * ($ox + $rest * ($mx - $ox));
                $T[$n] += $s * ($oy + $rest * ($my - $oy));
                $U[$n] += $s * ($oz + $rest * ($mz - $oz));
            }
        }
        [$one->x, $one->y, $one->z, $one->px, $one->py, $one->pz] = [$X, $Y, $Z, $P, $Q, $R];
        [$other->x, $other->y, $other->z, $other->px, $other->py, $other->pz] = [$A, $B, $C, $S, $T, $U];

        return $deepest;
    }

    /** @return array{float, float, bool} shares of the second and third corner, each of all three 0 to 1; whether it lies over the triangle */
    private static function shares(float $ux, float $uy, float $uz, float $vx, float $vy, float $vz, float $dx, float $dy, float $dz): array
    {
        $uu = $ux * $ux + $uy * $uy + $uz * $uz;
        $uv = $ux * $vx + $uy * $vy + $uz * $vz;
        $vv = $vx * $vx + $vy * $vy + $vz * $vz;
        $du = $dx * $ux + $dy * $uy + $dz * $uz;
        $dv = $dx * $vx + $dy * $vy + $dz * $vz;
        $det = $uu * $vv - $uv * $uv;
        if ($det <= 1e-30) {
            return [0.0, 0.0, false];
        }
        $b = ($vv * $du - $uv * $dv) / $det;
        $c = ($uu * $dv - $uv * $du) / $det;
        if ($b >= -self::BESIDE && $c >= -self::BESIDE && $b + $c <= 1.0 + self::BESIDE) {
            $b = $b < 0.0 ? 0.0 : $b;
            $c = $c < 0.0 ? 0.0 : $c;
            $sum = $b + $c > 1.0 ? $b + $c : 1.0;

            return [$b / $sum, $c / $sum, true];
        }
        $b = max(0.0, min(1.0, $b));
        $c = max(0.0, min(1.0, $c));
        $sum = max(1.0, $b + $c);

        return [$b / $sum, $c / $sum, false];
    }
}
