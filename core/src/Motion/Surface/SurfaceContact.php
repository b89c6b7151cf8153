<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Collider;

/**
 * Vertices of a cloth against the surface of one collider, for the length of a step. Each vertex keeps the plane of its
 * nearest place, in the collider's axes, and how far it may move before it can touch; it asks the tree again only when it has
 * moved a little, and not at all while it is far.
 */
final class SurfaceContact
{
    /** What points to a floor by more than this points down, as a cosine below nothing. */
    private const DOWN = -0.5;

    /** A plane is as good as the surface for so far, m. */
    private const TRUSTED = 0.002;

    /** @var array<int, float> where each vertex asked last, in the collider's axes; INF: it has not yet */
    private array $qx;

    /** @var array<int, float> */
    private array $qy;

    /** @var array<int, float> */
    private array $qz;

    /** @var array<int, float> how far it was from touching then */
    private array $clear;

    /** @var array<int, float> the plane of its nearest place */
    private array $nx;

    /** @var array<int, float> */
    private array $ny;

    /** @var array<int, float> */
    private array $nz;

    /** @var array<int, float> */
    private array $offset;

    /** @var array<int, int> nearest triangle */
    private array $triangle;

    /** @var array<int, float> distance that is kept there, m */
    private array $keep;

    /** @var array<int, true> of the vertices, those that began between a floor and what stands on it */
    private array $pinned = [];

    private readonly SurfaceTree $tree;

    /** How far off it is what the search does not find, m. */
    private readonly float $far;

    /** @var array{list<float>, array{float, float, float}} */
    private array $before;

    /** @var array<int, int> vertices that were pushed out in the substep, and which of its own each is */
    private array $touched = [];

    /** @var array<int, array{int, float}> vertices that go nowhere and are in it, which of its own each is, and how deep, m */
    private array $firm = [];

    /** Whether it feels what goes nowhere. */
    private readonly bool $gives;

    /** How far the deepest vertex was pushed out last, m. */
    public float $deepest = 0.0;

    /** How far any vertex that was pushed out last had come nearer in the substep, m. */
    public float $nearing = 0.0;

    /** Fastest touch so far, m in a substep, and where. */
    public float $fastest = 0.0;

    /** @var array{float, float, float} */
    public array $touch = [0.0, 0.0, 0.0];

    /**
     * @param list<int> $vertices that may come near it
     * @param float $gap distance that is kept, m
     * @param float $reach how far the tree is searched, m; more than anything moves in a substep
     * @param bool $feels whether touches of what is held matter too
     * @param list<PlaneContact> $planes what nothing may be pushed into
     * @param array<int, float> $x places of all vertices when the step begins
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param float $grows how far its skin grows in a step, m, at most
     * @param list<float> $standoff how much more than the gap is kept from each of its triangles, m; none: nothing
     */
    public function __construct(
        private readonly Collider $collider,
        private readonly array $vertices,
        private readonly float $gap,
        private readonly float $reach,
        private readonly float $friction,
        private readonly bool $feels,
        private readonly array $planes,
        array $x,
        array $y,
        array $z,
        private readonly float $grows = 0.0,
        private readonly array $standoff = [],
    ) {
        $this->tree = $collider->surface();
        $this->far = $reach - $gap - ($standoff === [] ? 0.0 : max($standoff));
        $this->gives = $collider->feels();
        $this->before = $this->axes();
        $this->begin($x, $y, $z);
    }

