<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use Closure;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Scatter;
use YardBreak\Core\Motion\State;

/**
 * Light pieces that do not feel each other: carried by the air, tumbling, laid flat by what they reach. Drag grows with
 * the square of the speed through the air, so that a piece that falls through still air nears its falling speed (v = v_t
 * tanh(g t / v_t), any text on drag); it is taken implicitly, so that the lightest piece stays calm at any step.
 */
final class LightWorld
{
    /** On earth, m/s2: what falling speeds are given for. */
    private const EARTH = 9.80665;

    private readonly LightBodies $bodies;

    private readonly LightContacts $contacts;

    /** @var list<array{array{float, float, float}, float, float, Scatter|null}> normal, height, friction, how rough */
    private array $planes = [];

    /** @var array{float, float, float} what all were pulled by in the last step, m/s2 */
    private array $uniform = [0.0, 0.0, 0.0];

    private bool $changed = false;

    /** Frame at which the step began. */
    private float $frame = 1.0;

    /** @var array<int, array{float, float, float}> what those that lie on something are pulled by, m/s2, where it is not the same for all */
    private array $felt = [];

    /** @var array{array<int, float>, array<int, float>, array<int, float>} places before the step */
    private array $was = [[], [], []];

    /** @var array{array<int, float>, array<int, float>, array<int, float>} velocities before the step */
    private array $speed = [[], [], []];

    public function __construct(private readonly float $settleSpeed)
    {
        $this->bodies = new LightBodies();
        $this->contacts = new LightContacts($this->bodies, $settleSpeed);
    }

    /**
     * @param array{float, float, float} $normal unit
     * @param float $height of the plane where it crosses the y axis, m
     */
    public function addPlane(array $normal, float $height, float $friction, ?Scatter $scatter = null): void
    {
        $this->planes[] = [$normal, $normal[1] * $height, $friction, $scatter];
    }

    public function add(LightPiece $piece): int
    {
        return $this->bodies->add($piece);
    }

    public function state(int $piece): int
    {
        return $this->bodies->state[$piece];
    }

    /**
     * @param array{float, float, float} $position
     * @param array{float, float, float, float} $rotation
     */
    public function place(int $piece, array $position, array $rotation): void
    {
        [$this->bodies->x[$piece], $this->bodies->y[$piece], $this->bodies->z[$piece]] = $position;
        $this->bodies->turn[$piece] = $rotation;
    }

    /**
     * @param array{float, float, float} $velocity m/s
     * @param array{float, float, float} $scale how large it is from now on
     */
    public function letGo(int $piece, array $velocity, array $scale = [1.0, 1.0, 1.0]): void
    {
        $this->resize($piece, $scale);
        [$this->bodies->u[$piece], $this->bodies->v[$piece], $this->bodies->w[$piece]] = $velocity;
        $this->bodies->state[$piece] = LightBodies::LOOSE;
    }

    /** @param array{float, float, float} $scale of what it was added as */
    public function resize(int $piece, array $scale): void
    {
        if ($scale !== [1.0, 1.0, 1.0]) {
            $this->bodies->pieces[$piece] = $this->bodies->pieces[$piece]->scaled($scale);
        }
    }

    public function take(int $piece): void
    {
        unset($this->bodies->seats[$piece]);
        $this->bodies->state[$piece] = LightBodies::GONE;
    }

    /** @return array{float, float, float, float, float, float, float} */
    public function pose(int $piece): array
    {
        return [$this->bodies->x[$piece], $this->bodies->y[$piece], $this->bodies->z[$piece], ...$this->bodies->turn[$piece]];
    }

    public function speed(int $piece): float
    {
        return $this->bodies->state[$piece] === LightBodies::LOOSE ? sqrt($this->bodies->u[$piece] ** 2 + $this->bodies->v[$piece] ** 2 + $this->bodies->w[$piece] ** 2) : 0.0;
    }

