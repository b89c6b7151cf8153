<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Soft;

use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Cloth\Advance;
use YardBreak\Core\Motion\Cloth\Contacts;
use YardBreak\Core\Motion\Cloth\Fabric;
use YardBreak\Core\Motion\Cloth\Fastening;
use YardBreak\Core\Motion\Cloth\Holding;
use YardBreak\Core\Motion\Cloth\RestShape;
use YardBreak\Core\Motion\Cloth\SelfContact;
use YardBreak\Core\Motion\Cloth\Weave;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Surface\Bending;
use YardBreak\Core\Motion\Surface\Connected;
use YardBreak\Core\Motion\Surface\PlaneContact;
use YardBreak\Core\Motion\Surface\Settling;
use YardBreak\Core\Motion\Surface\Slumber;
use YardBreak\Core\Motion\Surface\Surroundings;

/**
 * Solid pieces that squash, wobble and rest: nodes of a lattice in motion, and the pieces' surface in it. A substep moves nodes on,
 * pulls the boxes between them there, lets the surface touch what it meets, and pulls them back. Contacts are those of cloth: to
 * them the surface is one, whose vertices give to the nodes what is done to them.
 *
 * @phpstan-import-type Pose from Holding
 */
final class SoftBody
{
    /** Its surface may be pressed together to so much of how it lies before it counts as lying on itself. */
    private const CLOSE = 0.35;

    /** What lies so many balls apart must stay as far as they do; what lies closer may come the nearer. */
    private const WITHIN = 1.4;

    /** How often it is lifted out of what it touches in a turn, at the most ... */
    private const TOUCHES = 4;

    /** ... and how near it must have got, in gaps, to be left alone. */
    private const OUT = 0.5;

    /** @var array<int, float> of the nodes, m */
    private array $x;

    /** @var array<int, float> */
    private array $y;

    /** @var array<int, float> */
    private array $z;

    /** @var array<int, float> a substep before */
    private array $px;

    /** @var array<int, float> */
    private array $py;

    /** @var array<int, float> */
    private array $pz;

    /** @var list<float> kg */
    private array $mass = [];

    /** @var array<int, float> inverse masses, 1/kg; 0: held wholly */
    private array $w = [];

    /** @var list<float> of the vertices, as shares of the mean one's; 0: all around it is held */
    private array $free = [];

    /** @var list<float> of the vertices, as others meet them, 1/kg; 0: all around it is held */
    private array $lightness = [];

    /** @var array<int, float> how far each node is held */
    private array $hold = [];

    /** @var list<int> */
    private array $holding = [];

    /** What is held by things that it is fastened to; null: nothing. */
    private ?Fastening $fastening = null;

    /** @var array<int, float> inverse masses to what draws it together: those, and of what is fastened as far as that gives way, 1/kg */
    private array $drawing = [];

    /** @var array{array<int, float>, array<int, float>, array<int, float>} */
    private array $way = [[], [], []];

    /** @var array{list<float>, list<float>, list<float>}|null where its surface was when the substep began; null: not asked for yet */
    private ?array $before = null;

    public readonly Slumber $slumber;

    /** Whether it sleeps. */
    private bool $still = false;

    /** @var list<float>|null what it shows while it sleeps */
    private ?array $lies = null;

    private readonly Skin $skin;

    private readonly Weave $surface;

    private readonly Boxes $boxes;

    private readonly Contacts $contacts;

    private readonly ?SelfContact $itself;

    private Holding $holder;

    private readonly RestForm $rest;

    /** @var array{list<float>, list<float>, list<float>}|null what it is as it is turned in this substep; null: not asked for yet, or between them */
    private ?array $raised = null;

    private readonly Rolling $rolling;

    /** @var float since the last frame, s */
    private float $time = 0.0;

    private readonly Outside $outside;

    private readonly float $meanMass;

    /** kg/m3: how hard air presses on a square metre at a metre a second */
    private readonly float $airResistance;

