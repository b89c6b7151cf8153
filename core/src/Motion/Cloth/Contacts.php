<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Surface\CoreContact;
use YardBreak\Core\Motion\Surface\HardCrossing;
use YardBreak\Core\Motion\Surface\PlaneContact;
use YardBreak\Core\Motion\Surface\RidgeContact;
use YardBreak\Core\Motion\Surface\SurfaceContact;
use YardBreak\Core\Motion\Touch;

/** What a cloth touches: floors for ever, and for the length of a step the colliders that come near it. */
final class Contacts
{
    /** A ball around a body is around its hull; its true surface may stand out a little. */
    private const BALL = 1.1;

    /** What may be touched is looked for so many edges farther than both come. */
    private const AHEAD = 2.0;

    /** What strikes something firm may come off, or be turned, up to so many times as fast as both came. */
    private const SOON = 2.0;

    /** @var list<SurfaceContact> */
    private array $surfaces = [];

    /** @var list<RidgeContact> */
    private array $ridges = [];

    /** What is held wholly, and stops what presses on it. */
    public readonly Firm $firm;

    /** @var list<CoreContact> */
    private array $cores = [];

    /** @var list<HardCrossing> */
    private array $crossings = [];

    /** @var array<int, true> vertices between a floor and what stands on it */
    private array $pinned = [];

    /** @var array<int, true> of them, those that something has come down on */
    private array $pressed = [];

    /** @var list<array{Collider, array{float, float, float, float, float, float}, float}> what was touched, and what it has not felt yet */
    private array $felt = [];

    /** @var array<string, true> names of things that the cloth is fastened to */
    private array $own = [];

    /** @var list<list<int>> triangles around each vertex, without those that are fastened to something */
    private array $loose;

    /** Length of a substep, s. */
    private float $h = 0.0;

    /** @var array<string, float> by its name, how much faster a thing was made in the substep, m/s */
    private array $given = [];

    /**
     * @param list<PlaneContact> $planes
     * @param float $mass of the mean vertex, kg
     * @param bool $solid whether it is the surface of something, with its faces outwards
     */
    public function __construct(
        private readonly Weave $weave,
        private readonly Fabric $fabric,
        private readonly array $planes,
        private readonly float $mass,
        private readonly bool $solid = false,
    ) {
        $this->loose = $weave->around;
        $this->firm = new Firm($weave, $fabric);
    }

    /**
     * The triangles next to where it is fastened do not meet the edges of what holds them there: both would push them, either way.
     *
     * @param array<string, true> $names of things that the cloth is fastened to
     * @param array<int, mixed> $nodes where it is, by vertex
     */
    public function fasten(array $names, array $nodes): void
    {
        [$this->own, $triangles] = [$names, $this->weave->triangles];
        $this->loose = array_map(static fn (array $around): array => array_values(array_filter($around, static fn (int $t): bool => ! isset($nodes[$triangles[$t]]) && ! isset($nodes[$triangles[$t + 1]]) && ! isset($nodes[$triangles[$t + 2]]))), $this->weave->around);
    }