    /**
     * @param list<int> $group of each piece, as the forces know them
     * @param Closure(): list<float> $weights of all pieces, 0 to 1
     * @param float $frame at which the step begins
     * @param float $dt s
     */
    public function step(Forces $forces, array $group, Closure $weights, float $frame, float $dt): void
    {
        $bodies = $this->bodies;
        $this->frame = $frame;
        [$this->was, $this->speed, $this->felt] = [[$bodies->x, $bodies->y, $bodies->z], [$bodies->u, $bodies->v, $bodies->w], []];
        // Nothing but a pull straight down, as it was before, leaves what rests where it is.
        [$gx, $gy, $gz] = $uniform = $forces->uniform($frame);
        $this->changed = $uniform !== $this->uniform;
        $this->uniform = $uniform;
        $loose = $forces->uneven()->isEmpty() && $gx === 0.0 && $gy <= 0.0 && $gz === 0.0 ? $bodies->loose()
            : array_keys(array_filter($bodies->state, static fn (int $state): bool => $state === LightBodies::LOOSE || $state === LightBodies::RESTING));
        if ($loose === []) {
            return;
        }
        $x = $y = $z = $groups = [];
        foreach ($loose as $i) {
            $x[] = $bodies->x[$i];
            $y[] = $bodies->y[$i];
            $z[] = $bodies->z[$i];
            $groups[] = $group[$i];
        }
        $ofThem = static function () use ($weights, $loose): array {
            $all = $weights();

            return array_map(static fn (int $i): float => $all[$i], $loose);
        };
        $pushes = $forces->at($x, $y, $z, $groups, $frame, $dt, $ofThem);
        $this->rouse($loose, $pushes);
        $this->move($loose, $pushes, $dt);
        foreach ($loose as $i) {
            if ($bodies->state[$i] === LightBodies::LOOSE) {
                $this->land($i);
            }
        }
    }

    /**
     * Begins a step among other things.
     *
     * @param list<Collider> $colliders
     * @param array<string, Cover> $covers by the collider's name
     */
    public function open(array $colliders, array $covers): void
    {
        $this->contacts->open($colliders, $covers);
    }

    /** Ends it, once they stand where they do by then. */
    public function close(float $dt): void
    {
        foreach ($this->contacts->close($this->was, $this->speed, $this->felt, $this->uniform, $this->changed, $dt) as $i) {
            if ($this->bodies->state[$i] === LightBodies::LOOSE) {
                $this->land($i);
            }
        }
    }

    /**
     * What rests on a floor is set going again by what lifts it, or pushes it along harder than it is held by friction. What
     * lies on something else lies in the wind too.
     *
     * @param list<int> $loose
     */
    private function rouse(array $loose, Pushes $pushes): void
    {
        $bodies = $this->bodies;
        foreach ($loose as $n => $i) {
            if ($bodies->state[$i] !== LightBodies::RESTING) {
                continue;
            }
            $piece = $bodies->pieces[$i];
            $a = [$pushes->ax[$n], $pushes->ay[$n], $pushes->az[$n]];
            if (isset($bodies->seats[$i])) {
                $r = [$pushes->u[$n] - $bodies->u[$i], $pushes->v[$n] - $bodies->v[$i], $pushes->w[$n] - $bodies->w[$i]];
                $through = sqrt($r[0] ** 2 + $r[1] ** 2 + $r[2] ** 2);
                $q = self::EARTH / ($piece->fallSpeed * $piece->fallSpeed) * $through + $pushes->linear[$n] + $pushes->square[$n] * $through;
                $this->felt[$i] = [$a[0] + $q * $r[0], $a[1] + $q * $r[1], $a[2] + $q * $r[2]];

                continue;
            }
            foreach ($piece->sticks ? [] : $this->planes as [$normal, $offset, $friction]) {
                $height = $normal[0] * $bodies->x[$i] + $normal[1] * $bodies->y[$i] + $normal[2] * $bodies->z[$i] - $offset;
                if ($height > $piece->thickness + Landing::LANDED) {
                    continue;
                }
                if (! Landing::keeps($normal, $a, sqrt($friction * $piece->friction))) {
                    $bodies->state[$i] = LightBodies::LOOSE;
                }
                break;
            }
        }
    }

