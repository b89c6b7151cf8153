<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Motion\Collider;

/**
 * The sharp edges of a collider, and its tips, against the triangles of a cloth, for the length of a step: between its vertices a cloth would
 * let an edge through. Points along the edges keep their distance from the nearest triangle, on the side they are on.
 */
final class RidgeContact
{
    /** A triangle that is edge on to a ridge is on neither side of it; square of the cosine. */
    private const FACING = 0.16;

    /** Cosine between the way back over an edge and the way out of the thing, at least: where its sides meet more sharply than by forty degrees. */
    private const ACROSS = 0.35;

    /** Points look for triangles this far, in spacings: one that finds none has nothing to do for some substeps. */
    private const LOOK = 3.0;

    /** Triangles around a tip are watched from so much farther away, in spacings. */
    private const AROUND = 4.0;

    /** Longer rows of points than this are thinned out. */
    private const MOST = 4000;

    /** What goes so fast that all points may come near all triangles has fewer points: more pairs than this take all memory. */
    private const MOST_PAIRS = 2_000_000;

    /** @var list<array{float, float, float}> points in the collider's axes */
    private array $points = [];

    /** @var list<array{float, float, float}> outward at each, unit, in the collider's axes */
    private array $outward = [];

    /** @var list<bool> whether each is a tip: what is beside it there has come through no less than what is in it */
    private array $tip = [];

    /** @var list<list<int>> triangles that may come near each; the number of a triangle's first corner in the list of corners */
    private array $near = [];

    /** @var array{list<float>, array{float, float, float}} */
    private array $before;

    /** @var array<int, float> how far a triangle may come towards each point in a substep, m */
    private array $each = [];

    /** @var array<int, int> substep up to which each point has nothing to do */
    private array $idle = [];

    private int $substep = 0;

    /**
     * @param float $deepest a point farther from the cloth than this has nothing to do with it, m
     * @param list<PlaneContact> $planes
     * @param array<int, true> $pinned
     */
    private function __construct(
        private readonly Collider $collider,
        private readonly float $gap,
        private readonly float $spacing,
        private readonly float $friction,
        private readonly float $deepest,
        private readonly array $planes,
        private readonly array $pinned,
    ) {
        $this->before = $this->axes();
    }

    /**
     * @param array<int, float> $x places of the cloth's vertices
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param list<int> $triangles
     * @param list<list<int>> $around triangles at each vertex, by the number of their first corner
     * @param list<int> $vertices those that may come near the collider
     * @param float $spacing of the points, m
     * @param float $gap distance that is kept, m
     * @param list<PlaneContact> $planes edges that lie on one touch nothing
     * @param array<int, float> $way how far each vertex may go in a substep, m
     * @param int $substeps in the step
     * @param float $travel how far the collider may go in a substep, m
     * @param array<int, true> $pinned vertices between a floor and this collider: nothing is drawn out from there
     *
     * @return self|null null: no sharp edge is near
     */
    public static function of(
        Collider $collider,
        array $x,
        array $y,
        array $z,
        array $triangles,
        array $around,
        array $vertices,
        float $spacing,
        float $gap,
        array $way,
        int $substeps,
        float $travel,
        float $friction,
        array $planes,
        array $pinned,
    ): ?self {
        $contact = new self($collider, $gap, $spacing, $friction, $gap + $spacing, $planes, $pinned);
        $contact->scatter();
        if ($contact->points === []) {
            return null;
        }
        $contact->find($x, $y, $z, $triangles, self::at($vertices, $around), $way, $substeps, $travel);

        return $contact->points === [] ? null : $contact;
    }

    /**
     * @param list<int> $vertices
     * @param list<list<int>> $around
     *
     * @return list<int> triangles at these vertices
     */
    public static function at(array $vertices, array $around): array
    {
        $seen = [];
        foreach ($vertices as $i) {
            foreach ($around[$i] as $t) {
                $seen[$t] = true;
            }
        }
        ksort($seen);

        return array_keys($seen);
    }