    /**
     * Begins a step: finds the colliders that may be touched in it.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $ways how far each vertex went in the last substep, m
     * @param list<Collider> $colliders
     * @param float $dt s
     * @param float $h length of its substeps, s
     * @param bool $feels whether touches of what is held matter too
     */
    public function begin(array $x, array $y, array $z, array $ways, array $colliders, float $dt, float $h, bool $feels): void
    {
        $this->h = $h;
        $this->firm->begin($h);
        $this->surfaces = $this->ridges = $this->cores = $this->crossings = $this->pinned = $this->pressed = [];
        if ($colliders === [] || $x === [] || $y === [] || $z === [] || $ways === []) {
            return;
        }
        $way = max($ways);
        $box = [min($x), min($y), min($z), max($x), max($y), max($z)];
        $edge = $this->weave->meanEdge();
        $gap = $this->fabric->gap;
        // As far as both may come towards each other in a substep, with what gravity and pulls add; and in the step.
        $reach = $gap + self::AHEAD * $edge + 2.0 * $way;
        $each = array_map(static fn (float $way): float => ClothTuning::HURRY * $way + ClothTuning::SPARE * $edge, $ways);
        foreach ($colliders as $collider) {
            $moves = $way * $dt / $this->h + $collider->travel($dt);
            if (! self::isNear($collider, $box, $reach + $moves)) {
                continue;
            }
            $near = self::vertices($collider, $x, $y, $z, $reach + $moves);
            if ($near === [] || (! $feels && ! $collider->feels() && $this->firm->holds($near))) {
                continue;
            }
            $around = isset($this->own[$collider->name()]) ? $this->loose : $this->weave->around;
            $friction = sqrt($this->fabric->friction * $collider->friction());
            // Nothing is pushed farther than the thing is large.
            $far = $reach + $moves + self::size($collider);
            $planes = array_values(array_filter($this->planes, static fn (PlaneContact $plane): bool => $plane->aboveBox($box) < $far));
            $standoff = $collider->surface()->standoff($edge, ClothTuning::UNFELT * $gap, ClothTuning::FLOATS * $edge);
            $this->surfaces[] = $surface = new SurfaceContact($collider, $near, $gap, $reach + $collider->travel($this->h), $friction, $feels, $planes, $x, $y, $z, $collider->growth($dt), $standoff);
            $this->pinned += $surface->pinned();
            $this->pressed += is_finite($collider->mass()) ? $surface->pinned() : [];
            $this->firm->expect($collider, $x, $y, $z, $around, $near, $gap + $moves, $gap + self::SOON * $moves * $h / $dt);
            if (self::size($collider) < ClothTuning::CORED * $edge) {
                $core = CoreContact::of($collider, $x, $y, $z, $this->weave->triangles, $around, $near, $gap, $moves + 2.0 * $edge, $friction, $this->solid ? ClothTuning::CAME_IN * $edge : 0.0);
                array_push($this->cores, ...($core === null ? [] : [$core]));
            }
            if ($this->firm->holds($near)) {
                continue;
            }
            if ($this->solid && self::size($collider) < ClothTuning::RESOLVED * $edge) {
                continue;
            }
            $crossed = $collider->surface()->closed && HardCrossing::isThin($collider, $edge) ? RidgeContact::at($near, $around) : [];
            if (self::size($collider) >= ClothTuning::SMALL * $edge) {
                $ridge = RidgeContact::of($collider, $x, $y, $z, $this->weave->triangles, $around, $near, ClothTuning::RIDGE * $edge, $gap, $each, (int) round($dt / $this->h), $collider->travel($this->h), $friction, $planes, $surface->pinned());
                array_push($this->ridges, ...($ridge === null ? [] : [$ridge]));
                $crossed = $crossed === [] ? $ridge?->triangles() ?? [] : $crossed;
            }
            if ($crossed !== []) {
                $this->crossings[] = new HardCrossing($collider, $this->weave->cornersOf($crossed), $edge);
            }
        }
    }

    /**
     * Whether nothing of it comes fast at what it may touch in a step.
     *
     * @param non-empty-array<int, float> $x
     * @param non-empty-array<int, float> $y
     * @param non-empty-array<int, float> $z
     * @param float $speed of what goes fastest, m/s
     * @param float $most how fast its parts may come at each other, m/s
     * @param list<Collider> $colliders
     * @param float $dt s
     */
    public function isCalm(array $x, array $y, array $z, float $speed, float $most, array $colliders, float $dt): bool
    {
        $reach = $this->fabric->gap + self::AHEAD * $this->weave->meanEdge();
        $touching = ClothTuning::TOUCHES * $most;
        $box = [min($x), min($y), min($z), max($x), max($y), max($z)];
        foreach ($colliders as $collider) {
            $both = $speed + $collider->travel($dt) / $dt;
            if ($both > $touching && self::isNear($collider, $box, $reach + $both * $dt) && ($both > $most || ! $this->isBlunt($collider))) {
                return false;
            }
        }
        foreach ($speed > $touching ? $this->planes : [] as $plane) {
            if ($plane->aboveBox($box) < $reach + $speed * $dt) {
                return false;
            }
        }

        return true;
    }

    /** Whether it has no edges and no tips that could come through between those of the cloth. */
    private function isBlunt(Collider $collider): bool
    {
        $surface = $collider->surface();

        return $surface->closed && $surface->ridges() === [] && $surface->tips() === [] && ! HardCrossing::isThin($collider, $this->weave->meanEdge()) && self::size($collider) >= ClothTuning::CORED * $this->weave->meanEdge();
    }

    /** @param array{float, float, float, float, float, float} $box around the cloth: low corner, high corner */
    private static function isNear(Collider $collider, array $box, float $reach): bool
    {
        [$middle, $radius] = $collider->ball();
        $squared = 0.0;
        foreach ($middle as $axis => $at) {
            $off = max($box[$axis] - $at, $at - $box[$axis + 3], 0.0);
            $squared += $off * $off;
        }

        return $squared <= (self::BALL * $radius + $reach) ** 2;
    }

