<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use Closure;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Surface\Bending;

/** What light pieces meet beside floors: they land on it, slide along it, and ride on it as long as it bears them. */
final class LightContacts
{
    /** A ball around a body is around its hull; its true surface may stand out a little. */
    private const BALL = 1.1;

    /** What pushes a piece the way it is pulled, by this as a cosine, only presses it on what it lies on. */
    private const ONTO = 0.5;

    /** So many sides of one thing are met in a step. */
    private const SIDES = 3;

    /** Cells along the longest side of what the pieces take up. */
    private const CELLS = 24;

    /** @var array<string, LightSurface> by the name of the collider, or of what bends */
    private array $contacts = [];

    /** @var array<string, int> numbers of their covers when this was saved */
    private array $covered = [];

    /** @var array<string, array{array{float, float, float}, array{float, float, float}}> boxes of what bears any, when this was saved */
    private array $boxes = [];

    private readonly Pockets $pockets;

    public function __construct(private readonly LightBodies $bodies, private readonly float $settleSpeed)
    {
        $this->pockets = new Pockets();
    }

    /**
     * A step begins.
     *
     * @param list<Collider> $colliders
     * @param array<string, Cover> $covers by the collider's name
     * @param array<string, Closure(): Bending> $bending surfaces that bend, by name
     */
    public function open(array $colliders, array $covers, array $bending): void
    {
        $contacts = [];
        foreach ($colliders as $collider) {
            $name = $collider->name();
            $known = $this->contacts[$name] ?? null;
            $contact = $known instanceof LightContact ? $known : new LightContact($collider, $covers[$name] ?? null, $this->covered[$name] ?? null, $this->boxes[$name] ?? null);
            $contact->open($collider);
            $contacts[$name] = $contact;
        }
        foreach ($bending as $name => $of) {
            $known = $this->contacts[$name] ?? null;
            $contact = $known instanceof BentContact ? $known : new BentContact($name, $of);
            $contact->open();
            $contacts[$name] = $contact;
        }
        [$this->contacts, $this->covered, $this->boxes] = [$contacts, [], []];
    }

    /** @return array<int, true> pieces between sides, which lie flat on none */
    public function between(): array
    {
        return $this->pockets->between();
    }

    /**
     * The step is over, and what is met stands where it stands: what lies on it goes along, what came to it lands, what it came
     * to is pushed.
     *
     * @param list<Collider> $colliders as they are now
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was places before the step
     * @param array{array<int, float>, array<int, float>, array<int, float>} $speed velocities before it
     * @param array<int, array{float, float, float}> $felt what those that lie are pulled by, m/s2, where it is not the same for all
     * @param array{float, float, float} $uniform what all are pulled by
     *
     * @return list<int> pieces that were touched
     */
    public function close(array $colliders, array $was, array $speed, array $felt, array $uniform, bool $changed, float $dt): array
    {
        $now = [];
        foreach ($colliders as $collider) {
            $now[$collider->name()] = $collider;
        }
        foreach ($this->contacts as $name => $contact) {
            $contact->close($now[$name] ?? null);
        }
        $this->pockets->open();
        $roused = $this->ride($felt, $uniform, $changed, $dt);
        $loose = array_values(array_filter($this->bodies->loose(), fn (int $i): bool => $this->bodies->pieces[$i]->meets));
        $touched = $this->strike($was, $felt, $uniform, $dt);
        if ($loose !== [] && $this->contacts !== []) {
            $touched = [...$touched, ...$this->meet($loose, $was, $speed, $roused, $dt)];
        }
        foreach ($this->pockets->close($this->bodies, $this->settleSpeed, $dt) as $i => [$names, $normal, $up]) {
            if ($this->standStill($names)) {
                $this->rest($i, $names, $normal, $up);
            }
        }

        return $touched;
    }

