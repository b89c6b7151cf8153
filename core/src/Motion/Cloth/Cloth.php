<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Surface\PlaneContact;
use YardBreak\Core\Motion\Surface\RidgeContact;
use YardBreak\Core\Motion\Surface\SurfaceContact;

/**
 * One cloth in motion: extended position based dynamics in small substeps. A substep moves vertices on, pulls the coarse levels
 * together, then the edges, the hinges (there in one substep, back in the next), the edges back; contacts stand between and at the
 * end, so that what they push is pulled straight once more. At the end of a frame no edge is much longer than at rest.
 *
 * Self-contact, growth and inflation have their places: pairs of vertices are one more contact, growth changes the lengths,
 * pressure is one more thing that acts.
 */
final class Cloth
{
    /** @var array<int, float> */
    private array $x;

    /** @var array<int, float> */
    private array $y;

    /** @var array<int, float> */
    private array $z;

    /** @var array<int, float> places a substep before */
    private array $px;

    /** @var array<int, float> */
    private array $py;

    /** @var array<int, float> */
    private array $pz;

    /** @var list<float> inverse masses where nothing holds, as shares of the mean vertex's */
    private array $free = [];

    /** @var array<int, float> inverse masses now */
    private array $w = [];

    /** @var array<int, float> how far each vertex is held, 0 to 1 */
    private array $hold;

    /** @var list<int> those that are held at all */
    private array $holding = [];

    /** @var list<float> */
    private array $compliance = [];

    /** @var list<float> */
    private array $hingeCompliance = [];

    /** @var list<float> longest that each edge may be at the end of a frame, m */
    private array $most = [];

    /** Whether hinges are swept the other way round this time; a step has as many substeps of either way. */
    private bool $backwards = false;

    /** @var list<CoarseLevel> the coarsest first */
    private array $levels = [];

    private readonly Tethers $tethers;

    /** kg of the mean vertex */
    public readonly float $meanMass;

    /** @var array{array<int, float>, array<int, float>, array<int, float>} */
    private array $way = [[], [], []];

    /** @var array{array<int, float>, array<int, float>, array<int, float>} */
    private array $air = [[], [], []];

    /** @var array{array<int, float>, array<int, float>, array<int, float>} */
    private array $normal = [[], [], []];

    /** @var list<SurfaceContact> */
    private array $contacts = [];

    /** @var list<RidgeContact> */
    private array $ridges = [];

    /**
     * @param list<PlaneContact> $planes
     * @param float $h length of a substep, s
     * @param array<int, float> $hold how far each vertex is held at the beginning
     * @param array{float, float, float} $position of the prop
     * @param array{float, float, float, float} $rotation
     */
    public function __construct(
        private readonly Weave $weave,
        private readonly Fabric $fabric,
        private readonly array $planes,
        private readonly float $h,
        array $hold,
        array $position,
        array $rotation,
    ) {
        $masses = array_filter($weave->mass, static fn (float $mass): bool => $mass > 0.0);
        $this->meanMass = $masses === [] ? 1.0 : array_sum($masses) / count($masses);
        foreach ($weave->mass as $mass) {
            $this->free[] = $mass > 0.0 ? $this->meanMass / $mass : 0.0;
        }
        $mass = $this->meanMass / ($h * $h);
        // The fabric's stiffness is shared by the edges and the levels over them.
        $scales = count(ClothTuning::LEVELS) + 1;
        foreach ($weave->stiffness as $c => $stiffness) {
            // Each pull is shared by a sweep there and one back.
            $this->compliance[] = 2.0 * $scales * $mass * max(ClothTuning::LEAST_COMPLIANCE, 1.0 / max(1e-12, $stiffness));
            $room = ClothTuning::SHEAR_ROOM * (1.0 - $fabric->shear) * $weave->diagonal[$c];
            $this->most[] = $weave->length[$c] * (1.0 + $fabric->limit() + $room);
        }
        foreach ($weave->rigidity as $rigidity) {
            $this->hingeCompliance[] = $mass / $rigidity;
        }
        [$this->x, $this->y, $this->z] = $this->posed($position, $rotation);
        [$this->px, $this->py, $this->pz] = [$this->x, $this->y, $this->z];
        $this->hold = array_fill(0, $weave->count(), 0.0);
        $ways = Geodesics::of($weave);
        $held = array_keys(array_filter($hold, static fn (float $of): bool => $of >= 1.0));
        $room = 1.0 + $fabric->limit() - ClothTuning::LIMIT;
        foreach (array_reverse(ClothTuning::LEVELS) as $spacing) {
            $level = CoarseLevel::of($weave, $ways, $spacing * $weave->meanEdge(), $held, $fabric->stretch / $scales, $mass);
            if ($level !== null) {
                $this->levels[] = $level;
            }
        }
        $this->tethers = Tethers::to($held, $ways, $room);
        $this->holdBy($hold);
    }

