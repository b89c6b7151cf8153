<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Soft;

use YardBreak\Core\Motion\Surface\Connected;

/** What is soft and touches something loses its spin, as hard pieces do: a ball does not roll for ever, and a piece with a round side stops rocking. */
final class Rolling
{
    /** How fast, 1/s (common practice, no source). */
    private const RATE = 1.5;

    private readonly Connected $nodes;

    /** @var list<int> part of each vertex of the surface */
    private array $part = [];

    /** @var array<int, true> parts that have touched something since the last frame */
    private array $touching = [];

    /** @param list<float> $mass of each node, kg */
    public function __construct(Lattice $lattice, private readonly array $mass)
    {
        $this->nodes = new Connected(...$lattice->neighbours());
        foreach ($lattice->box as $box) {
            $this->part[] = $this->nodes->part[$lattice->corners[8 * $box]];
        }
    }

    /** Whether it is in pieces, so that what its surface meets of itself may be another thing. */
    public function isInPieces(): bool
    {
        return $this->nodes->parts > 1;
    }

    /** @param list<int> $vertices of the surface that something has pushed */
    public function touch(array $vertices): void
    {
        foreach ($vertices as $v) {
            $this->touching[$this->part[$v]] = true;
        }
    }

    /**
     * Takes spin from what has touched something since the last time, and is held nowhere.
     *
     * @param array<int, float> $x places of the nodes, m
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places a substep before; changed
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, true> $held nodes
     * @param float $time since then, s
     */
    public function slow(array $x, array $y, array $z, array &$px, array &$py, array &$pz, array $held, float $time): void
    {
        if ($this->touching === []) {
            return;
        }
        $members = array_fill_keys(array_keys($this->touching), []);
        $this->touching = [];
        foreach ($this->nodes->part as $i => $part) {
            if (isset($members[$part]) && $this->mass[$i] > 0.0) {
                if (isset($held[$i])) {
                    unset($members[$part]);
                } else {
                    $members[$part][] = $i;
                }
            }
        }
        $share = 1.0 - 1.0 / (1.0 + $time * self::RATE);
        foreach (array_filter($members) as $nodes) {
            $this->slowPart($nodes, $share, $x, $y, $z, $px, $py, $pz);
        }
    }

    /**
     * @param list<int> $nodes
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px
     * @param array<int, float> $py
     * @param array<int, float> $pz
     */
    private function slowPart(array $nodes, float $share, array $x, array $y, array $z, array &$px, array &$py, array &$pz): void
    {
        $mass = $cx = $cy = $cz = $u = $v = $w = 0.0;
        foreach ($nodes as $i) {
            $m = $this->mass[$i];
            $mass += $m;
            $cx += $m * $x[$i];
            $cy += $m * $y[$i];
            $cz += $m * $z[$i];
            $u += $m * ($x[$i] - $px[$i]);
            $v += $m * ($y[$i] - $py[$i]);
            $w += $m * ($z[$i] - $pz[$i]);
        }
        [$cx, $cy, $cz, $u, $v, $w] = [$cx / $mass, $cy / $mass, $cz / $mass, $u / $mass, $v / $mass, $w / $mass];
        // Angular momentum, and the tensor of inertia: what turns as one has this spin.
        $lx = $ly = $lz = $xx = $yy = $zz = $xy = $xz = $yz = 0.0;
        foreach ($nodes as $i) {
            $m = $this->mass[$i];
            $a = $x[$i] - $cx;
            $b = $y[$i] - $cy;
            $c = $z[$i] - $cz;
            $d = $x[$i] - $px[$i] - $u;
            $e = $y[$i] - $py[$i] - $v;
            $f = $z[$i] - $pz[$i] - $w;
            $lx += $m * ($b * $f - $c * $e);
            $ly += $m * ($c * $d - $a * $f);
            $lz += $m * ($a * $e - $b * $d);
            $xx += $m * ($b * $b + $c * $c);
            $yy += $m * ($a * $a + $c * $c);
            $zz += $m * ($a * $a + $b * $b);
            $xy -= $m * $a * $b;
            $xz -= $m * $a * $c;
            $yz -= $m * $b * $c;
        }
        $p = $yy * $zz - $yz * $yz;
        $q = $xz * $yz - $xy * $zz;
        $r = $xy * $yz - $xz * $yy;
        $determinant = $xx * $p + $xy * $q + $xz * $r;
        if ($determinant <= 1e-9 * ($xx + $yy + $zz) ** 3) {
            return;
        }
        $s = $share / $determinant;
        $spinX = $s * ($p * $lx + $q * $ly + $r * $lz);
        $spinY = $s * ($q * $lx + ($xx * $zz - $xz * $xz) * $ly + ($xy * $xz - $xx * $yz) * $lz);
        $spinZ = $s * ($r * $lx + ($xy * $xz - $xx * $yz) * $ly + ($xx * $yy - $xy * $xy) * $lz);
        foreach ($nodes as $i) {
            $a = $x[$i] - $cx;
            $b = $y[$i] - $cy;
            $c = $z[$i] - $cz;
            $px[$i] += $spinY * $c - $spinZ * $b;
            $py[$i] += $spinZ * $a - $spinX * $c;
            $pz[$i] += $spinX * $b - $spinY * $a;
        }
    }
}
