<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Trigger;

/** A prop in the rigid world: one body that carries all pieces still held, and a body for each piece that has let go. */
final class RigidProp extends HardProp
{
    private readonly int $whole;

    /** As it was broken. */
    private readonly RigidPieces $broken;

    /** What is held, at the size it has now. */
    private RigidPieces $held;

    private readonly RigidSettings $settings;

    private readonly PieceTiming $timing;

    private readonly Trigger $trigger;

    /** @var array{float, float, float} of the pieces still held, in the prop's space */
    private array $centre;

    private bool $contact = false;

    /** @var array{array{float, float, float}, array{float, float, float}}|null velocity and spin before the step of the contact */
    private ?array $before = null;

    private readonly bool $hasCore;

    private readonly StartMotion $start;

    /** What holds its pieces together after they let go. */
    private readonly GluedPieces $glue;

    /** @throws BreakFailed */
    public function __construct(Prop $prop, BrokenProp $broken, RigidWorld $world, int $group, Surfaces $others)
    {
        $this->settings = RigidSettings::of($prop);
        $this->timing = new PieceTiming($prop, $broken, $others);
        $this->start = new StartMotion($prop, $broken, $others, $this->settings->startSeed);
        $this->trigger = $this->timing->trigger;
        $this->hasCore = $broken->hasCore;
        $this->broken = RigidPieces::of($prop, $broken, $this->settings->density, $this->settings->falls || ! $prop->neverLetsGo(), $this->settings->shape, $this->settings->ball);
        $this->held = $this->broken->sized($prop->transform->scaleAt(1.0));
        $mass = array_map(fn (int $k): float => $this->broken->inertia($k)->mass, range(0, $this->broken->count() - 1));
        $this->glue = new GluedPieces(Glue::of($this->settings, $broken), $mass, $this->settings->glueByWeight, $this->timing);
        $all = $this->held->together(range(0, $this->held->count() - 1));
        $this->centre = $all->centre;
        $turn = $prop->transform->rotationAt(1.0);
        $free = $this->settings->falls;
        $this->whole = $world->bodies->addBody($all, Quaternion::carried($prop->transform->positionAt(1.0), $turn, $this->centre), $turn, $free);
        if ($free) {
            $world->bodies->setVelocity($this->whole, $this->settings->velocity, $this->settings->spin);
        } elseif ($this->waitsForContact() && ! $prop->transform->isKeyed() && ($this->trigger->strike()->within ?? 0.0) <= 0.0) {
            // Held until touched: asleep, so that a touch can be felt.
            $world->bodies->setFree($this->whole, true);
            $world->bodies->sleep($this->whole);
        }
        parent::__construct($prop, new PieceBodies($world->bodies, $this->held, $this->whole, $this->centre, $group, $this->settings->friction, $this->settings->restitution, $this->settings->siblings), $this->settings->friction);
    }

    public function felt(float $frame): array
    {
        return $this->timing->felt($frame);
    }

    /** The core under a skin of flakes never lets go. */
    private function isCore(int $piece): bool
    {
        return $piece === 0 && $this->hasCore;
    }

    public function fallsWhole(): bool
    {
        return $this->settings->falls;
    }

    public function waitsForContact(): bool
    {
        $strike = $this->trigger->strike();

        return $strike !== null && (! $this->contact || ($strike->within > 0.0 && in_array(false, $this->loose, true)));
    }

    /** While it is whole its outside, then each piece. */
    public function colliders(RigidWorld $world): array
    {
        if (! in_array(true, $this->loose, true)) {
            return [$this->collider('whole', $world, $this->whole, $this->centre, $this->held->outside(...))];
        }
        $colliders = [];
        foreach ($this->loose as $k => $loose) {
            $of = $this->pieces->of($k);
            $colliders[] = $this->collider((string) $k, $world, $this->pieces->bodyOf($k), $loose ? $this->pieces->centreUnder($k) : $this->centre, static fn (): SurfaceTree => $of->surface($k), $this->pieces->shapeOf($k));
        }

        return $colliders;
    }

    public function weights(float $frame): array
    {
        return $this->timing->shown($frame, array_map(static fn (bool $loose): float => $loose ? 1.0 : 0.0, array_values($this->loose)));
    }

    /** What is held by keys. */
    public function drive(RigidWorld $world, float $from, float $to, float $dt): void
    {
        if ($this->fallsWhole() || ! $this->prop->transform->isKeyed() || ! in_array(false, $this->loose, true)) {
            unset($world->bodies->growth[$this->whole]);

            return;
        }
        [$was, $will] = [$this->held->scale, $this->prop->transform->scaleAt($to)];
        $world->bodies->growFrom($this->whole, $was, $will, $dt);
        if ($was !== $will) {
            $world->wakeNeighbours($this->whole);
        }
        [$x, $y, $z] = $this->centre;
        $centre = [$x * $will[0] / $was[0], $y * $will[1] / $was[1], $z * $will[2] / $was[2]];
        $world->bodies->drive($this->whole, $this->pose($from, $this->centre), $this->pose($to, $centre), $dt);
    }