    /**
     * @param TriangleMesh $mesh all pieces' surfaces, whose vertices the lattice knows, in that order: as fine as its boxes, so that nothing passes between
     * @param list<int> $drawn those of its vertices that are shown
     * @param list<PlaneContact> $planes
     * @param float $h length of a substep, s
     * @param array<int, float> $hold how far each node is held at the beginning
     * @param Pose $pose of the prop
     * @param Settling|null $settling null: it never comes to rest
     */
    public function __construct(private readonly Lattice $lattice, TriangleMesh $mesh, private readonly array $drawn, private readonly Matter $matter, private readonly array $planes, private readonly float $h, array $hold, array $pose, ?Settling $settling = null)
    {
        $this->slumber = new Slumber(new Connected(...$lattice->neighbours(), asOne: true), $settling ?? Settling::never(), $matter->gap);
        foreach ($lattice->volume as $volume) {
            $this->mass[] = $matter->density * $volume;
        }
        $this->skin = new Skin($lattice, $this->mass);
        $this->outside = new Outside($this->skin);
        // To what it meets its surface is a cloth without stiffness, of one kilogram a square metre: what weighs is in the nodes.
        $fabric = new Fabric(1.0, 1.0, 1.0, 0.0, 0.0, $matter->drag, $matter->friction, $matter->gap, $matter->feelsItself);
        $this->airResistance = $fabric->airResistance();
        $this->surface = Weave::of($mesh, $fabric);
        $own = array_filter($this->skin->mass, static fn (float $mass): bool => $mass > 0.0);
        $this->meanMass = $own === [] ? 1.0 : array_sum($own) / count($own);
        $this->contacts = new Contacts($this->surface, $fabric, $planes, $this->meanMass, solid: true);
        $this->itself = $matter->feelsItself ? new SelfContact($this->surface, $matter->friction, self::CLOSE, self::WITHIN) : null;
        $this->rolling = new Rolling($lattice, $this->mass);
        $this->rest = new RestForm($lattice, $this->skin);
        $this->holder = new Holding($lattice->x, $lattice->y, $lattice->z);
        [$this->x, $this->y, $this->z] = $this->holder->posed($pose);
        [$this->px, $this->py, $this->pz] = [$this->x, $this->y, $this->z];
        $this->boxes = new Boxes($lattice, $matter, $h, $pose[1]);
        $this->holdBy($hold);
    }

    /**
     * From now on each node is held so far: 1 wholly, 0 not at all, between it is drawn to its place the faster the more.
     *
     * @param array<int, float> $hold
     */
    public function holdBy(array $hold): void
    {
        if ($hold === $this->hold && $this->w !== []) {
            return;
        }
        $this->hold = $hold;
        $this->loosen();
    }

    /** From now on things hold it as this says. */
    public function fasten(Fastening $fastening): void
    {
        $this->fastening = $fastening;
        $this->slumber->wake();
        $this->loosen();
        // Where all around a vertex is held nothing pushes it.
        $this->contacts->fasten($fastening->things(), array_filter($this->free, static fn (float $free): bool => $free <= 0.0));
    }

    /** What is held wholly goes nowhere. */
    private function loosen(): void
    {
        $before = $this->w;
        $this->w = $this->holding = [];
        $gives = $this->fastening?->gives() ?? [];
        foreach ($this->mass as $i => $mass) {
            $fastened = isset($gives[$i]);
            $this->w[] = $fastened || $this->hold[$i] >= 1.0 || $mass <= 0.0 ? 0.0 : 1.0 / $mass;
            if ($this->hold[$i] > 0.0 && ! $fastened) {
                $this->holding[] = $i;
            }
        }
        $this->drawing = array_replace($this->w, $gives);
        if ($this->w !== $before) {
            $this->weigh();
        }
    }

    private function weigh(): void
    {
        $this->settleBoxes();
        $loose = $this->skin->over(array_map(static fn (float $w): float => $w > 0.0 ? 1.0 : 0.0, $this->w));
        $this->free = [];
        foreach ($this->skin->mass as $v => $mass) {
            $this->free[] = $mass > 0.0 && $loose[$v] > 1e-9 ? $this->meanMass / $mass : 0.0;
        }
        $this->lightness = array_map(static fn (float $mass, float $free): float => $free > 0.0 ? 1.0 / $mass : 0.0, $this->skin->mass, $this->free);
        $gives = $this->fastening?->gives() ?? [];
        $led = array_map(fn (float $hold, int $i): float => $hold >= 1.0 && ! isset($gives[$i]) ? 0.0 : 1.0, $this->hold, array_keys($this->hold));
        $this->contacts->firm->hold(array_filter($this->skin->over($led), static fn (float $share): bool => $share <= 1e-9), true);
    }

    /**
     * From now on its matter is so many times as stiff, and wants to be so many times as large, as at first.
     *
     * @param list<float> $stiff of each node
     * @param list<float> $grown of each node
     */
    public function become(array $stiff, array $grown): void
    {
        if ($this->rest->become($stiff, $grown)) {
            $this->settleBoxes();
        }
    }

