<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Mesh\TriangleOrder;

/** A surface whose vertices move by themselves, as others that do meet it: cloth, or the outside of a soft body. */
final class Bending
{
    /**
     * @param array<int, float> $x places, m
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places a substep of its own before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses, 1/kg; 0: held
     * @param array<int, int> $triangles three vertices each
     * @param bool $closed whether it has an inside
     * @param float $gap distance that is kept, m
     * @param float $friction Coulomb
     * @param float $h length of a substep of its own, s
     * @param TriangleOrder|null $order of its triangles
     */
    public function __construct(
        public array $x,
        public array $y,
        public array $z,
        public array $px,
        public array $py,
        public array $pz,
        public readonly array $w,
        public readonly array $triangles,
        public readonly bool $closed,
        public readonly float $gap,
        public readonly float $friction,
        public readonly float $h,
        private readonly ?TriangleOrder $order = null,
    ) {
    }

    /** As it stands now. */
    public function tree(): SurfaceTree
    {
        return SurfaceTree::of(new TriangleMesh(array_values($this->x), array_values($this->y), array_values($this->z), array_values($this->triangles)), $this->closed, $this->order);
    }

    /** How far any vertex may come in so many seconds, m: half as fast again as it goes now, and as it falls meanwhile. */
    public function travel(float $dt): float
    {
        $most = 0.0;
        foreach ($this->x as $i => $x) {
            $d = ($x - $this->px[$i]) ** 2 + ($this->y[$i] - $this->py[$i]) ** 2 + ($this->z[$i] - $this->pz[$i]) ** 2;
            $most = $d > $most ? $d : $most;
        }

        return 1.5 * sqrt($most) * $dt / $this->h + 5.0 * $dt * $dt;
    }

    /** Whether it is anywhere within so many metres of the middle of the world. */
    public function isSane(float $reach): bool
    {
        foreach ([$this->x, $this->y, $this->z] as $places) {
            foreach ($places as $place) {
                // What is not a number fails both.
                if (! ($place > -$reach && $place < $reach)) {
                    return false;
                }
            }
        }

        return true;
    }

    /** @return array{float, float, float, float, float, float} around it: low corner, high corner */
    public function box(): array
    {
        return $this->x === [] || $this->y === [] || $this->z === [] ? [INF, INF, INF, -INF, -INF, -INF]
            : [min($this->x), min($this->y), min($this->z), max($this->x), max($this->y), max($this->z)];
    }
}