    public function grow(RigidWorld $world, float $frame): void
    {
        $held = array_keys($this->loose, false, true);
        if ($this->fallsWhole() || $held === []) {
            return;
        }
        $scale = $this->prop->transform->scaleAt($frame);
        if ($scale !== $this->held->scale) {
            $this->held = $this->broken->sized($scale);
            $this->centre = $this->pieces->gather($this->whole, $held, $this->held);
        }
    }

    /**
     * @param array{float, float, float} $centre of what is held
     *
     * @return array{array{float, float, float}, array{float, float, float, float}} where the keys want it
     */
    private function pose(float $frame, array $centre): array
    {
        $turn = $this->prop->transform->rotationAt($frame);

        return [Quaternion::carried($this->prop->transform->positionAt($frame), $turn, $centre), $turn];
    }

    public function letGoBy(RigidWorld $world, float $frame): void
    {
        $held = [];
        foreach ($this->loose as $k => $loose) {
            if (! $loose && ! $this->isCore($k)) {
                $held[] = $k;
            }
        }
        $this->letGo($world, $this->timing->due($frame, $held));
    }

    public function touched(RigidWorld $world, float $speed, float $impulse, array $point): bool
    {
        $strike = $this->trigger->strike();
        if (! $this->waitsForContact() || $strike === null || ! $strike->counts($speed, $impulse)) {
            return false;
        }
        $now = [];
        foreach ($this->loose as $k => $loose) {
            if (! $loose && ! $this->isCore($k) && ($strike->within <= 0.0 || $this->distance($k, $point) <= $strike->within)) {
                $now[] = $k;
            }
        }
        if ($now === []) {
            return false;
        }
        $this->contact = true;
        $this->letGo($world, $now);
        return true;
    }

    /**
     * How far a piece is from a place, by its middle; a piece larger than that is as far as it is large, so that what is
     * left of a wall does not break off with the stones around the blow.
     *
     * @param array{float, float, float} $point
     */
    private function distance(int $piece, array $point): float
    {
        [$x, $y, $z] = $this->pieces->place($piece);

        return max($this->pieces->of($piece)->reach($piece), sqrt(($x - $point[0]) ** 2 + ($y - $point[1]) ** 2 + ($z - $point[2]) ** 2));
    }

    /** What breaks on contact keeps the speed it had just before: the blow goes into the cracks, not into the whole. */
    public function noteSpeed(RigidWorld $world): void
    {
        if ($this->waitsForContact()) {
            $this->before = $world->bodies->velocity($this->whole);
        }
    }

    /** @param list<int> $pieces */
    private function letGo(RigidWorld $world, array $pieces): void
    {
        if ($pieces === []) {
            return;
        }
        [$velocity, $spin] = $this->before ?? $world->bodies->velocity($this->whole);
        $this->before = null;
        $turn = $world->bodies->turnOf($this->whole);
        $origin = $world->bodies->placeOf($this->whole);
        foreach ($this->glue->parted($pieces) as $part) {
            $body = $this->pieces->part($part, $this->held, $this->centre, $origin, $turn);
            $arm = Vector::minus($world->bodies->placeOf($body), $origin);
            if ($this->fallsWhole()) {
                $carried = self::carriedOn($arm, $velocity, $spin);
                $spins = $spin;
            } else {
                $carried = self::carriedOn($arm, Vector::plus($this->settings->velocity, $velocity), $spin);
                $spins = Vector::plus($this->settings->spin, $spin);
            }
            // What hangs together starts as one.
            $world->bodies->setVelocity($body, Vector::plus($carried, $this->start->velocity($part[0], $turn)), Vector::plus($spins, $this->start->spin($part[0], $this->settings->anySpin)));
            $this->loose = array_fill_keys($part, true) + $this->loose;
        }
        ksort($this->loose);
        $world->wakeNeighbours($this->whole);
        $this->shrink($world, $velocity, $spin, $turn, $origin);
    }

    /**
     * Velocity of a part of a body that turns.
     *
     * @param array{float, float, float} $arm where the part is from the body's centre
     * @param array{float, float, float} $velocity of that
     * @param array{float, float, float} $spin
     *
     * @return array{float, float, float}
     */
    private static function carriedOn(array $arm, array $velocity, array $spin): array
    {
        return [
            $velocity[0] + $spin[1] * $arm[2] - $spin[2] * $arm[1],
            $velocity[1] + $spin[2] * $arm[0] - $spin[0] * $arm[2],
            $velocity[2] + $spin[0] * $arm[1] - $spin[1] * $arm[0],
        ];
    }