    /**
     * Each vertex asks once before anything moves: what is pinched between a floor and a wall is told by where it came from.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    private function begin(array $x, array $y, array $z): void
    {
        [[$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8], [$tx, $ty, $tz]] = $this->before;
        [$tree, $reach, $far, $standoff] = [$this->tree, $this->reach, $this->far, $this->standoff];
        $qx = $qy = $qz = $nx = $ny = $nz = $offset = $clear = $triangle = $keeps = [];
        $t = -1;
        foreach ($this->vertices as $i) {
            $a = $x[$i] - $tx;
            $b = $y[$i] - $ty;
            $c = $z[$i] - $tz;
            $qx[] = $lx = $m0 * $a + $m3 * $b + $m6 * $c;
            $qy[] = $ly = $m1 * $a + $m4 * $b + $m7 * $c;
            $qz[] = $lz = $m2 * $a + $m5 * $b + $m8 * $c;
            // The one before lay beside it, most likely.
            $triangle[] = $t = $tree->nearest($lx, $ly, $lz, $reach, $t);
            if ($t < 0) {
                $nx[] = $ny[] = $nz[] = $offset[] = 0.0;
                $clear[] = $far;
                $keeps[] = $this->gap;
                continue;
            }
            $tree->look($t, $lx, $ly, $lz);
            $keeps[] = $keep = $this->gap + ($standoff[$t] ?? 0.0);
            $nx[] = $tree->nx;
            $ny[] = $tree->ny;
            $nz[] = $tree->nz;
            $offset[] = $tree->nx * $lx + $tree->ny * $ly + $tree->nz * $lz - $tree->distance;
            $clear[] = $tree->distance - $keep;
            if ($tree->distance < 0.0 && PlaneContact::height($this->planes, $x[$i], $y[$i], $z[$i]) < $this->gap - $tree->distance && ! ($this->grows >= -$tree->distance && $this->shoves($x[$i], $y[$i], $z[$i], ...Quaternion::rotate($this->collider->pose()[1], [$tree->nx, $tree->ny, $tree->nz])))) {
                // It did not come from outside in this step, and down is the nearest way out.
                $this->pinned[$i] = true;
            }
        }
        [$this->qx, $this->qy, $this->qz, $this->nx, $this->ny, $this->nz, $this->offset, $this->clear, $this->triangle, $this->keep] = [$qx, $qy, $qz, $nx, $ny, $nz, $offset, $clear, $triangle, $keeps];
    }

    /**
     * Whether what grows pushes a place along a floor rather than onto it: whatever lies there goes out of its way.
     *
     * @param float $u outward direction, in the world
     */
    private function shoves(float $x, float $y, float $z, float $u, float $v, float $w): bool
    {
        [$a, $b, $c] = PlaneContact::nearest($this->planes, $x, $y, $z)->normal ?? [0.0, 1.0, 0.0];

        return $a * $u + $b * $v + $c * $w > self::DOWN;
    }

    /** @return array<int, true> vertices that are between a floor and what stands on it, and stay there */
    public function pinned(): array
    {
        return $this->pinned;
    }

    /** @return array{list<float>, array{float, float, float}} matrix and place of the collider's axes */
    private function axes(): array
    {
        [$position, $rotation] = $this->collider->pose();

        return [Quaternion::matrix($rotation), $position];
    }

    /** Ends a substep: what it does next is against where the collider is by then. */
    public function settle(): void
    {
        $this->before = $this->axes();
        $this->touched = $this->firm = [];
    }

