<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\Collider;

/**
 * Triangles of a surface that bends against the ball inside a solid thing, for the length of a step: however few vertices the thing
 * meets, its middle does not come through between them. Each triangle keeps on the side on which it is when the step begins; around
 * something solid it keeps inside.
 */
final class CoreContact
{
    /** The ball is so much smaller than what it is in: where vertices do, they are to meet the thing itself. */
    private const WITHIN = 0.8;

    /** What is beside a triangle by no more than this share of it is still over it. */
    private const BESIDE = 0.05;

    /** A corner with less than this share of a push is not held to have been pushed. */
    private const PUSHED = 0.2;

    /** What is in goes out by no more than this share of its depth in a substep: faster it would hop. */
    private const OUT = 0.1;

    /** @var array<int, array{float, float, float}> the way each vertex was pushed last in the substep, unit */
    private array $touched = [];

    /** @var array<int, array{array{float, float, float}, float}> the way out at each corner of a triangle that goes nowhere, unit, and how deep that is in the ball, m */
    private array $firm = [];

    /** How far any triangle that was pushed off last and the middle had come nearer in the substep, m: a push makes nothing go apart faster. */
    public float $nearing = 0.0;

    /** And how far the two may go apart in a substep beyond that, m. */
    public float $parting = 0.0;

    /** @var array{float, float, float} where the middle of the ball was when the substep began */
    private array $before;

    /**
     * @param array{float, float, float} $middle of the ball, in the collider's axes
     * @param list<int> $corners three vertices a triangle
     * @param array<int, float> $sides of each triangle: 1 or -1, whether the middle is before or behind it, 0 beside it
     * @param float $radius of the ball and what is kept from it, m
     * @param float $within as {@see of()} has it
     */
    private function __construct(private readonly Collider $collider, private readonly array $middle, private readonly array $corners, private array $sides, private readonly float $radius, private readonly float $friction, private readonly float $within)
    {
        $this->before = $this->middle();
    }

