<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/**
 * A convex collision shape about its piece's centre of mass, as flat arrays for the contact kernels. Faces are polygons,
 * counter-clockwise from outside; n . p = d holds on a face's plane.
 */
final readonly class ConvexHull
{
    /** Distance of the farthest vertex from the centre, m. */
    public float $radius;

    /** Radius of a ball about the centre inside the hull, m; -INF if the centre is outside. */
    public float $core;

    /** @var list<float> cosine of the angle by which each edge bends */
    public array $bend;

    /**
     * @param list<float> $x vertices
     * @param list<float> $y
     * @param list<float> $z
     * @param list<float> $nx unit face normals
     * @param list<float> $ny
     * @param list<float> $nz
     * @param list<float> $d face offsets
     * @param list<int> $start first of each face's vertices in $loop, plus one past the end
     * @param list<int> $loop
     * @param list<int> $from first vertex of each edge
     * @param list<float> $ex unit edge directions, with face $left on their left seen from outside
     * @param list<float> $ey
     * @param list<float> $ez
     * @param list<int> $left faces beside each edge
     * @param list<int> $right
     * @param float $round radius of the ball that it is felt as, m; the faces are then only its outline. 0: it is felt as its faces
     */
    public function __construct(
        public array $x,
        public array $y,
        public array $z,
        public array $nx,
        public array $ny,
        public array $nz,
        public array $d,
        public array $start,
        public array $loop,
        public array $from,
        public array $ex,
        public array $ey,
        public array $ez,
        public array $left,
        public array $right,
        public float $round = 0.0,
    ) {
        $r = 0.0;
        foreach ($x as $i => $px) {
            $r = max($r, $px * $px + $y[$i] * $y[$i] + $z[$i] * $z[$i]);
        }
        $this->radius = $round > 0.0 ? $round : sqrt($r);
        // A face's corners lie only nearly in its plane: the lowest counts, and a little less.
        $core = INF;
        foreach ($nx as $f => $fx) {
            for ($k = $start[$f]; $k < $start[$f + 1]; $k++) {
                $i = $loop[$k];
                $core = min($core, $fx * $x[$i] + $ny[$f] * $y[$i] + $nz[$f] * $z[$i]);
            }
        }
        $core = 0.98 * $core - 1e-4 * $this->radius;
        $this->core = $core > 0.0 ? $core : -INF;
        $bend = [];
        foreach ($left as $i => $f) {
            $g = $right[$i];
            $bend[] = $nx[$f] * $nx[$g] + $ny[$f] * $ny[$g] + $nz[$f] * $nz[$g];
        }
        $this->bend = $bend;
    }

    /**
     * A ball about the centre.
     *
     * @param float $radius m, above 0
     */
    public static function ball(float $radius): self
    {
        // A dodecahedron's corners on it: for what asks for faces (where a joint takes hold), not for contacts.
        $x = $y = $z = [];
        $golden = 0.5 * (1.0 + sqrt(5.0));
        $r = $radius / sqrt(3.0);
        foreach ([-1.0, 1.0] as $s) {
            foreach ([-1.0, 1.0] as $t) {
                foreach ([[$s, $t, -1.0], [$s, $t, 1.0], [0.0, $s / $golden, $t * $golden], [$s / $golden, $t * $golden, 0.0], [$s * $golden, 0.0, $t / $golden]] as [$u, $v, $w]) {
                    [$x[], $y[], $z[]] = [$r * $u, $r * $v, $r * $w];
                }
            }
        }
        $hull = HullBuilder::of($x, $y, $z);

        return new self($hull->x, $hull->y, $hull->z, $hull->nx, $hull->ny, $hull->nz, $hull->d, $hull->start, $hull->loop, $hull->from, $hull->ex, $hull->ey, $hull->ez, $hull->left, $hull->right, $radius);
    }

    /**
     * The same hull, that many times as large along each of its axes. A ball stays one, as much larger as its volume would be.
     *
     * @param array{float, float, float} $by each above 0
     */
    public function scaled(array $by): self
    {
        [$a, $b, $c] = $by;
        if ($this->round > 0.0) {
            return self::ball($this->round * ($a * $b * $c) ** (1.0 / 3.0));
        }
        $x = $y = $z = $nx = $ny = $nz = $d = $ex = $ey = $ez = [];
        foreach ($this->x as $i => $px) {
            $x[] = $a * $px;
            $y[] = $b * $this->y[$i];
            $z[] = $c * $this->z[$i];
        }
        foreach ($this->nx as $f => $u) {
            // A plane's normal is scaled by the inverse.
            $u /= $a;
            $v = $this->ny[$f] / $b;
            $w = $this->nz[$f] / $c;
            $length = sqrt($u * $u + $v * $v + $w * $w);
            $nx[] = $u / $length;
            $ny[] = $v / $length;
            $nz[] = $w / $length;
            $d[] = $this->d[$f] / $length;
        }
        foreach ($this->ex as $e => $u) {
            $u *= $a;
            $v = $this->ey[$e] * $b;
            $w = $this->ez[$e] * $c;
            $length = sqrt($u * $u + $v * $v + $w * $w);
            $ex[] = $u / $length;
            $ey[] = $v / $length;
            $ez[] = $w / $length;
        }

        return new self($x, $y, $z, $nx, $ny, $nz, $d, $this->start, $this->loop, $this->from, $ex, $ey, $ez, $this->left, $this->right);
    }

    /** Area of its faces, m2. */
    public function area(): float
    {
        $area = 0.0;
        for ($f = 0, $end = count($this->start) - 1; $f < $end; $f++) {
            $a = $this->loop[$this->start[$f]];
            for ($k = $this->start[$f] + 2; $k < $this->start[$f + 1]; $k++) {
                $b = $this->loop[$k - 1];
                $c = $this->loop[$k];
                [$ux, $uy, $uz] = [$this->x[$b] - $this->x[$a], $this->y[$b] - $this->y[$a], $this->z[$b] - $this->z[$a]];
                [$vx, $vy, $vz] = [$this->x[$c] - $this->x[$a], $this->y[$c] - $this->y[$a], $this->z[$c] - $this->z[$a]];
                $area += 0.5 * sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2);
            }
        }

        return $area;
    }

    /** Volume, m3: pyramids from the centre over the faces. */
    public function volume(): float
    {
        $volume = 0.0;
        for ($f = 0, $end = count($this->start) - 1; $f < $end; $f++) {
            $a = $this->loop[$this->start[$f]];
            for ($k = $this->start[$f] + 2; $k < $this->start[$f + 1]; $k++) {
                $b = $this->loop[$k - 1];
                $c = $this->loop[$k];
                $volume += $this->x[$a] * ($this->y[$b] * $this->z[$c] - $this->z[$b] * $this->y[$c])
                    + $this->y[$a] * ($this->z[$b] * $this->x[$c] - $this->x[$b] * $this->z[$c])
                    + $this->z[$a] * ($this->x[$b] * $this->y[$c] - $this->y[$b] * $this->x[$c]);
            }
        }

        return $volume / 6.0;
    }
}