    /**
     * Pushes vertices out, and holds them back along the surface by friction against its own motion (Coulomb, at the level of
     * places: at most friction times the push).
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before the substep
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses
     * @param bool $rubs whether friction acts
     *
     * @return array{float, float, float, float, float, float} sum of the ways that vertices were moved, each divided by its inverse mass, and the moment of that
     */
    public function resolve(array &$x, array &$y, array &$z, array $px, array $py, array $pz, array $w, bool $rubs): array
    {
        [$X, $Y, $Z] = [$x, $y, $z];
        $x = $y = $z = [];
        [[$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8], [$tx, $ty, $tz]] = $this->axes();
        [[$b0, $b1, $b2, $b3, $b4, $b5, $b6, $b7, $b8], [$ox, $oy, $oz]] = $this->before;
        [$qx, $qy, $qz, $clear, $nx, $ny, $nz, $offset, $triangle] = [$this->qx, $this->qy, $this->qz, $this->clear, $this->nx, $this->ny, $this->nz, $this->offset, $this->triangle];
        $this->qx = $this->qy = $this->qz = $this->clear = $this->nx = $this->ny = $this->nz = $this->offset = $this->triangle = [];
        $tree = $this->tree;
        $feels = $this->feels;
        $minds = $feels || $this->gives;
        $firm = [];
        [$keeps, $standoff, $this->keep] = [$this->keep, $this->standoff, []];
        [$gap, $far, $reach, $planes, $pinned, $grows] = [$this->gap, $this->far, $this->reach, $this->planes, $this->pinned, $this->grows > 0.0];
        $friction = $rubs ? $this->friction : 0.0;
        $trusted = self::TRUSTED * self::TRUSTED;
        $jx = $jy = $jz = $kx = $ky = $kz = 0.0;
        $deepest = $nearing = 0.0;
        foreach ($this->vertices as $j => $i) {
            $stays = $w[$i] <= 0.0;
            if ($stays && ! $minds) {
                continue;
            }
            $a = $X[$i] - $tx;
            $b = $Y[$i] - $ty;
            $c = $Z[$i] - $tz;
            $lx = $m0 * $a + $m3 * $b + $m6 * $c;
            $ly = $m1 * $a + $m4 * $b + $m7 * $c;
            $lz = $m2 * $a + $m5 * $b + $m8 * $c;
            $a = $lx - $qx[$j];
            $b = $ly - $qy[$j];
            $c = $lz - $qz[$j];
            $moved = $a * $a + $b * $b + $c * $c;
            $room = $clear[$j];
            if ($room > 0.0 && $moved < $room * $room) {
                continue;
            }
            if ($moved > $trusted) {
                $qx[$j] = $lx;
                $qy[$j] = $ly;
                $qz[$j] = $lz;
                $known = $triangle[$j];
                $t = $tree->nearest($lx, $ly, $lz, $reach, $known);
                $triangle[$j] = $t;
                if ($t < 0) {
                    $clear[$j] = $far;
                    continue;
                }
                $tree->look($t, $lx, $ly, $lz);
                $back = false;
                if ($tree->distance < 0.0 && $known >= 0) {
                    // Out below a floor is no way out: then the way it came is. And what came that way has not come from another.
                    foreach ([[$gap - $tree->distance, $tree->nx, $tree->ny, $tree->nz], [$gap + $offset[$j] - $nx[$j] * $lx - $ny[$j] * $ly - $nz[$j] * $lz, $nx[$j], $ny[$j], $nz[$j]]] as [$out, $a, $b, $c]) {
                        $a = $lx + $out * $a;
                        $b = $ly + $out * $b;
                        $c = $lz + $out * $c;
                        $back = $back || PlaneContact::isBelow($planes, $m0 * $a + $m1 * $b + $m2 * $c + $tx, $m3 * $a + $m4 * $b + $m5 * $c + $ty, $m6 * $a + $m7 * $b + $m8 * $c + $tz);
                    }
                }
                if ($back) {
                    $triangle[$j] = $known;
                    $clear[$j] = 0.0;
                } else {
                    $nx[$j] = $tree->nx;
                    $ny[$j] = $tree->ny;
                    $nz[$j] = $tree->nz;
                    $offset[$j] = $tree->nx * $lx + $tree->ny * $ly + $tree->nz * $lz - $tree->distance;
                    $keep = $gap + ($standoff[$t] ?? 0.0);
                    $keeps[$j] = $keep;
                    $clear[$j] = $tree->distance - $keep;
                }
            } elseif ($triangle[$j] < 0) {
                continue;
            }
            $a = $nx[$j];
            $b = $ny[$j];
            $c = $nz[$j];
            // What goes nowhere bears with its faces.
            $deep = ($stays ? $gap : $keeps[$j]) + $offset[$j] - $a * $lx - $b * $ly - $c * $lz;
            if ($deep <= 0.0) {
                continue;
            }
            if ($stays) {
                $firm[$i] = [$j, $deep];
                if (! $feels) {
                    continue;
                }
            }
            $deepest = $deep > $deepest ? $deep : $deepest;
            $lx += $deep * $a;
            $ly += $deep * $b;
            $lz += $deep * $c;
            // Pinched on a floor it has no room to go to: it is only held by friction.
            [$u, $v, $q] = [$m0 * $a + $m1 * $b + $m2 * $c, $m3 * $a + $m4 * $b + $m5 * $c, $m6 * $a + $m7 * $b + $m8 * $c];
            $out = $planes !== [] && ! ($grows && $this->shoves($X[$i], $Y[$i], $Z[$i], $u, $v, $q)) && (isset($pinned[$i]) || PlaneContact::keeps($planes, $X[$i], $Y[$i], $Z[$i], $u, $v, $q) || PlaneContact::isBelow($planes, $m0 * $lx + $m1 * $ly + $m2 * $lz + $tx, $m3 * $lx + $m4 * $ly + $m5 * $lz + $ty, $m6 * $lx + $m7 * $ly + $m8 * $lz + $tz)) ? 0.0 : $deep;
            if ($out === 0.0) {
                $lx -= $deep * $a;
                $ly -= $deep * $b;
                $lz -= $deep * $c;
            }
            // Where it was on the surface before: what is left is how far it slid.
            $ux = $px[$i] - $ox;
            $uy = $py[$i] - $oy;
            $uz = $pz[$i] - $oz;
            $dx = $lx - ($b0 * $ux + $b3 * $uy + $b6 * $uz);
            $dy = $ly - ($b1 * $ux + $b4 * $uy + $b7 * $uz);
            $dz = $lz - ($b2 * $ux + $b5 * $uy + $b8 * $uz);
            $into = $dx * $a + $dy * $b + $dz * $c;
            if ($deep - $into > $nearing) {
                $nearing = $deep - $into;
            }
            if ($deep - $into > $this->fastest) {
                $this->fastest = $deep - $into;
                $this->touch = [$X[$i], $Y[$i], $Z[$i]];
            }
            if ($stays) {
                continue;
            }
            $dx -= $into * $a;
            $dy -= $into * $b;
            $dz -= $into * $c;
            $slid = $dx * $dx + $dy * $dy + $dz * $dz;
            $most = $friction * $deep;
            $s = $slid > $most * $most ? $most / sqrt($slid) : ($rubs ? 1.0 : 0.0);
            $lx -= $s * $dx;
            $ly -= $s * $dy;
            $lz -= $s * $dz;
            $a = $m0 * $lx + $m1 * $ly + $m2 * $lz + $tx;
            $b = $m3 * $lx + $m4 * $ly + $m5 * $lz + $ty;
            $c = $m6 * $lx + $m7 * $ly + $m8 * $lz + $tz;
            $mass = 1.0 / $w[$i];
            $ux = $mass * ($a - $X[$i]);
            $uy = $mass * ($b - $Y[$i]);
            $uz = $mass * ($c - $Z[$i]);
            $jx += $ux;
            $jy += $uy;
            $jz += $uz;
            $kx += $b * $uz - $c * $uy;
            $ky += $c * $ux - $a * $uz;
            $kz += $a * $uy - $b * $ux;
            $X[$i] = $a;
            $Y[$i] = $b;
            $Z[$i] = $c;
            $this->touched[$i] = $j;
        }
        [$this->qx, $this->qy, $this->qz, $this->clear, $this->nx, $this->ny, $this->nz, $this->offset, $this->triangle, $this->keep] = [$qx, $qy, $qz, $clear, $nx, $ny, $nz, $offset, $triangle, $keeps];
        [$x, $y, $z] = [$X, $Y, $Z];
        $this->firm = $firm;
        $this->deepest = $deepest;
        $this->nearing = $nearing;

        return [$jx, $jy, $jz, $kx, $ky, $kz];
    }