    /** The longest side of what a collider takes up, m. */
    private static function size(Collider $collider): float
    {
        [$low, $high] = $collider->surface()->bounds();

        return max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return list<int> vertices within reach of a collider's bounds, in its axes
     */
    private static function vertices(Collider $collider, array $x, array $y, array $z, float $reach): array
    {
        if ($collider->surface()->isEmpty()) {
            return [];
        }
        [[$tx, $ty, $tz], $rotation] = $collider->pose();
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = Quaternion::matrix($rotation);
        [[$lx, $ly, $lz], [$hx, $hy, $hz]] = $collider->surface()->bounds();
        [$lx, $ly, $lz, $hx, $hy, $hz] = [$lx - $reach, $ly - $reach, $lz - $reach, $hx + $reach, $hy + $reach, $hz + $reach];
        $near = [];
        foreach ($x as $i => $a) {
            $a -= $tx;
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
     * Pushes the cloth out of what it touches, with friction; what is touched feels it by and by ({@see feel()}, {@see holdBack()}).
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w
     */
    public function resolve(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w): void
    {
        foreach ($this->surfaces as $surface) {
            $felt = $surface->resolve($x, $y, $z, $px, $py, $pz, $w, true);
            $this->felt[] = [$surface->collider(), $felt, min($surface->deepest / $this->h, $surface->nearing / $this->h + ClothTuning::PARTING)];
        }
        foreach ($this->ridges as $ridge) {
            $felt = $ridge->resolve($x, $y, $z, $px, $py, $pz, $w, $this->weave->triangles, true);
            $this->felt[] = [$ridge->collider(), $felt, INF];
        }
        foreach ($this->cores as $core) {
            $felt = $core->resolve($x, $y, $z, $px, $py, $pz, $w, ClothTuning::PARTING * $this->h);
            $this->felt[] = [$core->collider(), $felt, ($core->nearing + $core->parting) / $this->h];
        }
        $this->press($x, $y, $z, $px, $py, $pz, $w);
        foreach ($this->planes as $plane) {
            $plane->resolve($x, $y, $z, $px, $py, $pz, $w, true);
        }
    }

    /**
     * What has fallen on it presses it to the floor, without a change of speed: higher up in that it would be pushed out at its sides by and by, and drawn up there.
     * What stands for ever has it beside its foot, and that is put out.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w
     */
    private function press(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w): void
    {
        foreach ($this->pressed as $i => $_) {
            $plane = PlaneContact::nearest($this->planes, $x[$i], $y[$i], $z[$i]);
            $height = $plane === null || $w[$i] <= 0.0 ? 0.0 : $plane->above($x[$i], $y[$i], $z[$i]);
            if ($plane !== null && $height > 0.0) {
                [$a, $b, $c] = $plane->normal;
                [$x[$i], $y[$i], $z[$i]] = [$x[$i] - $height * $a, $y[$i] - $height * $b, $z[$i] - $height * $c];
                [$px[$i], $py[$i], $pz[$i]] = [$px[$i] - $height * $a, $py[$i] - $height * $b, $pz[$i] - $height * $c];
            }
        }
    }

    /**
     * What was touched is pushed back.
     *
     * @param float $times as far as the cloth was pushed
     * @param bool $moves whether it has left its place in the last frame, or is moved by who holds it
     */
    public function feel(float $times, bool $moves): void
    {
        foreach ($this->felt as [$collider, $felt, $most]) {
            $this->push($collider, $felt, $times, $most, $moves, null);
        }
        $this->felt = [];
    }

    /**
     * What was touched is pushed back; and what presses on cloth that is held, by whoever holds it too.
     *
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is places of all vertices, m
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was a substep before
     * @param array<int, float> $w
     * @param list<float> $weighs kg of what hangs together with each vertex
     * @param bool $moves whether it has left its place in the last frame, or is moved by who holds it
     * @param Seams|null $seams what tears where it bears too much; null: nothing does
     */
    public function holdBack(Tethers $tethers, array $is, array $was, array $w, array $weighs, bool $moves, ?Seams $seams): void
    {
        $pressed = $against = [];
        // Where all of it goes nothing holds anything back.
        foreach ($w === [] || min($w) > 0.0 ? [] : [...$this->surfaces, ...$this->cores] as $surface) {
            $at = Pressed::at($surface->touched(), $tethers, $is, $was, $w, $weighs);
            if ($at !== null) {
                $pressed[] = [$surface->collider(), $at];
                $against += $at->isTaut ? [$surface->collider()->name() => $seams === null ? $at->against : INF] : [];
            }
        }
        foreach ($this->felt as [$collider, $felt, $most]) {
            $this->push($collider, $felt, 1.0, $most, $moves, $against[$collider->name()] ?? null);
        }
        $this->felt = [];
        foreach ($pressed as [$collider, $at]) {
            $bears = $seams === null ? INF : $this->h * $seams->bears($at->touched);
            $takes = $collider->stop($at->place, $at->way, $at->speed($this->h), sqrt($this->fabric->friction * $collider->friction()), $bears);
            if ($takes > $bears) {
                $seams?->load($at->touched, $takes / max(1e-12, $bears));
            }
        }
    }

    /** Whether something may be stopped in the step under way. */
    public function mayStop(): bool
    {
        return $this->surfaces !== [] && ! $this->firm->isEmpty();
    }

    /**
     * What presses on what is held wholly goes no farther.
     *
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is places of all vertices, m
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was a substep before
     */
    public function stand(array $is, array $was): void
    {
        $this->firm->stop([...$this->surfaces, ...$this->cores], $is, $was);
    }

    /**
     * The same without friction, and without anything feeling it: after a change of places that is no motion.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w
     */
    public function clear(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w): void
    {
        foreach ($this->surfaces as $surface) {
            $surface->resolve($x, $y, $z, $px, $py, $pz, $w, false);
        }
        foreach ($this->ridges as $ridge) {
            $ridge->resolve($x, $y, $z, $px, $py, $pz, $w, $this->weave->triangles, false);
        }
        foreach ($this->cores as $core) {
            $was = [$x, $y, $z];
            $core->resolve($x, $y, $z, $px, $py, $pz, $w);
            foreach ($core->touched() === [] ? [] : $x as $i => $now) {
                $px[$i] += $now - $was[0][$i];
                $py[$i] += $y[$i] - $was[1][$i];
                $pz[$i] += $z[$i] - $was[2][$i];
            }
        }
        if ($this->crossings !== []) {
            $this->part($x, $y, $z, $px, $py, $pz, $w);
        }
        // What stays in a thing need not keep its distance from a floor; below it nothing is.
        $less = $this->crossings === [] ? 0.0 : $this->fabric->gap;
        foreach ($this->planes as $plane) {
            (new PlaneContact($plane->normal, $plane->offset - $less, 0.0))->resolve($x, $y, $z, $px, $py, $pz, $w, false);
        }
    }

    /**
     * What hard edges have come through is drawn out of them, as far as that has an end: what is pinched between a floor and a thing, or between two things,
     * finds no way out, and stays where it is rather than being thrown about.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w
     */
    private function part(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w): void
    {
        $was = [$x, $y, $z, $px, $py, $pz];
        $last = $was;
        foreach ($this->crossings as $crossing) {
            $crossing->begin();
        }
        for ($turn = 0, $crossed = true; $crossed && $turn < ClothTuning::CLEAR_TURNS; $turn++) {
            $crossed = false;
            $last = [$x, $y, $z];
            foreach ($this->crossings as $crossing) {
                $crossed = $crossing->part($x, $y, $z, $px, $py, $pz, $w) || $crossed;
            }
            foreach ($this->planes as $plane) {
                $plane->resolve($x, $y, $z, $px, $py, $pz, $w, false);
            }
        }
        $moved = self::moved($was, [$x, $y, $z]);
        $pinned = array_merge(...array_map(static fn (HardCrossing $crossing): array => $crossing->pins(), $this->crossings));
        $ends = ($crossed ? self::moved($last, [$x, $y, $z]) : []) + array_fill_keys($pinned, true) + $this->drawn(array_intersect_key($this->pinned, $moved), $was, [$x, $y, $z]);
        $stays = $this->spread($ends, $moved);
        $most = (ClothTuning::CLEARED * $this->weave->meanEdge()) ** 2;
        foreach ($x as $i => $now) {
            if (isset($stays[$i]) || PlaneContact::keeps($this->planes, $was[0][$i], $was[1][$i], $was[2][$i], 0.0, 0.0, 0.0) || ($now - $was[0][$i]) ** 2 + ($y[$i] - $was[1][$i]) ** 2 + ($z[$i] - $was[2][$i]) ** 2 > $most) {
                [$x[$i], $y[$i], $z[$i], $px[$i], $py[$i], $pz[$i]] = [$was[0][$i], $was[1][$i], $was[2][$i], $was[3][$i], $was[4][$i], $was[5][$i]];
            }
        }
    }

    /**
     * @param array<int, true> $those vertices
     * @param array<array<int, float>> $was x, y, z and perhaps more
     * @param array<array<int, float>> $is
     *
     * @return array<int, true> of them, those that have become too far from a neighbour
     */
    private function drawn(array $those, array $was, array $is): array
    {
        $drawn = [];
        foreach ($those === [] ? [] : range(0, $this->weave->count() - 1) as $a) {
            for ($c = $this->weave->first[$a], $end = $this->weave->first[$a + 1]; $c < $end; $c++) {
                $b = $this->weave->other[$c];
                if (! isset($those[$a]) && ! isset($those[$b])) {
                    continue;
                }
                $before = ($was[0][$a] - $was[0][$b]) ** 2 + ($was[1][$a] - $was[1][$b]) ** 2 + ($was[2][$a] - $was[2][$b]) ** 2;
                $now = ($is[0][$a] - $is[0][$b]) ** 2 + ($is[1][$a] - $is[1][$b]) ** 2 + ($is[2][$a] - $is[2][$b]) ** 2;
                if ($now > ClothTuning::DRAWN ** 2 * max($before, $this->weave->length[$c] ** 2)) {
                    $drawn[$a] = $drawn[$b] = true;
                }
            }
        }

        return array_intersect_key($drawn, $those);
    }

    /**
     * @param array<array<int, float>> $was x, y, z and perhaps more
     * @param array<array<int, float>> $is
     *
     * @return array<int, true> vertices that are elsewhere
     */
    private static function moved(array $was, array $is): array
    {
        $moved = [];
        foreach ($is[0] as $i => $x) {
            if ($x !== $was[0][$i] || $is[1][$i] !== $was[1][$i] || $is[2][$i] !== $was[2][$i]) {
                $moved[$i] = true;
            }
        }

        return $moved;
    }

    /**
     * @param array<int, true> $from vertices
     * @param array<int, true> $over
     *
     * @return array<int, true> what hangs together with the one over the others
     */
    private function spread(array $from, array $over): array
    {
        [$triangles, $around] = [$this->weave->triangles, $this->weave->around];
        $front = array_keys($from);
        while ($front !== []) {
            $i = array_pop($front);
            foreach ($around[$i] as $t) {
                foreach ([$triangles[$t], $triangles[$t + 1], $triangles[$t + 2]] as $v) {
                    if (isset($over[$v]) && ! isset($from[$v])) {
                        $from[$v] = true;
                        $front[] = $v;
                    }
                }
            }
        }

        return $from;
    }

    /** Ends a substep. */
    public function settle(): void
    {
        foreach ([...$this->surfaces, ...$this->ridges, ...$this->cores] as $contact) {
            $contact->settle();
        }
        $this->given = [];
    }

    /**
     * @param array{float, float, float, float, float, float} $felt way of the mean vertex, and its moment, that a contact took
     * @param float $most m/s
     * @param float|null $against kg of cloth that is held and drawn tight; null: it is not
     */
    private function push(Collider $collider, array $felt, float $times, float $most, bool $moves, ?float $against): void
    {
        [$jx, $jy, $jz, $kx, $ky, $kz] = $felt;
        if ($jx !== 0.0 || $jy !== 0.0 || $jz !== 0.0) {
            $s = -$times * $this->mass / $this->h;
            // Looked at again in a substep it is given what is left of that.
            $most = max(0.0, $most - ($this->given[$collider->name()] ?? 0.0));
            if (is_finite($most)) {
                $this->given[$collider->name()] = ($this->given[$collider->name()] ?? 0.0) + min($most, abs($s) * sqrt($jx * $jx + $jy * $jy + $jz * $jz) / $collider->mass());
            }
            $collider->push(new Touch([$s * $jx, $s * $jy, $s * $jz], [$s * $kx, $s * $ky, $s * $kz], $most, $moves, $against));
        }
    }

    /** @return array{float, float, array{float, float, float}} speed of the fastest touch in the step, m/s (0: none), that speed times the mass of what came, N s, and where it was */
    public function fastest(): array
    {
        $fastest = [0.0, 0.0, [0.0, 0.0, 0.0]];
        foreach ($this->surfaces as $surface) {
            $speed = $surface->fastest / $this->h;
            if ($speed > $fastest[0]) {
                $fastest = [$speed, $speed * $surface->collider()->mass(), $surface->touch];
            }
        }

        return $fastest;
    }
}
