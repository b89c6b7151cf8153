<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Rigid\Inertia;
use YardBreak\Core\Motion\Rigid\RigidCollider;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Surface\SurfaceTree;
use YardBreak\Core\Motion\Trigger;

/** A prop in the rigid world: one body that carries all pieces still held, and a body for each piece that has let go. */
final class RigidProp
{
    private readonly int $whole;

    /** Pieces that make up more of the prop than this have their hollows felt. */
    private const LARGE = 0.1;

    /** Of all pieces together; made when it is asked for. */
    private ?SurfaceTree $outside = null;

    /** @var array<int, SurfaceTree> by piece, as they are asked for */
    private array $surfaces = [];

    /** @var list<list<int>> shapes of each piece */
    private array $shapes = [];

    /** @var list<list<array{float, float, float}>> centre of each of them, in the prop's space */
    private array $centres = [];

    /** @var list<float> how far a piece's farthest corner is from its centre, m */
    private array $radius = [];

    /** @var array<int, int> body that carries each piece */
    private array $body = [];

    /** @var array<int, array{float, float, float}> each piece's centre from its body's, in the body's axes */
    private array $offset = [];

    /** @var list<Inertia> each piece's, in the prop's space */
    private array $inertia = [];

    /** @var array<int, bool> */
    private array $loose = [];

    private readonly RigidSettings $settings;

    private readonly PieceTiming $timing;

    private readonly Trigger $trigger;

    /** @var array{float, float, float} of the pieces still held, in the prop's space */
    private array $centre;

    private bool $contact = false;

    /** @var array{array{float, float, float}, array{float, float, float}}|null velocity and spin before the step of the contact */
    private ?array $before = null;

    public function __construct(private readonly Prop $prop, private readonly BrokenProp $broken, RigidWorld $world, int $group)
    {
        $this->settings = RigidSettings::of($prop);
        $this->timing = new PieceTiming($prop, $broken);
        $this->trigger = $this->timing->trigger;
        foreach ($broken->mass as $k => $mass) {
            if ($mass->volume <= 0.0 && ($this->settings->falls || ! $prop->neverLetsGo())) {
                throw new BreakFailed("{$prop->name} is an open sheet without mass, so it cannot move as a hard piece. Close its mesh, or keep it held for the whole shot.");
            }
            // Held for the whole shot it is only something to fall on, and its mass does not matter.
            $volume = $mass->volume > 0.0 ? $mass->volume : 1.0;
            $tensor = $mass->volume > 0.0 ? $mass->inertia : [1.0, 1.0, 1.0, 0.0, 0.0, 0.0];
            $d = $this->settings->density;
            $this->inertia[] = new Inertia($volume * $d, $broken->centre($k), [
                $tensor[0] * $d, $tensor[1] * $d, $tensor[2] * $d, $tensor[3] * $d, $tensor[4] * $d, $tensor[5] * $d,
            ]);
        }
        $all = Inertia::together($this->inertia);
        $this->centre = $all->centre;
        $turn = $prop->transform->rotationAt(1.0);
        $free = $this->settings->falls;
        $this->whole = $world->bodies->addBody($all, Quaternion::carried($prop->transform->positionAt(1.0), $turn, $this->centre), $turn, $free);
        if ($free) {
            $world->bodies->setVelocity($this->whole, $this->settings->velocity, $this->settings->spin);
        } elseif ($this->waitsForContact() && ! $prop->transform->isKeyed() && $this->trigger->touchReach() <= 0.0) {
            // Held until touched: asleep, so that a touch can be felt.
            $world->bodies->setFree($this->whole, true);
            $world->bodies->sleep($this->whole);
        }
        $total = array_sum(array_map(static fn (MassProperties $mass): float => max(0.0, $mass->volume), $broken->mass));
        foreach ($broken->pieces as $k => $mesh) {
            $volume = $broken->mass[$k]->volume;
            $shapes = $centres = [];
            foreach (CollisionShape::of($mesh, $broken->centre($k), $volume, $volume > self::LARGE * $total) as $part) {
                $centres[] = $part->centre;
                $shapes[] = $world->bodies->addShape(
                    $this->whole,
                    $part->hull,
                    self::minus($part->centre, $this->centre),
                    $group,
                    $this->settings->friction,
                    $this->settings->restitution,
                );
            }
            $this->shapes[] = $shapes;
            $this->centres[] = $centres;
            $this->radius[] = self::reach($mesh, $broken->centre($k));
            $this->body[] = $this->whole;
            $this->offset[] = self::minus($broken->centre($k), $this->centre);
            $this->loose[] = false;
        }
    }