    /** @return array<int, array{float, float, float}> the way out of it at each vertex that was pushed out in the substep, in the world, unit */
    public function touched(): array
    {
        if ($this->touched === []) {
            return [];
        }
        [[$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8]] = $this->axes();
        $ways = [];
        foreach ($this->touched as $i => $j) {
            [$a, $b, $c] = [$this->nx[$j], $this->ny[$j], $this->nz[$j]];
            $ways[$i] = [$m0 * $a + $m1 * $b + $m2 * $c, $m3 * $a + $m4 * $b + $m5 * $c, $m6 * $a + $m7 * $b + $m8 * $c];
        }

        return $ways;
    }

    /** @return array<int, array{array{float, float, float}, float}> the way out of it at each vertex that goes nowhere and is in it, in the world, unit, and how deep it is, m */
    public function firm(): array
    {
        if ($this->firm === []) {
            return [];
        }
        [[$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8]] = $this->axes();
        $ways = [];
        foreach ($this->firm as $i => [$j, $deep]) {
            [$a, $b, $c] = [$this->nx[$j], $this->ny[$j], $this->nz[$j]];
            $ways[$i] = [[$m0 * $a + $m1 * $b + $m2 * $c, $m3 * $a + $m4 * $b + $m5 * $c, $m6 * $a + $m7 * $b + $m8 * $c], $deep];
        }

        return $ways;
    }

    public function collider(): Collider
    {
        return $this->collider;
    }
}