    /** @param list<int> $loose those among them that rest are left alone */
    private function move(array $loose, Pushes $pushes, float $dt): void
    {
        [$ax, $ay, $az] = [$pushes->ax, $pushes->ay, $pushes->az];
        [$u, $v, $w] = [$pushes->u, $pushes->v, $pushes->w];
        [$linear, $square] = [$pushes->linear, $pushes->square];
        $bodies = $this->bodies;
        [$px, $py, $pz, $pu, $pv, $pw, $turn, $pieces] = [$bodies->x, $bodies->y, $bodies->z, $bodies->u, $bodies->v, $bodies->w, $bodies->turn, $bodies->pieces];
        foreach ($loose as $n => $i) {
            if ($bodies->state[$i] !== LightBodies::LOOSE) {
                continue;
            }
            $piece = $pieces[$i];
            // What lies on a floor lies below the wind.
            $shelter = $this->lies($i) ? 0.0 : 1.0;
            $wu = $u[$n] * $shelter;
            $wv = $v[$n] * $shelter;
            $ww = $w[$n] * $shelter;
            $ru = $wu - $pu[$i];
            $rv = $wv - $pv[$i];
            $rw = $ww - $pw[$i];
            $through = sqrt($ru * $ru + $rv * $rv + $rw * $rw);
            $q = $dt * (self::EARTH / ($piece->fallSpeed * $piece->fallSpeed) * $through + $linear[$n] + $square[$n] * $through);
            $s = 1.0 / (1.0 + $q);
            $pu[$i] = ($pu[$i] + $q * $wu + $dt * $ax[$n]) * $s;
            $pv[$i] = ($pv[$i] + $q * $wv + $dt * $ay[$n]) * $s;
            $pw[$i] = ($pw[$i] + $q * $ww + $dt * $az[$n]) * $s;
            $px[$i] += $dt * $pu[$i];
            $py[$i] += $dt * $pv[$i];
            $pz[$i] += $dt * $pw[$i];
            // The air turns it, the more the faster it goes through it.
            $half = 0.5 * $dt * $piece->tumble * min(1.0, $through / $piece->fallSpeed) * $shelter;
            if ($half !== 0.0) {
                [$sx, $sy, $sz] = $piece->spinAxis;
                $sine = sin($half);
                $c = cos($half);
                $sx *= $sine;
                $sy *= $sine;
                $sz *= $sine;
                [$qx, $qy, $qz, $qw] = $turn[$i];
                $tx = $c * $qx + $sx * $qw + $sy * $qz - $sz * $qy;
                $ty = $c * $qy - $sx * $qz + $sy * $qw + $sz * $qx;
                $tz = $c * $qz + $sx * $qy - $sy * $qx + $sz * $qw;
                $tw = $c * $qw - $sx * $qx - $sy * $qy - $sz * $qz;
                $length = 1.0 / sqrt($tx * $tx + $ty * $ty + $tz * $tz + $tw * $tw);
                $turn[$i] = [$tx * $length, $ty * $length, $tz * $length, $tw * $length];
            }
        }
        [$bodies->x, $bodies->y, $bodies->z, $bodies->u, $bodies->v, $bodies->w, $bodies->turn] = [$px, $py, $pz, $pu, $pv, $pw, $turn];
    }

    private function lies(int $i): bool
    {
        $thickness = $this->bodies->pieces[$i]->thickness + Landing::LANDED;
        foreach ($this->planes as [$n, $height]) {
            if ($n[0] * $this->bodies->x[$i] + $n[1] * $this->bodies->y[$i] + $n[2] * $this->bodies->z[$i] - $height <= $thickness) {
                return true;
            }
        }

        return false;
    }

    private function land(int $i): void
    {
        foreach ($this->planes as [$n, $offset, $friction, $scatter]) {
            $height = $n[0] * $this->bodies->x[$i] + $n[1] * $this->bodies->y[$i] + $n[2] * $this->bodies->z[$i] - $offset;
            Landing::on($this->bodies, $i, $n, $height, $friction, [0.0, 0.0, 0.0], $this->settleSpeed, null, $scatter === null ? null : fn (): array => $scatter->facet($n, bin2hex(pack('E', $this->frame)), $i));
        }
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return ['bodies' => $this->bodies->save(), 'contacts' => $this->contacts->save(), 'uniform' => $this->uniform];
    }

    public function restore(State $saved): void
    {
        $this->bodies->restore($saved->part('bodies'));
        $this->contacts->restore($saved->part('contacts'));
        $this->uniform = $saved->vector('uniform');
    }
}