    /** @param array{float, float, float} $centre */
    private static function reach(TriangleMesh $mesh, array $centre): float
    {
        $far = 0.0;
        foreach ($mesh->x as $i => $x) {
            $far = max($far, ($x - $centre[0]) ** 2 + ($mesh->y[$i] - $centre[1]) ** 2 + ($mesh->z[$i] - $centre[2]) ** 2);
        }

        return sqrt($far);
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     *
     * @return array{float, float, float}
     */
    private static function minus(array $a, array $b): array
    {
        return [$a[0] - $b[0], $a[1] - $b[1], $a[2] - $b[2]];
    }

    /** @return array<int, int> by piece */
    public function bodies(): array
    {
        return $this->body;
    }

    /** @return array{float, float, float} where a piece's centre is */
    public function place(RigidWorld $world, int $piece): array
    {
        return $world->bodies->pointOf($this->body[$piece], $this->offset[$piece]);
    }

    /** @return list<int> shapes of all pieces */
    public function shapes(): array
    {
        return array_merge(...$this->shapes);
    }

    /** The core under a skin of flakes never lets go. */
    private function isCore(int $piece): bool
    {
        return $piece === 0 && $this->broken->hasCore;
    }

    public function hasLetGo(int $piece): bool
    {
        return $this->loose[$piece];
    }

    public function fallsWhole(): bool
    {
        return $this->settings->falls;
    }

    public function waitsForContact(): bool
    {
        return $this->trigger->touchSpeed() !== null && (! $this->contact || ($this->trigger->touchReach() > 0.0 && in_array(false, $this->loose, true)));
    }

    /**
     * What others may touch of it: while it is whole its outside, then each piece.
     *
     * @return list<Collider>
     */
    public function colliders(RigidWorld $world): array
    {
        if (! in_array(true, $this->loose, true)) {
            return [$this->collider($world, $this->whole, $this->centre, fn (): SurfaceTree => $this->outside ??= $this->broken->outside())];
        }
        $colliders = [];
        foreach ($this->loose as $k => $loose) {
            $colliders[] = $this->collider($world, $this->body[$k], $loose ? $this->broken->centre($k) : $this->centre, fn (): SurfaceTree => $this->surface($k));
        }

        return $colliders;
    }

    private function surface(int $piece): SurfaceTree
    {
        return $this->surfaces[$piece] ??= SurfaceTree::of($this->broken->pieces->mesh($piece), ($this->broken->mass[$piece]->volume ?? 0.0) > 0.0);
    }

    /**
     * @param array{float, float, float} $centre of the body, in the prop's space
     * @param Closure(): SurfaceTree $surface
     */
    private function collider(RigidWorld $world, int $body, array $centre, Closure $surface): RigidCollider
    {
        return new RigidCollider($world->bodies, $body, [-$centre[0], -$centre[1], -$centre[2]], $surface, $this->settings->friction);
    }

    /** @return list<float> of each piece */
    public function weights(float $frame): array
    {
        return $this->timing->shown($frame, array_map(static fn (bool $loose): float => $loose ? 1.0 : 0.0, array_values($this->loose)));
    }

    /** Sets what is held by keys on its way to where it must be at the end of the step. */
    public function drive(RigidWorld $world, float $from, float $to, float $dt): void
    {
        if ($this->fallsWhole() || ! $this->prop->transform->isKeyed() || ! in_array(false, $this->loose, true)) {
            return;
        }
        $turn = $this->prop->transform->rotationAt($from);
        $next = $this->prop->transform->rotationAt($to);
        $place = Quaternion::carried($this->prop->transform->positionAt($from), $turn, $this->centre);
        $goal = Quaternion::carried($this->prop->transform->positionAt($to), $next, $this->centre);
        $world->bodies->place($this->whole, $place, $turn);
        $delta = Quaternion::multiply($next, Quaternion::conjugate($turn));
        $sine = sqrt($delta[0] ** 2 + $delta[1] ** 2 + $delta[2] ** 2);
        $angle = 2.0 * atan2($sine, $delta[3]);
        if ($angle > M_PI) {
            $angle -= 2.0 * M_PI;
        }
        $s = $sine > 1e-12 ? $angle / ($sine * $dt) : 0.0;
        $world->bodies->setVelocity(
            $this->whole,
            [($goal[0] - $place[0]) / $dt, ($goal[1] - $place[1]) / $dt, ($goal[2] - $place[2]) / $dt],
            [$delta[0] * $s, $delta[1] * $s, $delta[2] * $s],
        );
    }

    /** Lets go of all pieces that are due by this frame. */
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

    /**
     * @param array{float, float, float} $point where it was touched
     *
     * @return bool whether it broke by this touch
     */
    public function touched(RigidWorld $world, float $speed, array $point): bool
    {
        if (! $this->waitsForContact() || $speed < $this->trigger->touchSpeed()) {
            return false;
        }
        $now = [];
        $within = $this->trigger->touchReach();
        foreach ($this->loose as $k => $loose) {
            if (! $loose && ! $this->isCore($k) && ($within <= 0.0 || $this->distance($world, $k, $point) <= $within)) {
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
    private function distance(RigidWorld $world, int $piece, array $point): float
    {
        [$x, $y, $z] = $this->place($world, $piece);

        return max($this->radius[$piece], sqrt(($x - $point[0]) ** 2 + ($y - $point[1]) ** 2 + ($z - $point[2]) ** 2));
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
        $start = $this->fallsWhole() ? [0.0, 0.0, 0.0] : $this->settings->velocity;
        $startSpin = $this->fallsWhole() ? [0.0, 0.0, 0.0] : $this->settings->spin;
        foreach ($pieces as $k) {
            $place = $this->place($world, $k);
            // The piece's own inertia in the prop's axes is its inertia in its body's axes: they are parallel.
            $body = $world->bodies->addBody($this->inertia[$k], $place, $turn);
            foreach ($this->shapes[$k] as $n => $shape) {
                $world->bodies->moveShape($shape, $body, self::minus($this->centres[$k][$n], $this->broken->centre($k)));
            }
            $this->body[$k] = $body;
            $this->offset[$k] = [0.0, 0.0, 0.0];
            $rx = $place[0] - $origin[0];
            $ry = $place[1] - $origin[1];
            $rz = $place[2] - $origin[2];
            $world->bodies->setVelocity($body, [
                $start[0] + $velocity[0] + $spin[1] * $rz - $spin[2] * $ry,
                $start[1] + $velocity[1] + $spin[2] * $rx - $spin[0] * $rz,
                $start[2] + $velocity[2] + $spin[0] * $ry - $spin[1] * $rx,
            ], [$startSpin[0] + $spin[0], $startSpin[1] + $spin[1], $startSpin[2] + $spin[2]]);
            $this->loose[$k] = true;
        }
        $world->wakeNeighbours($this->whole);
        $this->shrink($world, $velocity, $spin, $turn, $origin);
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
        $rest = Inertia::together(array_map(fn (int $k): Inertia => $this->inertia[$k], $held));
        $shift = Quaternion::rotate($turn, [
            $rest->centre[0] - $this->centre[0], $rest->centre[1] - $this->centre[1], $rest->centre[2] - $this->centre[2],
        ]);
        $this->centre = $rest->centre;
        $world->bodies->reshapeBody($this->whole, $rest);
        $world->bodies->place($this->whole, [$origin[0] + $shift[0], $origin[1] + $shift[1], $origin[2] + $shift[2]], $turn);
        $world->bodies->setVelocity($this->whole, [
            $velocity[0] + $spin[1] * $shift[2] - $spin[2] * $shift[1],
            $velocity[1] + $spin[2] * $shift[0] - $spin[0] * $shift[2],
            $velocity[2] + $spin[0] * $shift[1] - $spin[1] * $shift[0],
        ], $spin);
        foreach ($held as $k) {
            foreach ($this->shapes[$k] as $n => $shape) {
                $world->bodies->moveShape($shape, $this->whole, self::minus($this->centres[$k][$n], $rest->centre));
            }
            $this->offset[$k] = self::minus($this->broken->centre($k), $rest->centre);
        }
    }

    /** @return array<string, mixed> what has changed since it was made; speeds before a touch are noted anew in each step */
    public function save(): array
    {
        return ['body' => $this->body, 'offset' => array_merge(...$this->offset), 'loose' => $this->loose, 'centre' => $this->centre, 'contact' => $this->contact];
    }

    public function restore(State $state): void
    {
        $this->body = $state->ints('body');
        $this->loose = $state->bools('loose');
        $this->centre = $state->vector('centre');
        $this->contact = $state->bool('contact');
        $this->offset = [];
        foreach (array_chunk($state->floats('offset'), 3) as [$x, $y, $z]) {
            $this->offset[] = [$x, $y, $z];
        }
        $this->before = null;
    }
}