    /** @return array{list<float>, array{float, float, float}} matrix and place of the collider's axes */
    private function axes(): array
    {
        [$position, $rotation] = $this->collider->pose();

        return [Quaternion::matrix($rotation), $position];
    }

    /** Points along all sharp edges, ends included once, and at tips. */
    private function scatter(): void
    {
        $spacing = $this->spacing;
        $seen = [];
        $length = 0.0;
        $ridges = $this->collider->surface()->ridges();
        foreach ($ridges as [$a, $b]) {
            $length += sqrt(($a[0] - $b[0]) ** 2 + ($a[1] - $b[1]) ** 2 + ($a[2] - $b[2]) ** 2);
        }
        $spacing = max($spacing, $length / self::MOST);
        foreach ($ridges as [$a, $b, $n]) {
            $steps = max(1, (int) ceil(sqrt(($a[0] - $b[0]) ** 2 + ($a[1] - $b[1]) ** 2 + ($a[2] - $b[2]) ** 2) / $spacing));
            for ($k = 0; $k <= $steps; $k++) {
                $t = $k / $steps;
                $point = [$a[0] + $t * ($b[0] - $a[0]), $a[1] + $t * ($b[1] - $a[1]), $a[2] + $t * ($b[2] - $a[2])];
                $end = $k === 0 || $k === $steps ? pack('e3', ...$point) : null;
                if ($end !== null && isset($seen[$end])) {
                    // Ends are shared: outward is between the edges.
                    $o = $this->outward[$seen[$end]];
                    $this->outward[$seen[$end]] = [$o[0] + $n[0], $o[1] + $n[1], $o[2] + $n[2]];
                    continue;
                }
                if ($end !== null) {
                    $seen[$end] = count($this->points);
                }
                $this->points[] = $point;
                $this->outward[] = $n;
            }
        }
        $this->tip = array_fill(0, count($this->points), false);
        foreach ($this->collider->surface()->tips() as [$tip, $n]) {
            $this->tip[] = true;
            $this->points[] = $tip;
            $this->outward[] = $n;
        }
        foreach ($this->outward as $k => [$x, $y, $z]) {
            $l = sqrt($x * $x + $y * $y + $z * $z) + 1e-30;
            $this->outward[$k] = [$x / $l, $y / $l, $z / $l];
        }
    }

    /**
     * Keeps only points that triangles are near, with these.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param list<int> $triangles
     * @param list<int> $those triangles, by their first corner
     * @param array<int, float> $way
     */
    private function find(array $x, array $y, array $z, array $triangles, array $those, array $way, int $substeps, float $travel): void
    {
        [$m, [$tx, $ty, $tz]] = $this->before;
        $cell = 1.0 / (4.0 * $this->spacing + 2.0 * ($this->gap + $substeps * $travel));
        $grid = $places = [];
        foreach ($this->points as $k => [$a, $b, $c]) {
            $places[$k] = $p = [$m[0] * $a + $m[1] * $b + $m[2] * $c + $tx, $m[3] * $a + $m[4] * $b + $m[5] * $c + $ty, $m[6] * $a + $m[7] * $b + $m[8] * $c + $tz];
            if (PlaneContact::isBelow($this->planes, ...$p)) {
                continue;
            }
            $grid[(int) floor($p[0] * $cell)][(int) floor($p[1] * $cell)][(int) floor($p[2] * $cell)][] = $k;
        }
        $near = $each = [];
        // All that hangs on a tip draws at a few triangles, which go farther in a step than what is near them.
        $more = in_array(true, $this->tip, true) ? self::AROUND * $this->spacing : 0.0;
        $pairs = 0;
        foreach ($those as $t) {
            [$a, $b, $c] = [$triangles[$t], $triangles[$t + 1], $triangles[$t + 2]];
            $goes = max($way[$a], $way[$b], $way[$c]) + $travel;
            $reach = $this->gap + $substeps * $goes + $more;
            $low = [min($x[$a], $x[$b], $x[$c]) - $reach, min($y[$a], $y[$b], $y[$c]) - $reach, min($z[$a], $z[$b], $z[$c]) - $reach];
            $high = [max($x[$a], $x[$b], $x[$c]) + $reach, max($y[$a], $y[$b], $y[$c]) + $reach, max($z[$a], $z[$b], $z[$c]) + $reach];
            for ($i = (int) floor($low[0] * $cell), $to = (int) floor($high[0] * $cell); $i <= $to; $i++) {
                for ($j = (int) floor($low[1] * $cell), $toJ = isset($grid[$i]) ? (int) floor($high[1] * $cell) : $j - 1; $j <= $toJ; $j++) {
                    for ($l = (int) floor($low[2] * $cell), $toL = isset($grid[$i][$j]) ? (int) floor($high[2] * $cell) : $l - 1; $l <= $toL; $l++) {
                        foreach ($grid[$i][$j][$l] ?? [] as $k) {
                            $p = $places[$k];
                            if ($p[0] >= $low[0] && $p[0] <= $high[0] && $p[1] >= $low[1] && $p[1] <= $high[1] && $p[2] >= $low[2] && $p[2] <= $high[2]) {
                                $near[$k][] = $t;
                                $pairs++;
                                $each[$k] = isset($each[$k]) && $each[$k] > $goes ? $each[$k] : $goes;
                            }
                        }
                    }
                }
            }
            if ($pairs > self::MOST_PAIRS) {
                unset($near, $each, $grid, $places);
                $this->keep(array_values(array_filter(array_keys($this->points), static fn (int $k): bool => $k % 2 === 0)));
                $this->find($x, $y, $z, $triangles, $those, $way, $substeps, $travel);

                return;
            }
        }
        ksort($near);
        $this->near = array_values($near);
        $this->keep(array_keys($near));
        $this->each = array_map(static fn (int $k): float => $each[$k], array_keys($near));
        $this->idle = array_fill(0, count($near), 0);
    }