    public function isGlued(): bool
    {
        return $this->glue->isGlued();
    }

    /** Not while it hangs together with others. */
    public function hasComeOff(int $piece): bool
    {
        return $this->loose[$piece] && $this->glue->isCracked($piece);
    }

    /**
     * A blow on one of its shapes: what hangs together there may break.
     *
     * @param float $force N
     * @param array<int, array{array{float, float, float}, array{float, float, float}}> $before velocity and spin of bodies before the step
     */
    public function struck(RigidWorld $world, int $shape, float $force, float $frame, array $before): void
    {
        $piece = $this->pieces->pieceOf($shape);
        if (! $this->glue->isGlued() || $piece === null || ! $this->loose[$piece]) {
            return;
        }
        $body = $this->pieces->bodyOf($piece);
        $through = $this->glue->strike($piece, $force, $frame);
        if ($through !== null) {
            $this->split($world, $body, $piece, $through, $before[$body] ?? $world->bodies->velocity($body));
        }
    }

    /**
     * @param list<int> $pieces of one body
     *
     * @return list<array{float, float, float, float}> where they are from its centre, in the world, m, and their share of its mass
     */
    public function arms(array $pieces): array
    {
        $all = $this->glue->mass($pieces);

        return array_map(fn (int $piece): array => [...$this->pieces->arm($piece), $this->glue->mass([$piece]) / $all], $pieces);
    }

    /** @return array<int, list<int>> loose pieces that hang together, by their body */
    public function clusters(): array
    {
        $clusters = [];
        foreach ($this->glue->isGlued() ? $this->pieces->bodies() : [] as $piece => $body) {
            if ($this->loose[$piece]) {
                $clusters[$body][] = $piece;
            }
        }

        return array_filter($clusters, static fn (array $pieces): bool => count($pieces) > 1);
    }

    /**
     * Tears off pieces that are pushed otherwise than the whole by more than their glue holds.
     *
     * @param list<int> $pieces of the body
     * @param Pushes $pushes what acts on each of them
     */
    public function strain(RigidWorld $world, int $body, array $pieces, Pushes $pushes, float $frame): void
    {
        if ($this->glue->tear($pieces, $pushes, $frame)) {
            $this->split($world, $body, null, 1.0, $world->bodies->velocity($body));
        }
    }

    /**
     * What sticks out too far, is swung too hard, or is pressed on between its supports, comes off.
     *
     * @param array<int, true> $pressed shapes that something presses or pulls on
     * @param array<int, list<array{array{float, float, float}, array{float, float, float}}>> $presses by shape: where in the world it is pressed on, and with what, N
     * @param array<int, array{array{float, float, float}, array{float, float, float}}> $before velocity and spin of bodies before the step
     */
    public function bend(RigidWorld $world, array $pressed, array $presses, array $before, float $seconds, float $frame): void
    {
        $touched = [];
        foreach (array_keys($pressed) as $shape) {
            $piece = $this->pieces->pieceOf($shape);
            if ($piece !== null) {
                $touched[$piece] = $shape;
            }
        }
        foreach ($this->clusters() as $body => $pieces) {
            if (! isset($before[$body]) || $world->bodies->isAsleep($body)) {
                continue;
            }
            $velocity = $world->bodies->velocity($body);
            $back = Quaternion::conjugate($world->bodies->turnOf($body));
            $own = array_intersect_key($touched, array_flip($pieces));
            $acceleration = $turning = [0.0, 0.0, 0.0];
            // What touches nothing is carried by what acts on all of it alike: only its spin pulls at it.
            if ($own !== []) {
                [$px, $py, $pz] = $world->pushed[$body] ?? [0.0, 0.0, 0.0];
                $acceleration = Quaternion::rotate($back, Vector::minus(self::rate($before[$body][0], $velocity[0], $seconds), Vector::plus($world->gravity, [$px, $py, $pz])));
                $turning = Quaternion::rotate($back, self::rate($before[$body][1], $velocity[1], $seconds));
            }
            $at = [];
            foreach ($pieces as $piece) {
                $at[$piece] = Quaternion::rotate($back, $this->pieces->arm($piece));
            }
            $spin = Quaternion::rotate($back, $velocity[1]);
            if ($this->glue->bend($pieces, $at, array_fill_keys(array_keys($own), true), $acceleration, $turning, $spin, self::pressing($own, $presses, $world->bodies->placeOf($body), $back), $frame)) {
                $this->split($world, $body, null, 1.0, $velocity);
            }
        }
    }

