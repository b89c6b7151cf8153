<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use Closure;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Scatter;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Surface\Bending;

/**
 * Light pieces that do not feel each other: carried by the air, tumbling, laid flat by what they reach. Drag grows with
 * the square of the speed through the air, so that a piece that falls through still air nears its falling speed (v = v_t
 * tanh(g t / v_t), any text on drag); it is taken implicitly, so that the lightest piece stays calm at any step.
 */
final class LightWorld
{
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
        $this->bodies->turnTo($piece, $rotation);
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
            $this->bodies->resize($piece, $scale);
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
        return [$this->bodies->x[$piece], $this->bodies->y[$piece], $this->bodies->z[$piece], ...$this->bodies->turn($piece)];
    }

    /** @return list<float> poses of pieces that follow each other */
    public function poses(int $first, int $count): array
    {
        return $this->bodies->poses($first, $count);
    }

    /** @return list<int> states of pieces that follow each other */
    public function states(int $first, int $count): array
    {
        return array_slice($this->bodies->state, $first, $count);
    }

    /** @return int how many of pieces that follow each other do not rest */
    public function moving(int $first, int $count): int
    {
        return $this->bodies->faster($first, $count, $this->settleSpeed);
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
        $bodies->laid = $this->contacts->between();
        [$this->was, $this->speed, $this->felt] = [[$bodies->x, $bodies->y, $bodies->z], [$bodies->u, $bodies->v, $bodies->w], []];
        // Nothing but a pull straight down, as it was before, leaves what rests where it is.
        [$gx, $gy, $gz] = $uniform = $forces->uniform($frame);
        $this->changed = $uniform !== $this->uniform;
        $this->uniform = $uniform;
        $loose = $forces->uneven()->isEmpty() && $gx === 0.0 && $gy <= 0.0 && $gz === 0.0 ? $bodies->loose() : $bodies->free();
        if ($loose === []) {
            return;
        }
        $ofThem = static function () use ($weights, $loose): array {
            $all = $weights();

            return array_map(static fn (int $i): float => $all[$i], $loose);
        };
        [$x, $y, $z, $groups] = count($loose) === count($group) ? [array_values($bodies->x), array_values($bodies->y), array_values($bodies->z), $group] : $bodies->of($loose, $group);
        $pushes = $forces->at($x, $y, $z, $groups, $frame, $dt, $ofThem);
        [$open, $floor] = $this->sheltered($loose);
        $this->rouse($loose, $pushes, $open, $floor);
        LightFlight::step($bodies, $loose, $pushes, $open, $dt);
        foreach ($this->low($loose) as $i) {
            $this->land($i);
        }
    }

    /**
     * Begins a step among other things.
     *
     * @param list<Collider> $colliders
     * @param array<string, Cover> $covers by the collider's name
     * @param array<string, Closure(): Bending> $bending surfaces that bend, by name
     */
    public function open(array $colliders, array $covers, array $bending = []): void
    {
        $this->contacts->open($colliders, $covers, $bending);
    }

    /**
     * Ends it, once they stand where they do by then.
     *
     * @param list<Collider> $colliders as they are by then
     */
    public function close(array $colliders, float $dt): void
    {
        foreach ($this->contacts->close($colliders, $this->was, $this->speed, $this->felt, $this->uniform, $this->changed, $dt) as $i) {
            if ($this->bodies->state[$i] === LightBodies::LOOSE) {
                $this->land($i);
            }
        }
    }

    /**
     * What rests is set going again by what lifts it, or pushes it along harder than it is held by friction: on a floor at once, on
     * other things when it is known where they are by then.
     *
     * @param list<int> $loose
     * @param array<int, float> $open share of the wind that reaches each of them
     * @param array<int, int> $floor that each of them lies on, -1: none
     */
    private function rouse(array $loose, Pushes $pushes, array $open, array $floor): void
    {
        $bodies = $this->bodies;
        if (! in_array(LightBodies::RESTING, $bodies->state, true)) {
            return;
        }
        [$state, $seats, $drag, $u, $v, $w, $friction] = [$bodies->state, $bodies->seats, $bodies->drag, $bodies->u, $bodies->v, $bodies->w, $bodies->friction];
        [$ax, $ay, $az, $airU, $airV, $airW] = [$pushes->ax, $pushes->ay, $pushes->az, $pushes->u, $pushes->v, $pushes->w];
        [$linear, $square] = [$pushes->linear, $pushes->square];
        foreach ($loose as $n => $i) {
            if ($state[$i] !== LightBodies::RESTING) {
                continue;
            }
            $share = $open[$n];
            $ru = $share * $airU[$n] - $u[$i];
            $rv = $share * $airV[$n] - $v[$i];
            $rw = $share * $airW[$n] - $w[$i];
            $through = sqrt($ru * $ru + $rv * $rv + $rw * $rw);
            $q = $drag[$i] * $through + $linear[$n] + $square[$n] * $through;
            $ru = $ax[$n] + $q * $ru;
            $rv = $ay[$n] + $q * $rv;
            $rw = $az[$n] + $q * $rw;
            if (isset($seats[$i])) {
                $this->felt[$i] = [$ru, $rv, $rw];
            } elseif ($floor[$n] >= 0) {
                [$normal, , $rough] = $this->planes[$floor[$n]];
                if (! Landing::keeps($normal, [$ru, $rv, $rw], sqrt($rough * $friction[$i])) && ! $bodies->pieces[$i]->sticks) {
                    $bodies->state[$i] = LightBodies::LOOSE;
                }
            }
        }
    }

    /**
     * Where the air is slowed by a floor.
     *
     * @param list<int> $loose
     *
     * @return array{array<int, float>, array<int, int>} share of the wind that reaches each of them, and the floor that each lies on, -1: none
     */
    private function sheltered(array $loose): array
    {
        $bodies = $this->bodies;
        [$x, $y, $z, $thickness, $exposure] = [$bodies->x, $bodies->y, $bodies->z, $bodies->thickness, $bodies->exposure];
        $open = array_fill(0, count($loose), 1.0);
        $floor = array_fill(0, count($loose), -1);
        foreach ($this->planes as $number => [[$nx, $ny, $nz], $offset]) {
            foreach ($loose as $n => $i) {
                if ($nx * $x[$i] + $ny * $y[$i] + $nz * $z[$i] - $offset <= $thickness[$i] + Landing::LANDED && $floor[$n] < 0) {
                    $open[$n] = $exposure[$i];
                    $floor[$n] = $number;
                }
            }
        }

        return [$open, $floor];
    }

    /**
     * @param list<int> $loose
     *
     * @return list<int> those on their way that may touch a floor
     */
    private function low(array $loose): array
    {
        $bodies = $this->bodies;
        [$x, $y, $z, $radius, $state] = [$bodies->x, $bodies->y, $bodies->z, $bodies->radius, $bodies->state];
        $low = [];
        foreach ($this->planes as [[$nx, $ny, $nz], $offset]) {
            foreach ($loose as $i) {
                if ($nx * $x[$i] + $ny * $y[$i] + $nz * $z[$i] - $offset < $radius[$i] && $state[$i] === LightBodies::LOOSE) {
                    $low[$i] = $i;
                }
            }
        }

        return array_values($low);
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