    /**
     * From now on it is another shape at rest: what is held of it is there, the rest is drawn into it.
     *
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was its nodes at rest, by axis, when the step begins, m
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is and after so many substeps
     * @param array{list<float>, list<float>, list<float>} $relief where the vertices of its surface then are beside where its boxes carry them, by axis, m
     */
    public function take(array $was, array $is, array $relief, int $substeps): void
    {
        $this->holder = new Holding(...$is, was: $was, substeps: $substeps);
        if ($was !== $is) {
            $this->slumber->wake();
        }
        $this->lieAs($this->rest->draw($is, $relief));
    }

    /**
     * From now on it wants to be so many times as large as that, along the prop's axes.
     *
     * @param array{float, float, float} $size
     */
    public function size(array $size): void
    {
        $this->lieAs($this->rest->size($size));
    }

    /** @param bool $new whether its shape at rest is another than before */
    private function lieAs(bool $new): void
    {
        if (! $new) {
            return;
        }
        $this->slumber->wake();
        $this->boxes->take($this->rest->boxes());
        $this->settleBoxes();
        if ($this->itself !== null) {
            $this->itself->lieAs(RestShape::drawn($this->surface, ...$this->rest->surface()));
        }
    }

    private function settleBoxes(): void
    {
        $this->boxes->settle($this->drawing, $this->rest->stiff, $this->rest->grown);
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

    /**
     * @param array<int, float> $x of the nodes, m
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return array{list<float>, list<float>, list<float>} where its surface is then
     */
    private function surfaceAt(array $x, array $y, array $z): array
    {
        return $this->outside->at([$x, $y, $z], $this->raised());
    }

    /** @return array{list<float>, list<float>, list<float>}|null how far its surface is beside where its boxes carry it, m */
    private function raised(): ?array
    {
        return $this->raised ?? $this->rest->raised($this->boxes->turns());
    }

    /** @return array{array<int, float>, array<int, float>, array<int, float>} where its nodes are, m */
    public function nodes(): array
    {
        return [$this->x, $this->y, $this->z];
    }

    /**
     * Begins a step: what acts during it, and what may be touched.
     *
     * @param Pushes $pushes what acts on each node
     * @param list<Collider> $colliders
     * @param float $dt s
     * @param bool $feels whether touches of what is held matter too
     */
    public function begin(Pushes $pushes, float $dt, array $colliders, bool $feels = false): void
    {
        if ($this->fastening?->begin($colliders, 1.0, $dt) === true) {
            $this->slumber->wake();
        }
        $this->slumber->begin($pushes, $this->hold, array_map(static fn (array $of): array => [$of, Surroundings::OTHERWISE], $this->rest->told), $colliders, $dt);
        $this->still = $this->slumber->isWhole();
        if ($this->still) {
            return;
        }
        if ($this->fastening !== null) {
            $this->drawing = array_replace($this->w, $this->fastening->gives());
            $this->settleBoxes();
        }
        $this->lies = null;
        $this->time += $dt;
        if ($pushes->slows) {
            Advance::slowed(array_values($this->x), array_values($this->y), array_values($this->z), $this->px, $this->py, $this->pz, $this->w, $pushes, $this->h, $dt);
        }
        $square = $this->h * $this->h;
        $scaled = static fn (float $a): float => $square * $a;
        $this->way = [array_map($scaled, $pushes->ax), array_map($scaled, $pushes->ay), array_map($scaled, $pushes->az)];
        [$sx, $sy, $sz] = $this->surfaceAt($this->x, $this->y, $this->z);
        [$ox, $oy, $oz] = $this->surfaceAt($this->px, $this->py, $this->pz);
        $ways = array_map(static fn (float $a, float $b, float $c, float $d, float $e, float $f): float => sqrt(($a - $d) ** 2 + ($b - $e) ** 2 + ($c - $f) ** 2), $sx, $sy, $sz, $ox, $oy, $oz);
        if ($this->matter->drag > 0.0) {
            $this->blow([$sx, $sy, $sz], [$ox, $oy, $oz], $pushes, $dt);
        }
        $this->contacts->begin($sx, $sy, $sz, $colliders === [] ? [] : $ways, $colliders, $dt, $this->h, $feels);
    }

    /**
     * Air presses on what faces it, for the length of a step.
     *
     * @param array{list<float>, list<float>, list<float>} $is places of the vertices
     * @param array{list<float>, list<float>, list<float>} $was a substep before
     */
    private function blow(array $is, array $was, Pushes $pushes, float $dt): void
    {
        [$nx, $ny, $nz] = Advance::normals($is[0], $is[1], $is[2], $this->surface->triangles);
        [$u, $v, $w] = $this->skin->places($pushes->u, $pushes->v, $pushes->w);
        $pressed = [[], [], []];
        foreach ($this->surface->area as $i => $area) {
            $into = -($nx[$i] * ($u[$i] - ($is[0][$i] - $was[0][$i]) / $this->h) + $ny[$i] * ($v[$i] - ($is[1][$i] - $was[1][$i]) / $this->h) + $nz[$i] * ($w[$i] - ($is[2][$i] - $was[2][$i]) / $this->h));
            $mass = $this->skin->mass[$i];
            // Never more than what would take it along with the air within the step.
            $push = $into <= 0.0 || $mass <= 0.0 ? 0.0 : $this->h * $this->h * min($this->airResistance * $area * $into * $into / $mass, $into / $dt);
            $pressed[0][] = -$push * $nx[$i];
            $pressed[1][] = -$push * $ny[$i];
            $pressed[2][] = -$push * $nz[$i];
        }
        $none = array_fill(0, $this->skin->count(), 0.0);
        $this->way = $this->skin->given(Skin::differing([$none, $none, $none], $pressed), $this->way, [$none, $none, $none], $pressed, $this->w);
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
        $keep = max(0.0, 1.0 - $this->matter->damping * $this->h);
        [$this->x, $this->px] = self::advanced($this->x, $this->px, $this->way[0], $this->w, $keep);
        [$this->y, $this->py] = self::advanced($this->y, $this->py, $this->way[1], $this->w, $keep);
        [$this->z, $this->pz] = self::advanced($this->z, $this->pz, $this->way[2], $this->w, $keep);
        $this->holder->draw($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $this->holding, $this->hold, $was, $is, $this->h);
        $this->fastening?->lead($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz);
        $this->before = null;
        $this->boxes->sweep($this->x, $this->y, $this->z, $this->drawing, false);
        // Once a substep: it is hardly turned meanwhile.
        $this->raised = $this->rest->raised($this->boxes->turns());
        $this->touch();
        $this->boxes->sweep($this->x, $this->y, $this->z, $this->drawing, true);
        $this->touch();
        $this->fastening?->yield($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, 1.0, $this->h, $this->slumber->isLively() || $was !== $is, $this->holding !== [], $this->matter->damping);
        if ($this->contacts->mayStop()) {
            $this->contacts->stand($this->surfaceAt($this->x, $this->y, $this->z), $this->surfaceAt($this->px, $this->py, $this->pz));
        }
        $this->raised = null;
        $this->contacts->settle();
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $px
     * @param array<int, float> $way of what acts in a substep
     * @param array<int, float> $w
     *
     * @return array{list<float>, list<float>} places, and places before
     */
    private static function advanced(array $x, array $px, array $way, array $w, float $keep): array
    {
        $next = $was = [];
        foreach ($x as $i => $now) {
            $was[] = $now;
            $next[] = $w[$i] > 0.0 ? $now + $keep * ($now - $px[$i]) + $way[$i] : $now;
        }

        return [$next, $was];
    }

    /** Its surface meets itself, and what is there: again where it has not got out yet, since the nodes around hold it back. */
    private function touch(): void
    {
        $surface = $this->surfaceAt($this->x, $this->y, $this->z);
        for ($again = 0; $again < self::TOUCHES; $again++) {
            [$pushed, $far] = $this->meet($surface, $again === 0);
            if ($far < self::OUT * $this->matter->gap) {
                break;
            }
            $surface = $this->skin->placesAgain($surface, $pushed, $this->x, $this->y, $this->z, $this->raised);
        }
    }

    /**
     * @param array{list<float>, list<float>, list<float>} $is where its surface is
     *
     * @return array{list<int>, float} vertices that were moved, and how far at the most, m
     */
    private function meet(array $is, bool $itself): array
    {
        $skin = $this->skin;
        [$x, $y, $z] = $is;
        [$px, $py, $pz] = $was = $this->before ??= $this->surfaceAt($this->px, $this->py, $this->pz);
        if ($itself && $this->itself !== null) {
            $this->itself->watch($x, $y, $z, $px, $py, $pz);
            $this->itself->resolve($x, $y, $z, $px, $py, $pz, $this->free, true);
        }
        // What it meets of itself does not slow it, unless that is another piece.
        $alone = $this->rolling->isInPieces() ? $is : [$x, $y, $z];
        $this->contacts->resolve($x, $y, $z, $px, $py, $pz, $this->free);
        $pushed = Skin::differing($is, [$x, $y, $z]);
        if ($pushed === []) {
            return [[], 0.0];
        }
        $this->rolling->touch($alone === $is ? $pushed : Skin::differing($alone, [$x, $y, $z]));
        $this->calm($pushed, $x, $y, $z, $is, $px, $py, $pz);
        $times = $skin->reach($pushed, $is, [$x, $y, $z], $this->w);
        $this->contacts->feel($times, $this->slumber->isLively());
        $most = 0.0;
        foreach ($pushed as $v) {
            $most = max($most, abs($x[$v] - $is[0][$v]), abs($y[$v] - $is[1][$v]), abs($z[$v] - $is[2][$v]));
        }
        [$this->x, $this->y, $this->z] = $skin->given($pushed, [$this->x, $this->y, $this->z], $is, [$x, $y, $z], $this->w, $times);
        $calmed = Skin::differing($was, [$px, $py, $pz]);
        if ($calmed !== []) {
            [$this->px, $this->py, $this->pz] = $skin->given($calmed, [$this->px, $this->py, $this->pz], $was, [$px, $py, $pz], $this->w, $times);
            $this->before = $skin->placesAgain($was, $calmed, $this->px, $this->py, $this->pz, $this->raised);
        }

        return [$pushed, $most];
    }

    /**
     * What was below a floor already when the substep began is lifted out without being thrown up.
     *
     * @param list<int> $pushed vertices that were moved
     * @param array<int, float> $x places of the surface that floors have lifted
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is places before that
     * @param array<int, float> $px where they were when the substep began; changed
     * @param array<int, float> $py
     * @param array<int, float> $pz
     */
    private function calm(array $pushed, array $x, array $y, array $z, array $is, array &$px, array &$py, array &$pz): void
    {
        foreach ($this->planes as $plane) {
            [$a, $b, $c] = $plane->normal;
            foreach ($pushed as $i) {
                $lifted = $a * ($x[$i] - $is[0][$i]) + $b * ($y[$i] - $is[1][$i]) + $c * ($z[$i] - $is[2][$i]);
                if ($lifted > 0.0) {
                    $deep = min($lifted, $plane->offset - $a * $px[$i] - $b * $py[$i] - $c * $pz[$i]);
                    if ($deep > 0.0) {
                        $px[$i] += $deep * $a;
                        $py[$i] += $deep * $b;
                        $pz[$i] += $deep * $c;
                    }
                }
            }
        }
    }

    /** Its surface, as others that bend meet it. */
    public function bending(): Bending
    {
        // What sleeps gives way to nobody.
        $w = $this->still ? array_fill(0, $this->skin->count(), 0.0) : $this->lightness;

        return new Bending(
            ...$this->surfaceAt($this->x, $this->y, $this->z),
            ...$this->surfaceAt($this->px, $this->py, $this->pz),
            w: $w,
            triangles: $this->surface->triangles,
            closed: true,
            gap: $this->matter->gap,
            friction: $this->matter->friction,
            h: $this->h,
            order: $this->surface->order,
        );
    }

    /** Others have moved its surface. */
    public function bent(Bending $now): void
    {
        if (! $this->still) {
            $this->rolling->touch($this->follow($now));
        }
    }

    /** @return list<int> vertices of its surface that are elsewhere now */
    private function follow(Bending $now): array
    {
        [$is, $was] = [[$this->x, $this->y, $this->z], [$this->px, $this->py, $this->pz]];
        [[$this->x, $this->y, $this->z], $pushed] = $this->given($is, [$now->x, $now->y, $now->z]);
        [[$this->px, $this->py, $this->pz]] = $this->given($was, [$now->px, $now->py, $now->pz]);

        return $pushed;
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $nodes
     * @param array{array<int, float>, array<int, float>, array<int, float>} $to where their surface is to be
     *
     * @return array{array{array<int, float>, array<int, float>, array<int, float>}, list<int>} the nodes then, and the vertices that were elsewhere
     */
    private function given(array $nodes, array $to): array
    {
        $surface = $this->surfaceAt(...$nodes);
        $pushed = Skin::differing($surface, $to);
        if ($pushed === []) {
            return [$nodes, []];
        }
        $nodes = $this->skin->given($pushed, $nodes, $surface, $to, $this->w);
        $this->outside->follow($surface, $pushed, $nodes, $this->raised());

        return [$nodes, $pushed];
    }

    /** A frame is over, whatever else has moved it: if it keeps to its place it comes to rest. */
    public function settle(): void
    {
        if (! $this->still) {
            $held = array_fill_keys([...$this->holding, ...array_keys($this->fastening?->gives() ?? [])], true);
            $this->rolling->slow($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz, $held, $this->time);
            if ($this->slumber->rest($this->x, $this->y, $this->z, $this->px, $this->py, $this->pz)) {
                $this->untangle();
            }
            if (($this->itself?->tangled() ?? []) !== []) {
                $this->slumber->wake();
            }
            $this->slumber->end($this->x, $this->y, $this->z);
            $this->lies = $this->slumber->isWhole() ? $this->places() : null;
        }
        $this->time = 0.0;
    }

    /** What of its surface has come through itself is drawn back, as far as its inside lets it. */
    public function untangle(): void
    {
        if ($this->itself !== null && ! $this->still) {
            $now = $this->bending();
            $this->itself->untangle($now->x, $now->y, $now->z, $now->px, $now->py, $now->pz, $this->free, folds: true);
            $this->follow($now);
        }
    }

    /** @return list<float> three numbers a vertex, m: its surface, nowhere in what it touches */
    public function places(): array
    {
        if ($this->lies !== null) {
            return $this->lies;
        }
        [$x, $y, $z] = $this->surfaceAt($this->x, $this->y, $this->z);
        [$px, $py, $pz] = [$x, $y, $z];
        $this->contacts->clear($x, $y, $z, $px, $py, $pz, $this->free);
        $places = [];
        foreach ($this->drawn as $i) {
            $places[] = $x[$i];
            $places[] = $y[$i];
            $places[] = $z[$i];
        }

        return $places;
    }

    /**
     * @param list<float> $values of each node
     *
     * @return list<float> of each vertex that is shown
     */
    public function ofVertices(array $values): array
    {
        $over = $this->skin->over($values);

        return array_map(static fn (int $i): float => $over[$i], $this->drawn);
    }

    /** Of its motion, J. */
    public function energy(): float
    {
        $energy = 0.0;
        foreach ($this->x as $i => $x) {
            $d = ($x - $this->px[$i]) ** 2 + ($this->y[$i] - $this->py[$i]) ** 2 + ($this->z[$i] - $this->pz[$i]) ** 2;
            $energy += 0.5 * $this->mass[$i] * $d / ($this->h * $this->h);
        }

        return $energy;
    }

    /** Of all that its surface encloses, m3. */
    public function volume(): float
    {
        [$x, $y, $z] = $this->surfaceAt($this->x, $this->y, $this->z);
        $mesh = new TriangleMesh($x, $y, $z, $this->surface->triangles);

        return MassProperties::of($mesh)->volume;
    }

    /** @return array{float, float, array{float, float, float}} speed of the fastest touch in the step, m/s (0: none), that speed times the mass of what came, N s, and where it was */
    public function fastestTouch(): array
    {
        return $this->still ? [0.0, 0.0, [0.0, 0.0, 0.0]] : $this->contacts->fastest();
    }

    /** @return array<string, mixed> everything that decides the next frame */
    public function save(): array
    {
        return [
            'x' => $this->x, 'y' => $this->y, 'z' => $this->z, 'px' => $this->px, 'py' => $this->py, 'pz' => $this->pz,
            'turns' => $this->boxes->turns(), 'stiff' => $this->rest->stiff, 'grown' => $this->rest->grown, 'itself' => $this->itself?->save() ?? [],
            'slumber' => $this->slumber->save(), 'lies' => $this->lies ?? [],
        ];
    }

    public function restore(State $saved): void
    {
        [$this->x, $this->y, $this->z] = [$saved->floats('x'), $saved->floats('y'), $saved->floats('z')];
        [$this->px, $this->py, $this->pz] = [$saved->floats('px'), $saved->floats('py'), $saved->floats('pz')];
        [$this->rest->stiff, $this->rest->grown] = [$saved->floats('stiff'), $saved->floats('grown')];
        $this->boxes->restore($saved->floats('turns'));
        $this->weigh();
        $this->itself?->restore($saved->part('itself'));
        $this->slumber->restore($saved->part('slumber'));
        $this->lies = $saved->floats('lies') ?: null;
    }
}