    /**
     * @param array<int, int> $touched shape of each piece that something presses or pulls on
     * @param array<int, list<array{array{float, float, float}, array{float, float, float}}>> $presses by shape
     * @param array{float, float, float} $centre
     * @param array{float, float, float, float} $back
     *
     * @return list<array{int, array{float, float, float}, array{float, float, float}}>|null piece, place and force in the body's axes; null: something pulls, or has only struck
     */
    private static function pressing(array $touched, array $presses, array $centre, array $back): ?array
    {
        $pressing = [];
        foreach ($touched as $piece => $shape) {
            if (! isset($presses[$shape])) {
                return null;
            }
            foreach ($presses[$shape] as [$place, $force]) {
                $pressing[] = [$piece, Quaternion::rotate($back, Vector::minus($place, $centre)), Quaternion::rotate($back, $force)];
            }
        }

        return $pressing;
    }

    /**
     * @param array{float, float, float} $from
     * @param array{float, float, float} $to
     *
     * @return array{float, float, float}
     */
    private static function rate(array $from, array $to, float $seconds): array
    {
        return [($to[0] - $from[0]) / $seconds, ($to[1] - $from[1]) / $seconds, ($to[2] - $from[2]) / $seconds];
    }

    /** Glue that the weight has eaten up breaks by itself. */
    public function weaken(RigidWorld $world, float $frame): void
    {
        if ($this->glue->changes($frame - 1.0, $frame)) {
            // What rests may hold itself no longer.
            foreach (array_keys($this->clusters()) as $body) {
                $world->bodies->wake($body);
            }
        }
        if (! $this->glue->weaken($frame)) {
            return;
        }
        foreach (array_unique(array_intersect_key($this->pieces->bodies(), array_filter($this->loose))) as $body) {
            $this->split($world, $body, null, 1.0, $world->bodies->velocity($body));
        }
    }

    /**
     * Makes bodies of the parts into which one has come apart. What was struck has been stopped; to the rest only so much of the blow got
     * through as the glue held, so it keeps as much of the speed it had.
     *
     * @param int|null $struck piece
     * @param float $through share of the blow
     * @param array{array{float, float, float}, array{float, float, float}} $before velocity and spin before the blow
     */
    private function split(RigidWorld $world, int $body, ?int $struck, float $through, array $before): void
    {
        $pieces = $this->pieces->on($body);
        $parts = $this->glue->parts($pieces);
        if (count($parts) < 2) {
            return;
        }
        [$of, $was] = [$this->pieces->of($pieces[0]), $this->pieces->centreUnder($pieces[0])];
        [$velocity, $spin] = $world->bodies->velocity($body);
        [$origin, $turn] = [$world->bodies->placeOf($body), $world->bodies->turnOf($body)];
        $world->wakeNeighbours($body);
        foreach ($parts as $part) {
            $own = $this->pieces->part($part, $of, $was, $origin, $turn);
            $kept = $struck === null || in_array($struck, $part, true) ? 0.0 : 1.0 - $through;
            $around = Vector::between($spin, $before[1], $kept);
            $world->bodies->setVelocity($own, self::carriedOn(Vector::minus($world->bodies->placeOf($own), $origin), Vector::between($velocity, $before[0], $kept), $around), $around);
        }
        // It carries nothing any more.
        $world->bodies->setFree($body, false);
        $world->bodies->setVelocity($body, [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]);
    }

    /**
     * Mass and centre of what is still held, after some pieces have gone.
     *
     * @param array{float, float, float} $velocity
     * @param array{float, float, float} $spin
     * @param array{float, float, float, float} $turn
     * @param array{float, float, float} $origin
     */
    private function shrink(RigidWorld $world, array $velocity, array $spin, array $turn, array $origin): void
    {
        $held = array_keys(array_filter($this->loose, static fn (bool $loose): bool => ! $loose));
        if ($held === []) {
            $world->bodies->setFree($this->whole, false);
            $world->bodies->setVelocity($this->whole, [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]);

            return;
        }
        $was = $this->centre;
        $this->centre = $this->pieces->gather($this->whole, $held, $this->held);
        $shift = Quaternion::rotate($turn, Vector::minus($this->centre, $was));
        $world->bodies->place($this->whole, Vector::plus($origin, $shift), $turn);
        $world->bodies->setVelocity($this->whole, self::carriedOn($shift, $velocity, $spin), $spin);
    }

    /** @return array<string, mixed> what has changed since it was made; speeds before a touch are noted anew in each step */
    public function save(): array
    {
        return [
            ...$this->pieces->save(), 'loose' => $this->loose, 'centre' => $this->centre, 'contact' => $this->contact, 'bonds' => $this->glue->save(), 'held' => $this->held->scale,
        ];
    }

    public function restore(State $state): void
    {
        $this->loose = $state->bools('loose');
        $this->centre = $state->vector('centre');
        $this->contact = $state->bool('contact');
        $this->glue->restore($state, 'bonds');
        $this->before = null;
        $this->held = $this->broken->sized($state->vector('held'));
        $this->pieces->restore($state, $this->held);
    }
}