    /**
     * Those on their way come to things.
     *
     * @param non-empty-list<int> $loose
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was places before the step
     * @param array{array<int, float>, array<int, float>, array<int, float>} $speed velocities before it
     * @param array<int, array{float, float, float}> $pulls what pulls those that lay until now, m/s2
     *
     * @return list<int> pieces that were touched
     */
    private function meet(array $loose, array $was, array $speed, array $pulls, float $dt): array
    {
        $touched = [];
        [$cells, $size, $far] = $this->cells($loose, $was);
        foreach ($this->contacts as $name => $contact) {
            [$middle, $radius] = $contact->ball();
            foreach (self::near($cells, $size, $middle, self::BALL * $radius + $contact->travel($dt) + $far) as $i) {
                $found = $this->bodies->state[$i] === LightBodies::LOOSE ? $this->find($contact, $i, $was, $dt) : null;
                // All that acted on it in the step before anything touched it; what lay until now has not been moved by that yet.
                $pull = $pulls[$i] ??= [($this->bodies->u[$i] - $speed[0][$i]) / $dt, ($this->bodies->v[$i] - $speed[1][$i]) / $dt, ($this->bodies->w[$i] - $speed[2][$i]) / $dt];
                for ($side = 0; $side < self::SIDES && $found !== null && $this->land($contact, $i, $found, $pull); $side++) {
                    $this->pockets->touched($i, $name, $found[0], $pull);
                    $touched[] = $i;
                    // What pushes it back may push it to another side of the same thing, or through that.
                    $found = $this->bodies->state[$i] === LightBodies::LOOSE ? $this->find($contact, $i, $was, $dt) : null;
                    $found = $found !== null && $found[1] < $this->bodies->thickness[$i] - Landing::LANDED ? $found : null;
                }
                if ($side === self::SIDES && $found !== null && $found[1] < 0.0) {
                    $this->stay($i, $was, $found[2], $dt);
                }
            }
        }

        return $touched;
    }

    /**
     * Where it is too narrow to go anywhere it stays, as seen from the surface.
     *
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was
     * @param array{float, float, float} $carried velocity of the surface there, m/s
     */
    private function stay(int $i, array $was, array $carried, float $dt): void
    {
        $bodies = $this->bodies;
        [$bodies->u[$i], $bodies->v[$i], $bodies->w[$i]] = [$u, $v, $w] = $carried;
        [$bodies->x[$i], $bodies->y[$i], $bodies->z[$i]] = [$was[0][$i] + $dt * $u, $was[1][$i] + $dt * $v, $was[2][$i] + $dt * $w];
    }

    /**
     * @param list<string> $names of what bears it together
     * @param array{float, float, float} $normal of the last of them
     * @param array{float, float, float} $up
     */
    private function rest(int $i, array $names, array $normal, array $up): void
    {
        $bodies = $this->bodies;
        $bodies->state[$i] = LightBodies::RESTING;
        $bodies->u[$i] = $bodies->v[$i] = $bodies->w[$i] = 0.0;
        $on = $this->contacts[array_pop($names)];
        $bodies->seats[$i] = $on->seat([$bodies->x[$i], $bodies->y[$i], $bodies->z[$i]], $bodies->turn($i), $normal)->between($names, $up);
    }

    /**
     * What lies somewhere is pushed along by what comes or grows, as hard as it comes. What comes down on it only hides it.
     *
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was
     * @param array<int, array{float, float, float}> $felt
     * @param array{float, float, float} $uniform
     *
     * @return list<int> pieces that were touched
     */
    private function strike(array $was, array $felt, array $uniform, float $dt): array
    {
        $bodies = $this->bodies;
        $coming = array_filter($this->contacts, static fn (LightSurface $contact): bool => ! $contact->isStill());
        $lying = $coming === [] ? [] : $this->lying($coming, $dt);
        if ($lying === []) {
            return [];
        }
        [$cells, $size, $far] = $this->cells($lying, $was);
        $touched = [];
        foreach ($coming as $name => $contact) {
            [$middle, $radius] = $contact->ball();
            foreach (self::near($cells, $size, $middle, self::BALL * $radius + $contact->travel($dt) + $far) as $i) {
                if ($bodies->state[$i] !== LightBodies::RESTING || ($bodies->seats[$i]->name ?? null) === $name) {
                    continue;
                }
                $found = $this->find($contact, $i, $was, $dt);
                $pull = $felt[$i] ?? $uniform;
                if ($found !== null && $found[1] < $bodies->pieces[$i]->thickness - Landing::LANDED && Vector::dot($found[0], $pull) <= self::ONTO * sqrt(Vector::dot($pull, $pull))) {
                    $bodies->rouse($i);
                    $this->land($contact, $i, $found, $pull);
                    $touched[] = $i;
                }
            }
        }

        return $touched;
    }