    public function count(): int
    {
        return $this->weave->count();
    }

    /**
     * @param array{float, float, float} $position
     * @param array{float, float, float, float} $rotation
     *
     * @return array{list<float>, list<float>, list<float>} every vertex as it is at rest
     */
    private function posed(array $position, array $rotation): array
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = Quaternion::matrix($rotation);
        $x = $y = $z = [];
        foreach ($this->weave->x as $i => $a) {
            $b = $this->weave->y[$i];
            $c = $this->weave->z[$i];
            $x[] = $m0 * $a + $m1 * $b + $m2 * $c + $position[0];
            $y[] = $m3 * $a + $m4 * $b + $m5 * $c + $position[1];
            $z[] = $m6 * $a + $m7 * $b + $m8 * $c + $position[2];
        }

        return [$x, $y, $z];
    }

    /**
     * From now on each vertex is held so far: 1 wholly, 0 not at all, between it is drawn to its place the faster the more.
     *
     * @param array<int, float> $hold
     */
    public function holdBy(array $hold): void
    {
        if ($hold === $this->hold && $this->w !== []) {
            return;
        }
        $before = $this->w;
        $this->w = $this->holding = [];
        foreach ($this->free as $i => $free) {
            $held = $hold[$i];
            $this->w[] = $held >= 1.0 ? 0.0 : $free;
            if ($held > 0.0) {
                $this->holding[] = $i;
            }
        }
        $this->hold = $hold;
        if ($this->w !== $before) {
            foreach ($this->levels as $level) {
                $level->settle($this->w);
            }
        }
    }

    /**
     * Begins a step: what acts during it, and what may be touched.
     *
     * @param list<ForceField> $forces
     * @param list<Collider> $colliders
     * @param float $dt s
     * @param bool $feels whether touches of what is held matter too
     */
    public function begin(array $forces, float $frame, float $dt, array $colliders, bool $feels = false): void
    {
        $this->backwards = false;
        $share = 1.0 - exp(-$this->fabric->damping * ClothTuning::SMOOTHING * $dt);
        Smoothing::speeds($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w, $this->weave->first, $this->weave->other, $share);
        [$x, $y, $z] = [array_values($this->x), array_values($this->y), array_values($this->z)];
        $ax = $ay = $az = $u = $v = $w = array_fill(0, count($x), 0.0);
        foreach ($forces as $force) {
            $force->accelerate($x, $y, $z, $frame, $ax, $ay, $az);
            $force->air($x, $y, $z, $frame, $u, $v, $w);
        }
        $square = $this->h * $this->h;
        $this->way = [self::scaled($ax, $square), self::scaled($ay, $square), self::scaled($az, $square)];
        $this->air = [self::scaled($u, $this->h), self::scaled($v, $this->h), self::scaled($w, $this->h)];
        $this->normal = Advance::normals($x, $y, $z, $this->weave->triangles);
        $this->meet($colliders, $dt, $feels);
    }

    /**
     * @param array<int, float> $values
     *
     * @return array<int, float>
     */
    private static function scaled(array $values, float $by): array
    {
        foreach ($values as $i => $value) {
            $values[$i] = $by * $value;
        }

        return $values;
    }

    /** @param list<Collider> $colliders */
    private function meet(array $colliders, float $dt, bool $feels): void
    {
        $this->contacts = $this->ridges = [];
        if ($colliders === []) {
            return;
        }
        $fastest = 0.0;
        foreach ($this->x as $i => $x) {
            $fastest = max($fastest, ($x - $this->px[$i]) ** 2 + ($this->y[$i] - $this->py[$i]) ** 2 + ($this->z[$i] - $this->pz[$i]) ** 2);
        }
        $way = sqrt($fastest);
        $edge = $this->weave->meanEdge();
        foreach ($colliders as $collider) {
            // As far as both may come towards each other in the step, with what gravity and pulls add.
            $reach = $this->fabric->gap + 2.0 * $edge + 2.0 * $way;
            $near = $this->near($collider, $reach + $way * $dt / $this->h + $collider->travel($dt));
            if ($near !== []) {
                $friction = sqrt($this->fabric->friction * $collider->friction());
                $this->contacts[] = new SurfaceContact($collider, $near, $this->fabric->gap, $reach + $collider->travel($this->h), $friction, $feels, $this->planes, $this->x, $this->y, $this->z);
                $moves = $way * $dt / $this->h + $collider->travel($dt);
                $ridge = self::size($collider) < ClothTuning::SMALL * $edge ? null : RidgeContact::of($collider, $this->x, $this->y, $this->z, $this->weave->triangles, $near, ClothTuning::RIDGE * $edge, $this->fabric->gap, $moves + 0.25 * $edge, $friction, $this->planes);
                if ($ridge !== null) {
                    $this->ridges[] = $ridge;
                }
            }
        }
    }

    /** The longest side of what a collider takes up, m. */
    private static function size(Collider $collider): float
    {
        [$low, $high] = $collider->surface()->bounds();

        return max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);
    }

    /** @return list<int> vertices within reach of a collider's bounds, in its axes */
    private function near(Collider $collider, float $reach): array
    {
        [$position, $rotation] = $collider->pose();
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = Quaternion::matrix($rotation);
        [[$lx, $ly, $lz], [$hx, $hy, $hz]] = $collider->surface()->bounds();
        [$lx, $ly, $lz, $hx, $hy, $hz] = [$lx - $reach, $ly - $reach, $lz - $reach, $hx + $reach, $hy + $reach, $hz + $reach];
        [$tx, $ty, $tz] = $position;
        [$y, $z] = [$this->y, $this->z];
        $near = [];
        foreach ($this->x as $i => $x) {
            $a = $x - $tx;
            $b = $y[$i] - $ty;
            $c = $z[$i] - $tz;
            $p = $m0 * $a + $m3 * $b + $m6 * $c;
            if ($p < $lx || $p > $hx) {
                continue;
            }
            $p = $m1 * $a + $m4 * $b + $m7 * $c;
            if ($p < $ly || $p > $hy) {
                continue;
            }
            $p = $m2 * $a + $m5 * $b + $m8 * $c;
            if ($p >= $lz && $p <= $hz) {
                $near[] = $i;
            }
        }

        return $near;
    }

    /**
     * @param array{array{float, float, float}, array{float, float, float, float}} $was pose of the prop when the substep begins
     * @param array{array{float, float, float}, array{float, float, float, float}} $is and when it ends
     */
    public function substep(array $was, array $is): void
    {
        $keep = max(0.0, 1.0 - $this->fabric->damping * $this->h);
        Advance::vertices($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w, $this->way, $this->air, $this->normal, $keep, $this->fabric->airResistance());
        $this->hold($was, $is);
        foreach ($this->levels as $level) {
            $level->pull($this->x, $this->y, $this->z, $this->w);
        }
        $weave = $this->weave;
        Springs::forward($this->x, $this->y, $this->z, $this->w, $weave->first, $weave->other, $weave->length, $this->compliance);
        $this->bend($this->backwards);
        $this->backwards = ! $this->backwards;
        $this->collide(true);
        Springs::back($this->x, $this->y, $this->z, $this->w, $weave->first, $weave->other, $weave->length, $this->compliance);
        $this->tethers->pull($this->x, $this->y, $this->z, $this->w);
        $this->collide(true);
        foreach ([...$this->contacts, ...$this->ridges] as $contact) {
            $contact->settle();
        }
    }

    private function bend(bool $back): void
    {
        [$a, $b, $c, $d] = $this->weave->hinge;
        [$p, $q, $r, $s] = $this->weave->factor;
        Hinges::sweep($this->x, $this->y, $this->z, $this->w, $a, $b, $c, $d, $p, $q, $r, $s, $this->weave->rest, $this->hingeCompliance, $back);
    }

    /** @param bool $rubs whether friction acts */
    private function collide(bool $rubs): void
    {
        foreach ($this->contacts as $contact) {
            $felt = $contact->resolve($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w, $rubs);
            $this->push($contact->collider(), $felt, $contact->deepest / $this->h);
        }
        foreach ($this->ridges as $ridge) {
            $felt = $ridge->resolve($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w, $this->weave->triangles, $rubs);
            $this->push($ridge->collider(), $felt, INF);
        }
        foreach ($this->planes as $plane) {
            $plane->resolve($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w, $rubs);
        }
    }

    /**
     * @param array{float, float, float, float, float, float} $felt way of the mean vertex, and its moment, that a contact took
     * @param float $most m/s
     */
    private function push(Collider $collider, array $felt, float $most): void
    {
        [$jx, $jy, $jz, $kx, $ky, $kz] = $felt;
        if ($jx !== 0.0 || $jy !== 0.0 || $jz !== 0.0) {
            $s = -$this->meanMass / $this->h;
            $collider->push([$s * $jx, $s * $jy, $s * $jz], [$s * $kx, $s * $ky, $s * $kz], $most);
        }
    }

    /**
     * What is held wholly is where its prop is; what is held in part is drawn there, its place and its speed alike, so that
     * neither letting go nor taking back is a jolt.
     *
     * @param array{array{float, float, float}, array{float, float, float, float}} $was
     * @param array{array{float, float, float}, array{float, float, float, float}} $is
     */
    private function hold(array $was, array $is): void
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = Quaternion::matrix($is[1]);
        [$n0, $n1, $n2, $n3, $n4, $n5, $n6, $n7, $n8] = Quaternion::matrix($was[1]);
        [[$tx, $ty, $tz], [$ox, $oy, $oz]] = [$is[0], $was[0]];
        [$rx, $ry, $rz, $hold] = [$this->weave->x, $this->weave->y, $this->weave->z, $this->hold];
        foreach ($this->holding as $i) {
            $a = $rx[$i];
            $b = $ry[$i];
            $c = $rz[$i];
            $x = $m0 * $a + $m1 * $b + $m2 * $c + $tx;
            $y = $m3 * $a + $m4 * $b + $m5 * $c + $ty;
            $z = $m6 * $a + $m7 * $b + $m8 * $c + $tz;
            $p = $n0 * $a + $n1 * $b + $n2 * $c + $ox;
            $q = $n3 * $a + $n4 * $b + $n5 * $c + $oy;
            $r = $n6 * $a + $n7 * $b + $n8 * $c + $oz;
            $s = $hold[$i];
            if ($s < 1.0) {
                $s = $s * $s * (3.0 - 2.0 * $s);
                $s = 1.0 - exp(-24.0 * $this->h * $s / (1.001 - $s));
                $x = $this->x[$i] + $s * ($x - $this->x[$i]);
                $y = $this->y[$i] + $s * ($y - $this->y[$i]);
                $z = $this->z[$i] + $s * ($z - $this->z[$i]);
                $p = $this->px[$i] + $s * ($p - $this->px[$i]);
                $q = $this->py[$i] + $s * ($q - $this->py[$i]);
                $r = $this->pz[$i] + $s * ($r - $this->pz[$i]);
            }
            $this->x[$i] = $x;
            $this->y[$i] = $y;
            $this->z[$i] = $z;
            $this->px[$i] = $p;
            $this->py[$i] = $q;
            $this->pz[$i] = $r;
        }
    }

    /** Ends a frame: what is still too long is taken back, without a change of speed, and nothing stands in anything. */
    public function finish(): void
    {
        [$x, $y, $z] = [$this->x, $this->y, $this->z];
        for ($k = 0; $k < ClothTuning::LIMIT_ROUNDS; $k++) {
            Springs::shorten($this->x, $this->y, $this->z, $this->w, $this->weave->first, $this->weave->other, $this->most, 0.0);
        }
        foreach ($this->x as $i => $now) {
            $this->px[$i] += $now - $x[$i];
            $this->py[$i] += $this->y[$i] - $y[$i];
            $this->pz[$i] += $this->z[$i] - $z[$i];
        }
        $this->collide(false);
    }

    /** @return list<float> three numbers a vertex, m */
    public function places(): array
    {
        $places = [];
        foreach ($this->x as $i => $x) {
            $places[] = $x;
            $places[] = $this->y[$i];
            $places[] = $this->z[$i];
        }

        return $places;
    }

    /** @return array{int, float, float} vertices that move faster than a speed, energy of the motion in J, largest stretch along the threads as a share of the length */
    public function facts(float $speed): array
    {
        $moving = 0;
        $energy = 0.0;
        $limit = ($speed * $this->h) ** 2;
        foreach ($this->x as $i => $x) {
            $d = ($x - $this->px[$i]) ** 2 + ($this->y[$i] - $this->py[$i]) ** 2 + ($this->z[$i] - $this->pz[$i]) ** 2;
            $moving += $d > $limit && $this->hold[$i] < 1.0 ? 1 : 0;
            $energy += 0.5 * $this->weave->mass[$i] * $d / ($this->h * $this->h);
        }

        return [$moving, $energy, $this->stretch()];
    }

    /** Whether it is anywhere that a cloth can be. */
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

    /** The largest stretch of an edge along the threads, as a share of its length. */
    public function stretch(): float
    {
        $most = 0.0;
        for ($a = 0, $n = $this->weave->count(); $a < $n; $a++) {
            for ($c = $this->weave->first[$a]; $c < $this->weave->first[$a + 1]; $c++) {
                if ($this->weave->diagonal[$c] > 0.5) {
                    continue;
                }
                $b = $this->weave->other[$c];
                $l = sqrt(($this->x[$a] - $this->x[$b]) ** 2 + ($this->y[$a] - $this->y[$b]) ** 2 + ($this->z[$a] - $this->z[$b]) ** 2);
                $most = max($most, $l / $this->weave->length[$c] - 1.0);
            }
        }

        return $most;
    }

    /** @return list<SurfaceContact> of the step */
    public function contacts(): array
    {
        return $this->contacts;
    }

    /** @return array<string, mixed> everything that decides the next frame */
    public function save(): array
    {
        return ['x' => $this->x, 'y' => $this->y, 'z' => $this->z, 'px' => $this->px, 'py' => $this->py, 'pz' => $this->pz];
    }

    public function restore(State $saved): void
    {
        [$this->x, $this->y, $this->z] = [$saved->floats('x'), $saved->floats('y'), $saved->floats('z')];
        [$this->px, $this->py, $this->pz] = [$saved->floats('px'), $saved->floats('py'), $saved->floats('pz')];
    }
}