    /** @return array{float, float, float} of the ball, now */
    private function middle(): array
    {
        [$position, $rotation] = $this->collider->pose();

        return Quaternion::carried($position, $rotation, $this->middle);
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param list<int> $triangles three vertices each
     * @param array<int, list<int>> $around by vertex, where in them the triangles at it begin
     * @param list<int> $vertices those that may come near
     * @param float $reach how far both may come towards each other in the step, and as far as a triangle is long, m
     * @param float $friction of both
     * @param float $within what is behind the triangles by less than this has come in and goes out again: they are around something solid, m; 0: they have two sides
     *
     * @return self|null null: it has no inside, or nothing is near
     */
    public static function of(Collider $collider, array $x, array $y, array $z, array $triangles, array $around, array $vertices, float $gap, float $reach, float $friction, float $within): ?self
    {
        $inside = self::inside($collider);
        if ($inside === null) {
            return null;
        }
        [$position, $rotation] = $collider->pose();
        [$cx, $cy, $cz] = Quaternion::carried($position, $rotation, $inside[0]);
        $radius = self::WITHIN * $inside[1] + $gap;
        $most = ($radius + $reach) ** 2;
        $near = [];
        foreach ($vertices as $i) {
            if (($x[$i] - $cx) ** 2 + ($y[$i] - $cy) ** 2 + ($z[$i] - $cz) ** 2 < $most) {
                $near += array_fill_keys($around[$i], true);
            }
        }
        ksort($near);
        $corners = $sides = [];
        foreach ($near as $k => $_) {
            [$a, $b, $c] = [$triangles[$k], $triangles[$k + 1], $triangles[$k + 2]];
            array_push($corners, $a, $b, $c);
            $sides[] = self::side($x, $y, $z, $a, $b, $c, $cx, $cy, $cz);
        }

        return $corners === [] ? null : new self($collider, $inside[0], $corners, $sides, $radius, $friction, $within);
    }

    /**
     * The middle of a thing, or of what a thing that is hollow or bent has next to its middle: a shard of a jar, a ring.
     *
     * @return array{array{float, float, float}, float}|null in its axes, and how far that is from its surface, m; null: it has no inside
     */
    private static function inside(Collider $collider): ?array
    {
        $tree = $collider->surface();
        if (! $tree->closed || $tree->isEmpty()) {
            return null;
        }
        [$position, $rotation] = $collider->pose();
        [$x, $y, $z] = $middle = Quaternion::rotate(Quaternion::conjugate($rotation), Vector::minus($collider->ball()[0], $position));
        $tree->look($tree->nearest($x, $y, $z, INF), $x, $y, $z);
        if ($tree->distance < 0.0) {
            return [$middle, -$tree->distance];
        }
        // From the nearest place straight through to the other side: halfway is inside.
        [$low, $high] = $tree->bounds();
        $in = [-$tree->nx, -$tree->ny, -$tree->nz];
        $foot = Vector::plus($middle, Vector::times($in, $tree->distance + 1e-6));
        $through = Vector::times($in, Vector::distance($low, $high));
        $wall = $tree->crossed(...$foot, ...$through);
        if ($wall === null) {
            return null;
        }
        [$x, $y, $z] = $middle = Vector::plus($foot, Vector::times($through, 0.5 * $wall[1]));
        $tree->look($tree->nearest($x, $y, $z, INF), $x, $y, $z);

        return $tree->distance < 0.0 ? [$middle, -$tree->distance] : null;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return float 1 or -1: the middle is before or behind a triangle; 0: it is beside it, and may go round it
     */
    private static function side(array $x, array $y, array $z, int $a, int $b, int $c, float $cx, float $cy, float $cz): float
    {
        if (min(self::shares($x, $y, $z, $a, $b, $c, $cx, $cy, $cz)) < -self::BESIDE) {
            return 0.0;
        }
        [$nx, $ny, $nz] = self::normal($x, $y, $z, $a, $b, $c);

        return $nx * ($cx - $x[$a]) + $ny * ($cy - $y[$a]) + $nz * ($cz - $z[$a]) < 0.0 ? -1.0 : 1.0;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return array{float, float, float} unit, or nothing where there is none
     */
    private static function normal(array $x, array $y, array $z, int $a, int $b, int $c): array
    {
        [$ux, $uy, $uz] = [$x[$b] - $x[$a], $y[$b] - $y[$a], $z[$b] - $z[$a]];
        [$vx, $vy, $vz] = [$x[$c] - $x[$a], $y[$c] - $y[$a], $z[$c] - $z[$a]];
        [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
        $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);

        return $l > 1e-12 ? [$nx / $l, $ny / $l, $nz / $l] : [0.0, 0.0, 0.0];
    }

    /**
     * Pushes triangles off the ball: as fast as they came and a little more; what is deeper in than that goes out without a speed.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before the substep; changed where it goes out without a speed
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses
     * @param float $spare the little more at the most, m in a substep
     *
     * @return array{float, float, float, float, float, float} sum of the ways that vertices were moved, each divided by its inverse mass, and the moment of that
     */
    public function resolve(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w, float $spare = INF): array
    {
        [$cx, $cy, $cz] = $this->middle();
        $felt = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        $this->nearing = $this->parting = 0.0;
        [$bx, $by, $bz] = [$cx - $this->before[0], $cy - $this->before[1], $cz - $this->before[2]];
        foreach ($this->within > 0.0 ? $this->outside($x, $y, $z, $cx, $cy, $cz) : $this->sides as $t => $side) {
            [$a, $b, $c] = [$this->corners[3 * $t], $this->corners[3 * $t + 1], $this->corners[3 * $t + 2]];
            if ($this->within <= 0.0) {
                // Far from beside it, or there again: it is where it is now.
                $now = self::side($x, $y, $z, $a, $b, $c, $cx, $cy, $cz);
                $side = $now === 0.0 || $side === 0.0 ? $now : $side;
                $this->sides[$t] = $side;
            }
            if ($side === 0.0) {
                continue;
            }
            [$nx, $ny, $nz] = self::normal($x, $y, $z, $a, $b, $c);
            [$nx, $ny, $nz] = [$side * $nx, $side * $ny, $side * $nz];
            $deep = $this->radius - $nx * ($cx - $x[$a]) - $ny * ($cy - $y[$a]) - $nz * ($cz - $z[$a]);
            if ($deep <= 0.0 || $nx * $nx + $ny * $ny + $nz * $nz < 0.5) {
                continue;
            }
            $shares = self::shares($x, $y, $z, $a, $b, $c, $cx, $cy, $cz);
            // How far the triangle has gone in the substep as seen from the ball: towards it, and along it.
            [$sx, $sy, $sz] = [-$bx, -$by, -$bz];
            foreach ([$a, $b, $c] as $k => $i) {
                $sx += $shares[$k] * ($x[$i] - $px[$i]);
                $sy += $shares[$k] * ($y[$i] - $py[$i]);
                $sz += $shares[$k] * ($z[$i] - $pz[$i]);
            }
            $nearing = $nx * $sx + $ny * $sy + $nz * $sz;
            $this->nearing = max($this->nearing, $nearing);
            $was = [[$x[$a], $y[$a], $z[$a]], [$x[$b], $y[$b], $z[$b]], [$x[$c], $y[$c], $z[$c]]];
            $this->push($x, $y, $z, $w, [$a, $b, $c], $shares, $deep, [-$nx, -$ny, -$nz], $felt);
            $more = min($spare, self::OUT * $deep);
            $this->parting = max($this->parting, $more);
            $calm = 1.0 - max(0.0, $nearing + $more) / $deep;
            foreach ($calm > 0.0 ? [$a, $b, $c] : [] as $k => $i) {
                $px[$i] += $calm * ($x[$i] - $was[$k][0]);
                $py[$i] += $calm * ($y[$i] - $was[$k][1]);
                $pz[$i] += $calm * ($z[$i] - $was[$k][2]);
            }
            $slide = Vector::minus([$sx, $sy, $sz], Vector::times([$nx, $ny, $nz], $nearing));
            $far = sqrt(Vector::dot($slide, $slide));
            if ($far > 0.0 && $nearing > 0.0 && $this->friction > 0.0 && $w[$a] + $w[$b] + $w[$c] > 0.0) {
                // Coulomb, as far as it came: what only goes out again rubs nothing.
                $touched = $this->touched;
                $this->push($x, $y, $z, $w, [$a, $b, $c], $shares, min($far, $this->friction * min($deep, $nearing)), Vector::times($slide, -1.0 / $far), $felt);
                $this->touched = $touched;
            }
        }

        return $felt;
    }

    /**
     * From something solid the middle keeps outside: from all triangles that it is before; and if one that it is behind is nearer than those, it has come in
     * through that.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return array<int, float> by triangle 1, of those that it keeps from
     */
    private function outside(array $x, array $y, array $z, float $cx, float $cy, float $cz): array
    {
        $before = [];
        $through = null;
        [$least, $front] = [$this->within, INF];
        foreach ($this->sides as $t => $_) {
            [$a, $b, $c] = [$this->corners[3 * $t], $this->corners[3 * $t + 1], $this->corners[3 * $t + 2]];
            if (min(self::shares($x, $y, $z, $a, $b, $c, $cx, $cy, $cz)) < -self::BESIDE) {
                continue;
            }
            [$nx, $ny, $nz] = self::normal($x, $y, $z, $a, $b, $c);
            $deep = -$nx * ($cx - $x[$a]) - $ny * ($cy - $y[$a]) - $nz * ($cz - $z[$a]);
            if ($deep <= 0.0) {
                $before[$t] = 1.0;
                $front = min($front, -$deep);
            } elseif ($deep < $least) {
                [$least, $through] = [$deep, $t];
            }
        }

        return $through === null || $front < $least ? $before : $before + [$through => 1.0];
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w
     * @param array{int, int, int} $corners
     * @param array{float, float, float} $shares
     * @param array{float, float, float} $way
     * @param array{float, float, float, float, float, float} $felt
     */
    private function push(array &$x, array &$y, array &$z, array $w, array $corners, array $shares, float $deep, array $way, array &$felt): void
    {
        $sum = 0.0;
        $most = 0.0;
        foreach ($corners as $k => $i) {
            $shares[$k] = max(0.0, $shares[$k]);
            $sum += $shares[$k] * $shares[$k] * $w[$i];
            $most = max($most, $shares[$k] * $w[$i]);
        }
        $per = max($sum, $most);
        if ($per <= 0.0) {
            foreach ($corners as $k => $i) {
                if ($shares[$k] > self::PUSHED) {
                    $this->firm[$i] = [$way, $deep];
                }
            }

            return;
        }
        foreach ($corners as $k => $i) {
            $by = $deep * $shares[$k] / $per;
            if ($shares[$k] > self::PUSHED) {
                $this->touched[$i] = $way;
            }
            if ($by * $w[$i] <= 0.0) {
                continue;
            }
            $x[$i] += $by * $w[$i] * $way[0];
            $y[$i] += $by * $w[$i] * $way[1];
            $z[$i] += $by * $w[$i] * $way[2];
            [$ux, $uy, $uz] = [$by * $way[0], $by * $way[1], $by * $way[2]];
            $felt = [
                $felt[0] + $ux, $felt[1] + $uy, $felt[2] + $uz,
                $felt[3] + $y[$i] * $uz - $z[$i] * $uy, $felt[4] + $z[$i] * $ux - $x[$i] * $uz, $felt[5] + $x[$i] * $uy - $y[$i] * $ux,
            ];
        }
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return array{float, float, float} of the corners, at the place of the triangle's plane that is nearest
     */
    private static function shares(array $x, array $y, array $z, int $a, int $b, int $c, float $cx, float $cy, float $cz): array
    {
        [$ux, $uy, $uz] = [$x[$b] - $x[$a], $y[$b] - $y[$a], $z[$b] - $z[$a]];
        [$vx, $vy, $vz] = [$x[$c] - $x[$a], $y[$c] - $y[$a], $z[$c] - $z[$a]];
        [$dx, $dy, $dz] = [$cx - $x[$a], $cy - $y[$a], $cz - $z[$a]];
        $uu = $ux * $ux + $uy * $uy + $uz * $uz;
        $uv = $ux * $vx + $uy * $vy + $uz * $vz;
        $vv = $vx * $vx + $vy * $vy + $vz * $vz;
        $du = $dx * $ux + $dy * $uy + $dz * $uz;
        $dv = $dx * $vx + $dy * $vy + $dz * $vz;
        $det = max(1e-30, $uu * $vv - $uv * $uv);
        $s = ($vv * $du - $uv * $dv) / $det;
        $r = ($uu * $dv - $uv * $du) / $det;

        return [1.0 - $s - $r, $s, $r];
    }

    /** Ends a substep. */
    public function settle(): void
    {
        $this->touched = $this->firm = [];
        $this->before = $this->middle();
    }

    /** @return array<int, array{float, float, float}> the way out at each vertex that was pushed in the substep, in the world, unit */
    public function touched(): array
    {
        return $this->touched;
    }

    /** @return array<int, array{array{float, float, float}, float}> the way out at each vertex that goes nowhere, in the world, unit, and how deep it is, m */
    public function firm(): array
    {
        return $this->firm;
    }

    public function collider(): Collider
    {
        return $this->collider;
    }
}
