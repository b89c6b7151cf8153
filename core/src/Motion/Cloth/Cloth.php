<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Surface\Bending;
use YardBreak\Core\Motion\Surface\Connected;
use YardBreak\Core\Motion\Surface\PlaneContact;
use YardBreak\Core\Motion\Surface\Settling;
use YardBreak\Core\Motion\Surface\Slumber;
use YardBreak\Core\Motion\Surface\Surroundings;

/**
 * One cloth in motion: extended position based dynamics in small substeps. A substep moves vertices on, pulls the coarse levels
 * together, then the edges, the hinges there and back, the edges back; contacts stand between and at the
 * end, so that what they push is pulled straight once more. At the end of a frame no edge is much longer than at rest.
 *
 * @phpstan-import-type Pose from Holding
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

    private readonly Elasticity $elasticity;

    /** What it wants to be. */
    private readonly RestState $rest;

    /** @var list<Filling>|null what its closed parts are filled with; made when it is asked for */
    private ?array $fillings = null;

    /** @var array{float, float}|null volume that they keep, as a share of what was woven, and with which pressure they push at most, Pa; null: whatever they have */
    private ?array $filled = null;

    /** @var list<CoarseLevel> the coarsest first */
    private array $levels = [];

    private readonly Tethers $tethers;

    /** kg of the mean vertex */
    public readonly float $meanMass;

    private readonly Loads $loads;

    private readonly Contacts $contacts;

    /** Null: it does not feel itself. */
    private readonly ?SelfContact $itself;

    private Holding $holder;

    /** @var list<float> kg of what hangs together with each vertex */
    private readonly array $weighs;

    public readonly Slumber $slumber;

    /** Whether all of it sleeps. */
    private bool $still = false;

    /** @var list<bool> whether each vertex sleeps; none: none does */
    private array $sleeps = [];

    /** Whether it is the skin of something, with its faces outwards. */
    private readonly bool $solid;

    /** Whether any of it goes anywhere by itself. */
    private bool $loose = true;

    /** What is held by things that it is fastened to; null: nothing. */
    private ?Fastening $fastening = null;

    /** @var array<int, float> inverse masses to what draws it together: those, and of what is fastened as far as that gives way */
    private array $drawing = [];

    /**
     * @param list<PlaneContact> $planes
     * @param float $h length of a substep, s; {@see pace()}
     * @param array<int, float> $hold how far each vertex is held at the beginning
     * @param Pose $pose of the prop
     * @param Settling|null $settling null: it never comes to rest
     * @param Seams|null $seams what tears where it bears too much; null: nothing does
     * @param list<int> $fastened vertices that things hold
     */
    public function __construct(
        private readonly Weave $weave,
        private readonly Fabric $fabric,
        array $planes,
        private float $h,
        array $hold,
        array $pose,
        ?Settling $settling = null,
        private readonly ?Seams $seams = null,
        array $fastened = [],
    ) {
        $parts = new Connected($weave->first, $weave->other);
        $this->weighs = $parts->sums($weave->mass);
        $this->slumber = new Slumber($parts, $settling ?? Settling::never(), $fabric->gap, ClothTuning::TREMBLES * $weave->meanEdge());
        $masses = array_filter($weave->mass, static fn (float $mass): bool => $mass > 0.0);
        $this->meanMass = $masses === [] ? 1.0 : array_sum($masses) / count($masses);
        foreach ($weave->mass as $mass) {
            $this->free[] = $mass > 0.0 ? $this->meanMass / $mass : 0.0;
        }
        $longest = [];
        foreach ($weave->length as $c => $length) {
            $room = ClothTuning::SHEAR_ROOM * (1.0 - $fabric->shear) * $weave->diagonal[$c];
            $longest[] = $length * (1.0 + $fabric->limit() + $room);
        }
        $this->loads = new Loads($weave, $fabric);
        $this->solid = $this->loads->closed && MassProperties::of(new TriangleMesh($weave->x, $weave->y, $weave->z, $weave->triangles))->volume > 0.0;
        $this->rest = new RestState($weave, $longest);
        $this->elasticity = new Elasticity($weave, $this->meanMass);
        $this->elasticity->pace($h);
        $this->itself = $fabric->feelsItself ? new SelfContact($weave, $fabric->friction) : null;
        $this->contacts = new Contacts($weave, $fabric, $planes, $this->meanMass);
        $this->holder = new Holding($weave->x, $weave->y, $weave->z);
        $this->lie($pose);
        $this->hold = array_fill(0, $weave->count(), 0.0);
        $ways = Geodesics::of($weave);
        $held = array_values(array_unique([...array_keys(array_filter($hold, static fn (float $of): bool => $of >= 1.0)), ...$fastened]));
        $room = 1.0 + $fabric->limit() - ClothTuning::LIMIT;
        foreach (array_reverse(ClothTuning::LEVELS) as $spacing) {
            $level = CoarseLevel::of($weave, $ways, $spacing * $weave->meanEdge(), $held, $fabric->stretch / Elasticity::scales());
            if ($level !== null) {
                $this->levels[] = $level;
            }
        }
        // What presses on cloth gets as much too far as its tethers are too long. Where it tears, strips that hang on a little longer are not drawn tight beneath what they have let through.
        $this->tethers = Tethers::to($held, $ways, $room, $held === [] || $seams !== null ? null : $weave->fronts());
        $this->holdBy($hold);
    }

    public function count(): int
    {
        return $this->weave->count();
    }

    /**
     * From now on its substeps are so long: it goes on as fast as it went.
     *
     * @param float $h s
     */
    public function pace(float $h): void
    {
        if ($h === $this->h) {
            return;
        }
        $by = $h / $this->h;
        foreach ($this->x as $i => $x) {
            $this->px[$i] = $x - $by * ($x - $this->px[$i]);
            $this->py[$i] = $this->y[$i] - $by * ($this->y[$i] - $this->py[$i]);
            $this->pz[$i] = $this->z[$i] - $by * ($this->z[$i] - $this->pz[$i]);
        }
        $this->h = $h;
        $this->elasticity->pace($h);
    }

    /**
     * Whether nothing comes fast at what it may touch in a step, nor, if it feels itself, at what of it lies near.
     *
     * @param float $most how fast its parts may come at each other, m/s
     * @param list<Collider> $colliders
     * @param float $dt s
     */
    public function isCalm(float $most, array $colliders, float $dt): bool
    {
        [$x, $y, $z] = [$this->x, $this->y, $this->z];
        if ($x === [] || $y === [] || $z === []) {
            return true;
        }
        $speed = $this->still ? 0.0 : max([0.0, ...$this->ways()]) / $this->h;

        return $this->contacts->isCalm($x, $y, $z, $speed, $most, $colliders, $dt)
            && ($this->still || $this->itself?->isCalm($x, $y, $z, $this->px, $this->py, $this->pz, $dt / $this->h, $most * $dt) !== false);
    }

    /**
     * Goes on where another cloth was, of which some vertices have come apart.
     *
     * @param list<int> $from the vertex that each vertex was before
     */
    public function goOnFrom(self $before, array $from): void
    {
        [$this->x, $this->y, $this->z] = [self::picked($before->x, $from), self::picked($before->y, $from), self::picked($before->z, $from)];
        [$this->px, $this->py, $this->pz] = [self::picked($before->px, $from), self::picked($before->py, $from), self::picked($before->pz, $from)];
        $this->grow($before->rest->growth->picked($from));
    }

    /**
     * @param array<int, float> $of
     * @param list<int> $which
     *
     * @return list<float>
     */
    private static function picked(array $of, array $which): array
    {
        return array_map(static fn (int $v): float => $of[$v], $which);
    }

    /** How many times as long as it was woven the cloth is between two vertices, along a way in the prop's axes. */
    public function longer(int $a, int $b, float $x, float $y, float $z): float
    {
        return $this->rest->longer($a, $b, $x, $y, $z);
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
        $this->hold = $hold;
        $this->weigh();
    }

    /** From now on things hold it as this says. */
    public function fasten(Fastening $fastening): void
    {
        $this->fastening = $fastening;
        $this->contacts->fasten($fastening->things(), $fastening->gives());
        $this->slumber->wake();
        $this->weigh();
    }

    /** Those who sleep have changed since it was looked at last. */
    private function notice(): void
    {
        $sleeps = $this->slumber->changes();
        if ($sleeps !== null) {
            $this->sleeps = in_array(true, $sleeps, true) ? $sleeps : [];
            $this->still = ! in_array(false, $sleeps, true);
            $this->weigh();
        }
    }

    /** What is held wholly, or sleeps, goes nowhere. */
    private function weigh(): void
    {
        $before = $this->w;
        $this->w = $this->holding = [];
        $gives = $this->fastening?->gives() ?? [];
        foreach ($this->free as $i => $free) {
            $held = $this->hold[$i];
            $sleeps = $this->sleeps[$i] ?? false;
            $this->w[] = $held >= 1.0 || $sleeps || isset($gives[$i]) ? 0.0 : $free;
            if ($held > 0.0 && ! $sleeps && ! isset($gives[$i])) {
                $this->holding[] = $i;
            }
        }
        $this->drawing = array_replace($this->w, $gives);
        $this->contacts->firm->hold(array_diff_key(array_filter($this->hold, static fn (float $held): bool => $held >= 1.0), $gives), $this->solid);
        $this->loose = $this->drawing !== [] && max($this->drawing) > 0.0;
        if ($this->w !== $before) {
            $this->elasticity->weigh($this->w);
            foreach ($this->levels as $level) {
                $level->settle($this->w, $this->rest->shape, $this->rest->growth);
            }
        }
    }

    /** From now on the cloth is so much longer than at rest; an edge is as its ends are on average. */
    public function grow(Growth $growth): void
    {
        if ($this->rest->grow($growth)) {
            $this->measured();
        }
    }

    /**
     * From now on it wants to be in another shape: what is held is held there, edges are as long and hinges as bent as there.
     *
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was places of its vertices when the next substep begins, in the prop's axes, m
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is and after so many substeps
     */
    public function take(array $was, array $is, int $substeps): void
    {
        $this->lead($was, $is, $substeps);
        if ($this->rest->draw($is)) {
            $this->reshaped();
        }
    }

    /**
     * What is held goes elsewhere, as long and as bent as ever.
     *
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was places of its vertices when the next substep begins, in the prop's axes, m
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is and after so many substeps
     */
    public function lead(array $was, array $is, int $substeps): void
    {
        $this->holder = new Holding(...$is, was: $was, substeps: $substeps);
        if ($was !== $is) {
            $this->slumber->wake();
        }
    }

    /**
     * From now on it wants to be so many times as large as that, along the prop's axes.
     *
     * @param array{float, float, float} $size
     */
    public function size(array $size): void
    {
        if ($this->rest->size($size)) {
            $this->reshaped();
        }
    }

    private function reshaped(): void
    {
        $this->itself?->lieAs($this->rest->shape);
        $this->slumber->wake();
        $this->measured();
    }

    /** All that goes by how long it is is told so. */
    private function measured(): void
    {
        foreach ($this->levels as $level) {
            $level->settle($this->w, $this->rest->shape, $this->rest->growth);
        }
        $this->tethers->grow($this->rest->longest());
        $this->itself?->grow($this->rest->growth->least());
    }

    /**
     * Begins as it is at rest.
     *
     * @param Pose $pose of the prop
     */
    public function lie(array $pose): void
    {
        [$this->x, $this->y, $this->z] = $this->holder->posed($pose);
        [$this->px, $this->py, $this->pz] = [$this->x, $this->y, $this->z];
    }

    /** @param list<float> $pressure on the inside of each vertex from the next step on, Pa; none: there is none */
    public function blowUp(array $pressure): void
    {
        $this->loads->blowUp($pressure);
    }

    /**
     * From the next step on its closed parts keep a volume.
     *
     * @param float $share of what was woven
     * @param float $pressure with which they push at most, Pa
     */
    public function fill(float $share, float $pressure): void
    {
        $this->fillings ??= Filling::of($this->weave);
        $filled = [$share, $pressure];
        if ($filled !== $this->filled) {
            $this->slumber->wake();
        }
        $this->filled = $filled;
    }

    /**
     * Begins a step: what acts during it, and what may be touched.
     *
     * @param Pushes $pushes what acts on each vertex
     * @param list<Collider> $colliders
     * @param float $dt s
     * @param bool $feels whether touches of what is held matter too
     */
    public function begin(Pushes $pushes, float $dt, array $colliders, bool $feels = false): void
    {
        if ($this->fastening?->begin($colliders, $this->meanMass, $dt) === true) {
            $this->slumber->wake();
        }
        $alters = [[$this->rest->growth->times, Surroundings::OTHERWISE], [$this->loads->pressure(), $this->slumber->unnoticed() * $this->fabric->mass]];
        $this->slumber->begin($pushes, $this->hold, $alters, $colliders, $dt);
        $this->notice();
        if ($this->still) {
            return;
        }
        $this->drawing = $this->fastening === null ? $this->w : array_replace($this->w, $this->fastening->gives());
        $share = 1.0 - exp(-$this->fabric->damping * ClothTuning::SMOOTHING * $dt);
        Smoothing::speeds($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w, $this->weave->first, $this->weave->other, $share);
        [$x, $y, $z] = [array_values($this->x), array_values($this->y), array_values($this->z)];
        if ($pushes->slows) {
            Advance::slowed($x, $y, $z, $this->px, $this->py, $this->pz, $this->w, $pushes, $this->h, $dt);
        }
        $this->loads->begin($pushes, $x, $y, $z, $this->h);
        $this->contacts->begin($x, $y, $z, $colliders === [] ? [] : $this->ways(), $colliders, $dt, $this->h, $feels);
    }

    /** @return array{list<float>, list<float>, list<float>} where its vertices are, m */
    public function axes(): array
    {
        return [array_values($this->x), array_values($this->y), array_values($this->z)];
    }

    /** @return list<float> how far each vertex went in the last substep, m */
    private function ways(): array
    {
        [$x, $y, $z, $px, $py, $pz] = [$this->x, $this->y, $this->z, $this->px, $this->py, $this->pz];
        $ways = [];
        foreach ($x as $i => $a) {
            $a -= $px[$i];
            $b = $y[$i] - $py[$i];
            $c = $z[$i] - $pz[$i];
            $ways[] = sqrt($a * $a + $b * $b + $c * $c);
        }

        return $ways;
    }

    /**
     * @param Pose $was of the prop when the substep begins
     * @param Pose $is and when it ends
     */
    public function substep(array $was, array $is): void
    {
        if ($this->still) {
            return;
        }
        $this->loads->advance($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w);
        $this->itself?->watch($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz);
        $this->holder->draw($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->holding, $this->hold, $was, $is, $this->h);
        $this->fastening?->lead($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz);
        $gives = $this->fastening?->gives() ?? [];
        if ($this->loose) {
            $this->draw($gives);
        } else {
            // What is held all over only touches others.
            $this->contacts->resolve($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w);
            $this->contacts->resolve($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w);
        }
        $moves = $this->slumber->isLively() || ($this->holding !== [] && $was !== $is);
        $this->fastening?->yield($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->meanMass, $this->h, $moves, $this->holding !== [], $this->fabric->damping);
        // What is fastened to what gives way holds nothing back.
        $this->contacts->holdBack($this->tethers, [$this->x, $this->y, $this->z], [$this->px, $this->py, $this->pz], $this->fastening?->firm($this->drawing) ?? $this->w, $this->weighs, $moves, $this->seams);
        $this->contacts->stand([$this->x, $this->y, $this->z], [$this->px, $this->py, $this->pz]);
        $this->contacts->settle();
    }

    /**
     * Edges, hinges and tethers draw it together, and what it touches pushes it, itself too.
     *
     * @param array<int, float> $gives how far what is fastened gives way
     */
    private function draw(array $gives): void
    {
        $mass = $this->meanMass / ($this->h * $this->h);
        foreach ($this->levels as $level) {
            $level->pull($this->x, $this->y, $this->z, $this->w, $mass, $gives);
        }
        $this->elasticity->stretch($this->x, $this->y, $this->z, $this->drawing, $this->rest->length, false);
        $this->elasticity->bend($this->x, $this->y, $this->z, $this->rest->shape->rest);
        $this->keepVolume();
        $this->itself?->resolve($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w, true);
        $this->contacts->resolve($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w);
        $this->elasticity->stretch($this->x, $this->y, $this->z, $this->drawing, $this->rest->length, true);
        $this->keepVolume();
        $this->tethers->pull($this->x, $this->y, $this->z, $this->w, $gives);
        $this->itself?->resolve($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w, true);
        $this->contacts->resolve($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w);
    }

    private function keepVolume(): void
    {
        if ($this->filled === null) {
            return;
        }
        [$share, $pressure] = $this->filled;
        // Before each of the two times that contacts are looked at.
        $most = 0.5 * $pressure * $this->h * $this->h / $this->meanMass;
        foreach ($this->fillings ?? [] as $filling) {
            $filling->keep($this->x, $this->y, $this->z, $this->drawing, $share, $most);
        }
    }

    /** Ends a frame: what is still too long is taken back, without a change of speed, and nothing stands in anything. */
    public function finish(): void
    {
        if ($this->still) {
            return;
        }
        [$x, $y, $z] = [$this->x, $this->y, $this->z];
        for ($k = 0; $k < ClothTuning::LIMIT_ROUNDS; $k++) {
            foreach ([false, true] as $back) {
                Springs::shorten($this->x, $this->y, $this->z, $this->w, $this->weave->first, $this->weave->other, $this->rest->most, 0.0, $back);
            }
        }
        $this->stay($x, $y, $z);
        $this->itself?->resolve($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w, false);
        $this->untangle();
        // What is kept apart, and what is drawn back, makes edges longer again.
        for ($turn = 0; $turn < ClothTuning::LIMIT_TURNS; $turn++) {
            [$x, $y, $z] = [$this->x, $this->y, $this->z];
            if (! Overstretched::takeBack($this->x, $this->y, $this->z, $this->w, $this->weave, $this->rest->most, $this->itself)) {
                break;
            }
            $this->stay($x, $y, $z);
            $this->itself?->untangle($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w, ClothTuning::TIGHT_THERE);
        }
        $this->itself?->untangle($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w, ClothTuning::TIGHT_THERE, folds: true);
        $this->clear();
    }

    /**
     * Nothing of it stands in what it touches, without a change of speed. What is put out of that may come through the cloth beside it, and what is
     * drawn back from there may stand in something again; where both find no end, as between a floor and what lies on it, only the first is done.
     */
    public function clear(): void
    {
        $first = null;
        for ($turn = 0; $turn < ClothTuning::CLEARED_AGAIN; $turn++) {
            $was = [$this->x, $this->y, $this->z];
            $this->contacts->clear($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w);
            $first ??= [$this->x, $this->y, $this->z, $this->px, $this->py, $this->pz];
            $clear = $this->itself === null || [$this->x, $this->y, $this->z] === $was;
            if ($clear || ! $this->itself->untangle($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w, ClothTuning::TIGHT_THERE, folds: true)) {
                return;
            }
        }
        [$this->x, $this->y, $this->z, $this->px, $this->py, $this->pz] = $first;
    }

    /** A frame is over, whatever else has moved it: what keeps to its place comes to rest. */
    public function settle(): void
    {
        if (! $this->still) {
            $was = [$this->x, $this->y, $this->z, $this->px, $this->py, $this->pz];
            if ($this->slumber->rest($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz)) {
                $this->itself?->untangle($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w, ClothTuning::TIGHT_ASLEEP, folds: true);
                $this->clear();
                if (($this->itself?->tangled() ?? []) !== []) {
                    // As it was it had not come through itself, or less.
                    [$this->x, $this->y, $this->z, $this->px, $this->py, $this->pz] = $was;
                }
            }
            // Asleep it could not be drawn back.
            $this->slumber->wakeNodes($this->itself?->tangled() ?? []);
            $this->slumber->end($this->x, $this->y, $this->z);
        }
    }

    /**
     * What was put right since it was there has not moved.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    private function stay(array $x, array $y, array $z): void
    {
        foreach ($this->x as $i => $now) {
            $this->px[$i] += $now - $x[$i];
            $this->py[$i] += $this->y[$i] - $y[$i];
            $this->pz[$i] += $this->z[$i] - $z[$i];
        }
    }

    /** What has come through itself is drawn back. */
    public function untangle(): void
    {
        if (! $this->still) {
            $this->itself?->untangle($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->w);
        }
    }

    /** As others that bend meet it. */
    public function bending(): Bending
    {
        $by = 1.0 / $this->meanMass;
        $w = array_map(static fn (float $w): float => $by * $w, $this->w);

        return new Bending($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $w, $this->weave->triangles, $this->loads->closed, $this->fabric->gap, $this->fabric->friction, $this->h, $this->weave->order);
    }

    /** Others have moved it. */
    public function bent(Bending $now): void
    {
        [$this->x, $this->y, $this->z, $this->px, $this->py, $this->pz] = [$now->x, $now->y, $now->z, $now->px, $now->py, $now->pz];
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

    /** Of its motion, J. */
    public function energy(): float
    {
        $energy = 0.0;
        foreach ($this->x as $i => $x) {
            $d = ($x - $this->px[$i]) ** 2 + ($this->y[$i] - $this->py[$i]) ** 2 + ($this->z[$i] - $this->pz[$i]) ** 2;
            $energy += 0.5 * $this->weave->mass[$i] * $d / ($this->h * $this->h);
        }

        return $energy;
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
                $most = max($most, $l / $this->rest->length[$c] - 1.0);
            }
        }

        return $most;
    }

    /** @return array{float, float, array{float, float, float}} speed of the fastest touch in the step, m/s (0: none), that speed times the mass of what came, N s, and where it was */
    public function fastestTouch(): array
    {
        return $this->still ? [0.0, 0.0, [0.0, 0.0, 0.0]] : $this->contacts->fastest();
    }

    /** @return array<string, mixed> everything that decides the next frame */
    public function save(): array
    {
        return ['x' => $this->x, 'y' => $this->y, 'z' => $this->z, 'px' => $this->px, 'py' => $this->py, 'pz' => $this->pz, 'grown' => $this->rest->growth->times, 'itself' => $this->itself?->save() ?? [], 'slumber' => $this->slumber->save()];
    }

    public function restore(State $saved): void
    {
        [$this->x, $this->y, $this->z] = [$saved->floats('x'), $saved->floats('y'), $saved->floats('z')];
        [$this->px, $this->py, $this->pz] = [$saved->floats('px'), $saved->floats('py'), $saved->floats('pz')];
        // Which way is said again before the next step.
        $this->grow(new Growth($saved->floats('grown')));
        // With balls of the size they had when the pairs were listed.
        $this->itself?->restore($saved->part('itself'));
        $this->slumber->restore($saved->part('slumber'));
    }
}