    /**
     * @param non-empty-array<string, LightSurface> $coming
     *
     * @return list<int> pieces that lie somewhere, in the box around all that comes
     */
    private function lying(array $coming, float $dt): array
    {
        $bodies = $this->bodies;
        $far = $bodies->radius === [] ? 0.0 : max($bodies->radius);
        $low = [INF, INF, INF];
        $high = [-INF, -INF, -INF];
        foreach ($coming as $contact) {
            [$middle, $radius] = $contact->ball();
            $reach = self::BALL * $radius + $contact->travel($dt) + $far;
            foreach ($middle as $axis => $at) {
                $low[$axis] = min($low[$axis], $at - $reach);
                $high[$axis] = max($high[$axis], $at + $reach);
            }
        }
        [$x, $y, $z] = [$bodies->x, $bodies->y, $bodies->z];
        $lying = [];
        foreach ($bodies->state as $i => $state) {
            if ($state === LightBodies::RESTING && $x[$i] >= $low[0] && $x[$i] <= $high[0] && $y[$i] >= $low[1] && $y[$i] <= $high[1] && $z[$i] >= $low[2] && $z[$i] <= $high[2] && $bodies->pieces[$i]->meets) {
                $lying[] = $i;
            }
        }

        return $lying;
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was
     *
     * @return array{array{float, float, float}, float, array{float, float, float}}|null as {@see LightSurface::find()}
     */
    private function find(LightSurface $contact, int $i, array $was, float $dt): ?array
    {
        $bodies = $this->bodies;

        return $contact->find($i, $bodies->pieces[$i], [$was[0][$i], $was[1][$i], $was[2][$i]], [$bodies->x[$i], $bodies->y[$i], $bodies->z[$i]], $dt);
    }

    /**
     * @param array{array{float, float, float}, float, array{float, float, float}} $found
     * @param array{float, float, float} $pull what it is pulled by, m/s2
     */
    private function land(LightSurface $contact, int $i, array $found, array $pull): bool
    {
        $bodies = $this->bodies;
        [$normal, $height, $carried] = $found;
        $touched = Landing::on($bodies, $i, $normal, $height, $contact->friction(), $carried, $this->settleSpeed, $pull);
        if ($bodies->state[$i] === LightBodies::RESTING) {
            $bodies->seats[$i] = $contact->seat([$bodies->x[$i], $bodies->y[$i], $bodies->z[$i]], $bodies->turn($i), $normal);
        }

        return $touched;
    }

    /**
     * @param array<int, array{float, float, float}> $felt
     * @param array{float, float, float} $uniform
     *
     * @return array<int, array{float, float, float}> those that lie no longer, and what pulls each of them, m/s2
     */
    private function ride(array $felt, array $uniform, bool $changed, float $dt): array
    {
        $bodies = $this->bodies;
        $roused = [];
        foreach ($bodies->seats as $i => $seat) {
            $contact = $this->contacts[$seat->name] ?? null;
            if ($contact === null || ($seat->up !== null && ! $this->standStill([$seat->name, ...$seat->sides])) || ($contact->isLaidOpen() && ! $contact->bears($seat, $bodies->pieces[$i]))) {
                $bodies->rouse($i);
                $roused[$i] = $felt[$i] ?? $uniform;

                continue;
            }
            $still = $contact->isStill();
            if (! $still) {
                $bodies->seats[$i] = $seat = $contact->grown($seat, $bodies->pieces[$i]);
            }
            if ($still && ! $changed && ! isset($felt[$i])) {
                continue;
            }
            [[$x, $y, $z], $turn, $normal] = $contact->carried($seat);
            [$u, $v, $w] = $still ? [0.0, 0.0, 0.0] : [($x - $bodies->x[$i]) / $dt, ($y - $bodies->y[$i]) / $dt, ($z - $bodies->z[$i]) / $dt];
            [$ax, $ay, $az] = $felt[$i] ?? $uniform;
            $pull = [$ax - ($u - $bodies->u[$i]) / $dt, $ay - ($v - $bodies->v[$i]) / $dt, $az - ($w - $bodies->w[$i]) / $dt];
            $normal = $seat->up ?? $normal;
            $mu = sqrt($contact->friction() * $bodies->pieces[$i]->friction);
            if (! $bodies->pieces[$i]->sticks && ! Landing::keeps($normal, $pull, $mu)) {
                // With the speed that it had: what it lay on goes on without it.
                $bodies->rouse($i);
                $roused[$i] = $pull;

                continue;
            }
            [$bodies->x[$i], $bodies->y[$i], $bodies->z[$i], $bodies->u[$i], $bodies->v[$i], $bodies->w[$i]] = [$x, $y, $z, $u, $v, $w];
            $bodies->turnTo($i, $turn);
        }

        return $roused;
    }

    /** @param list<string> $names */
    private function standStill(array $names): bool
    {
        foreach ($names as $name) {
            if (! isset($this->contacts[$name]) || ! $this->contacts[$name]->isStill()) {
                return false;
            }
        }

        return true;
    }

    /**
     * Pieces sorted into cells of space, the size of a cell, and how far beyond it one may reach.
     *
     * @param non-empty-list<int> $loose
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was
     *
     * @return array{array<int, array<int, array<int, list<int>>>>, float, float}
     */
    private function cells(array $loose, array $was): array
    {
        [$x, $y, $z, $radius] = [$this->bodies->x, $this->bodies->y, $this->bodies->z, $this->bodies->radius];
        $low = [INF, INF, INF];
        $high = [-INF, -INF, -INF];
        $far = 0.0;
        foreach ($loose as $i) {
            foreach ([$x[$i], $y[$i], $z[$i]] as $axis => $value) {
                $low[$axis] = $value < $low[$axis] ? $value : $low[$axis];
                $high[$axis] = $value > $high[$axis] ? $value : $high[$axis];
            }
            $path = sqrt(($x[$i] - $was[0][$i]) ** 2 + ($y[$i] - $was[1][$i]) ** 2 + ($z[$i] - $was[2][$i]) ** 2);
            $reach = $path + $radius[$i];
            $far = $reach > $far ? $reach : $far;
        }
        $size = max(1e-6, max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]) / self::CELLS);
        $cells = [];
        foreach ($loose as $i) {
            $cells[(int) floor($x[$i] / $size)][(int) floor($y[$i] / $size)][(int) floor($z[$i] / $size)][] = $i;
        }