    /** @param list<int> $points those that stay */
    private function keep(array $points): void
    {
        $this->points = array_map(fn (int $k): array => $this->points[$k], $points);
        $this->outward = array_map(fn (int $k): array => $this->outward[$k], $points);
        $this->tip = array_map(fn (int $k): bool => $this->tip[$k], $points);
    }

    /** Ends a substep. */
    public function settle(): void
    {
        $this->substep++;
        $this->before = $this->axes();
    }

    /**
     * Pushes triangles off the points. What of a push is more than they came nearer in the substep is no speed: their places
     * before move with it.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses
     * @param list<int> $triangles
     *
     * @return array{float, float, float, float, float, float} as SurfaceContact gives
     */
    public function resolve(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w, array $triangles, bool $rubs): array
    {
        [$X, $Y, $Z, $P, $Q, $R] = [$x, $y, $z, $px, $py, $pz];
        $x = $y = $z = $px = $py = $pz = [];
        [[$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8], [$tx, $ty, $tz]] = $this->axes();
        [[$b0, $b1, $b2, $b3, $b4, $b5, $b6, $b7, $b8], [$ox, $oy, $oz]] = $this->before;
        [$gap, $planes, $pinned] = [$this->gap, $this->planes, $this->pinned];
        $tree = $this->collider->surface();
        $closed = $tree->closed;
        $look = $gap + self::LOOK * $this->spacing;
        $jx = $jy = $jz = $kx = $ky = $kz = 0.0;
        foreach ($this->points as $k => [$la, $lb, $lc]) {
            if ($this->substep < $this->idle[$k]) {
                continue;
            }
            $sx = $m0 * $la + $m1 * $lb + $m2 * $lc + $tx;
            $sy = $m3 * $la + $m4 * $lb + $m5 * $lc + $ty;
            $sz = $m6 * $la + $m7 * $lb + $m8 * $lc + $tz;
            [$at, $bu, $bv, $bx, $by, $bz] = NearTriangles::nearest($this->near[$k], $sx, $sy, $sz, $X, $Y, $Z, $triangles, $look);
            $far = $at < 0 ? $look : sqrt($bx * $bx + $by * $by + $bz * $bz);
            if ($at < 0 || ($far > $this->deepest && ! $this->tip[$k])) {
                $this->idle[$k] = $this->substep + (int) (($far - $gap) / $this->each[$k]);
                continue;
            }
            // The cloth lies outward of the point; seen from the cloth the point is the other way. Through it, it is not.
            [$oa, $ob, $oc] = $this->outward[$k];
            $nx = $m0 * $oa + $m1 * $ob + $m2 * $oc;
            $ny = $m3 * $oa + $m4 * $ob + $m5 * $oc;
            $nz = $m6 * $oa + $m7 * $ob + $m8 * $oc;
            $pierced = -1;
            if ($this->tip[$k]) {
                // Beside a thin tip there is nothing: that a triangle is below it says as little as how it faces.
                [$pierced, $u, $v, $far] = NearTriangles::pierced($this->near[$k], $sx, $sy, $sz, -$nx, -$ny, -$nz, $X, $Y, $Z, $triangles, $look);
                if ($pierced >= 0) {
                    [$at, $bu, $bv, $bx, $by, $bz] = [$pierced, $u, $v, $far * $nx, $far * $ny, $far * $nz];
                }
            }
            $i = $triangles[$at];
            $j = $triangles[$at + 1];
            $l = $triangles[$at + 2];
            $ux = $X[$j] - $X[$i];
            $uy = $Y[$j] - $Y[$i];
            $uz = $Z[$j] - $Z[$i];
            $vx = $X[$l] - $X[$i];
            $vy = $Y[$l] - $Y[$i];
            $vz = $Z[$l] - $Z[$i];
            $dx = $uy * $vz - $uz * $vy;
            $dy = $uz * $vx - $ux * $vz;
            $dz = $ux * $vy - $uy * $vx;
            $facing = $dx * $nx + $dy * $ny + $dz * $nz;
            $inside = ($bx * $dx + $by * $dy + $bz * $dz) * $facing > 0.0;
            $far = sqrt($bx * $bx + $by * $by + $bz * $bz);
            $deep = $inside ? $gap + $far : $gap - $far;
            if ($pierced < 0 && ($deep <= 0.0 || ($inside && $this->tip[$k]) || $facing * $facing < self::FACING * ($dx * $dx + $dy * $dy + $dz * $dz))) {
                continue;
            }
            if ($inside) {
                // Pinned, or nearer to a floor than to the edge: it has not come over that.
                if (isset($pinned[$i]) || isset($pinned[$j]) || isset($pinned[$l]) || PlaneContact::height($planes, $sx - $bx, $sy - $by, $sz - $bz) < $deep) {
                    continue;
                }
                // What is not in the thing is on its other side, as cloth that it lies on.
                $ux = $sx - $bx - $tx;
                $uy = $sy - $by - $ty;
                $uz = $sz - $bz - $tz;
                $vx = $m0 * $ux + $m3 * $uy + $m6 * $uz;
                $vy = $m1 * $ux + $m4 * $uy + $m7 * $uz;
                $vz = $m2 * $ux + $m5 * $uy + $m8 * $uz;
                $nearest = $closed && $pierced < 0 ? $tree->nearest($vx, $vy, $vz, $look) : -1;
                if ($nearest >= 0) {
                    $tree->look($nearest, $vx, $vy, $vz);
                    // Where its own way out is another one it is not drawn back over the edge.
                    $across = $far > 1e-9 ? ($tree->nx * ($m0 * $bx + $m3 * $by + $m6 * $bz) + $tree->ny * ($m1 * $bx + $m4 * $by + $m7 * $bz) + $tree->nz * ($m2 * $bx + $m5 * $by + $m8 * $bz)) / $far : 1.0;
                    if ($tree->distance > 0.0 || $across < self::ACROSS) {
                        continue;
                    }
                }
            }
            if ($far > 1e-9) {
                // Away from the point, or back over it where the cloth has sunk below.
                $q = $inside ? 1.0 / $far : -1.0 / $far;
                $nx = $bx * $q;
                $ny = $by * $q;
                $nz = $bz * $q;
            }
            if ($planes !== [] && PlaneContact::keeps($planes, $sx - $bx, $sy - $by, $sz - $bz, $nx, $ny, $nz)) {
                continue;
            }
            if ($planes !== [] && PlaneContact::isBelow($planes, $sx - $bx + $deep * $nx, $sy - $by + $deep * $ny, $sz - $bz + $deep * $nz)) {
                // Pinched on a floor it has no room to go to.
                continue;
            }
            $o = 1.0 - $bu - $bv;
            $wi = $w[$i] * $o;
            $wj = $w[$j] * $bu;
            $wl = $w[$l] * $bv;
            $sum = $o * $wi + $bu * $wj + $bv * $wl;
            if ($sum <= 0.0) {
                continue;
            }
            // How it slid over the point, which moved too.
            $dx = $o * ($X[$i] - $P[$i]) + $bu * ($X[$j] - $P[$j]) + $bv * ($X[$l] - $P[$l]) - $sx + $b0 * $la + $b1 * $lb + $b2 * $lc + $ox;
            $dy = $o * ($Y[$i] - $Q[$i]) + $bu * ($Y[$j] - $Q[$j]) + $bv * ($Y[$l] - $Q[$l]) - $sy + $b3 * $la + $b4 * $lb + $b5 * $lc + $oy;
            $dz = $o * ($Z[$i] - $R[$i]) + $bu * ($Z[$j] - $R[$j]) + $bv * ($Z[$l] - $R[$l]) - $sz + $b6 * $la + $b7 * $lb + $b8 * $lc + $oz;
            $q = $dx * $nx + $dy * $ny + $dz * $nz;
            $dx -= $q * $nx;
            $dy -= $q * $ny;
            $dz -= $q * $nz;
            $slid = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
            $most = $this->friction * $deep;
            $f = $rubs ? ($slid > $most ? $most / $slid : 1.0) : 0.0;
            $more = $deep + ($q < 0.0 ? $q : 0.0);
            if ($more > 0.0) {
                $more /= $sum;
                $P[$i] += $more * $wi * $nx;
                $Q[$i] += $more * $wi * $ny;
                $R[$i] += $more * $wi * $nz;
                $P[$j] += $more * $wj * $nx;
                $Q[$j] += $more * $wj * $ny;
                $R[$j] += $more * $wj * $nz;
                $P[$l] += $more * $wl * $nx;
                $Q[$l] += $more * $wl * $ny;
                $R[$l] += $more * $wl * $nz;
            }
            $dx = ($deep * $nx - $f * $dx) / $sum;
            $dy = ($deep * $ny - $f * $dy) / $sum;
            $dz = ($deep * $nz - $f * $dz) / $sum;
            $X[$i] += $wi * $dx;
            $Y[$i] += $wi * $dy;
            $Z[$i] += $wi * $dz;
            $X[$j] += $wj * $dx;
            $Y[$j] += $wj * $dy;
            $Z[$j] += $wj * $dz;
            $X[$l] += $wl * $dx;
            $Y[$l] += $wl * $dy;
            $Z[$l] += $wl * $dz;
            // Of the push only what stopped it is felt.
            $q = $q < 0.0 ? min($deep, -$q) / $deep : 0.0;
            $dx *= $q;
            $dy *= $q;
            $dz *= $q;
            $jx += $dx;
            $jy += $dy;
            $jz += $dz;
            $kx += $sy * $dz - $sz * $dy;
            $ky += $sz * $dx - $sx * $dz;
            $kz += $sx * $dy - $sy * $dx;
        }
        [$x, $y, $z, $px, $py, $pz] = [$X, $Y, $Z, $P, $Q, $R];

        return [$jx, $jy, $jz, $kx, $ky, $kz];
    }

    /** @return list<int> triangles of the cloth near these edges, by the number of their first corner */
    public function triangles(): array
    {
        $triangles = [];
        foreach ($this->near as $near) {
            foreach ($near as $t) {
                $triangles[$t] = true;
            }
        }

        return array_keys($triangles);
    }

    public function collider(): Collider
    {
        return $this->collider;
    }
}