        return [$cells, $size, $far];
    }

    /**
     * @param array<int, array<int, array<int, list<int>>>> $cells
     * @param array{float, float, float} $middle
     *
     * @return iterable<int> pieces in the cells that a ball reaches
     */
    private static function near(array $cells, float $size, array $middle, float $radius): iterable
    {
        foreach ($cells as $cx => $column) {
            if (abs(($cx + 0.5) * $size - $middle[0]) > $radius + 0.5 * $size) {
                continue;
            }
            foreach ($column as $cy => $row) {
                if (abs(($cy + 0.5) * $size - $middle[1]) > $radius + 0.5 * $size) {
                    continue;
                }
                foreach ($row as $cz => $pieces) {
                    if (abs(($cz + 0.5) * $size - $middle[2]) <= $radius + 0.5 * $size) {
                        yield from $pieces;
                    }
                }
            }
        }
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        $covered = array_filter(array_map(static fn (LightSurface $contact): ?int => $contact->covered(), $this->contacts), is_int(...));

        $boxes = array_filter(array_map(static fn (LightSurface $contact): ?array => $contact->box(), $this->contacts), is_array(...));

        return ['pockets' => $this->pockets->save(), 'names' => array_keys($covered), 'numbers' => array_values($covered), 'bearing' => array_keys($boxes), 'boxes' => array_merge(...array_map(static fn (array $box): array => [...$box[0], ...$box[1]], array_values($boxes)))];
    }

    public function restore(State $saved): void
    {
        $this->pockets->restore($saved->part('pockets'));
        $this->covered = array_combine($saved->strings('names'), $saved->ints('numbers'));
        $boxes = $saved->floats('boxes');
        foreach ($saved->strings('bearing') as $k => $name) {
            [$ax, $ay, $az, $bx, $by, $bz] = array_slice($boxes, 6 * $k, 6);
            $this->boxes[$name] = [[$ax, $ay, $az], [$bx, $by, $bz]];
        }
    }
}
