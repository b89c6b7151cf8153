<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\Collider;

/**
 * Places of a cloth, or of a soft body, that go with hard things: what is fastened is where its thing is, and what the cloth pulls it by, the thing feels. To edges
 * and whatever else draws the cloth together a place is a mass point: all that are on a thing give way together no more than the thing itself
 * would, so that light things hold heavy cloth without a shudder. How far it was drawn in a substep is the impulse.
 */
final class Fastening
{
    /** What goes its way, whatever pulls, still tells by so much how hard: inverse mass, as a share of the mean vertex's. */
    private const TELLS = 1e-6;

    /** Rubbing takes no more than this share of what the cloth draws with. */
    private const RUBS = 0.5;

    /** It comes off in so many stretches, of so many places at the least: a solver of places does not share a pull out evenly from one to the next. */
    private const STRETCHES = 8;

    private const LONG = 4;

    /** @var array<int, int> the stretch that each place belongs to; made when it is asked for */
    private array $stretch = [];

    /** @var array<int, int> the place that each node is fastened by */
    private array $placeOf = [];

    /** @var array<int, bool> of each place, whether it holds */
    private array $holds;

    /** @var array<int, array{Collider, array{array{float, float, float}, array{float, float, float, float}}}> by place: what it is on, for the length of a step, and where that was a substep before */
    private array $on = [];

    /** @var array<int, float> of each node: inverse mass, as a share of the mean vertex's */
    private array $gives = [];

    /** Whether any of what it is on goes its way, whatever pulls. */
    private bool $firm = false;

    /** Length of the step under way, s. */
    private float $seconds = 0.0;

    /** @var array<int, array{float, float, float}> of each node, where it belongs, m */
    private array $at = [];

    /** @var array<int, array{float, float, float}> of each node, how far it was led in the substep, m */
    private array $went = [];

    /** @var array<int, array{float, float, float}> of each node: impulse in the step so far, N s */
    private array $pulls = [];

    /**
     * @param list<array{joint: string, vertex: int, names: list<string>, local: array{float, float, float}, strength: float, cut: int|null}> $places of each: what it is a part of, the vertex, what the thing may be called (the first one that is there counts), where it is in that one's axes, m, above which pull it breaks, N, and the frame from which it holds no more
     */
    public function __construct(private readonly array $places)
    {
        $this->holds = array_fill(0, count($places), true);
    }

    public function isEmpty(): bool
    {
        return $this->places === [];
    }

    /**
     * The cloth has other nodes from now on.
     *
     * @param (callable(int): int)|null $nodeOf of a vertex; null: they are the same
     */
    public function settle(?callable $nodeOf = null): void
    {
        $this->placeOf = [];
        foreach ($this->places as $k => $place) {
            if ($this->holds[$k]) {
                $this->placeOf[$nodeOf === null ? $place['vertex'] : $nodeOf($place['vertex'])] ??= $k;
            }
        }
        $this->gives = array_map(static fn (int $k): float => self::TELLS, $this->placeOf);
        $this->pulls = [];
    }

    /** @return array<int, float> of each node that is fastened: how much it gives way to what pulls, as an inverse mass of the mean vertex */
    public function gives(): array
    {
        return $this->gives;
    }

    /** @return array<string, true> names that the things may have */
    public function things(): array
    {
        $names = array_map(fn (int $k): array => $this->places[$k]['names'], array_values($this->placeOf));

        return array_fill_keys(array_merge([], ...$names), true);
    }

    /**
     * @param array<int, float> $w inverse masses
     *
     * @return array<int, float> the same, where what is fastened to what goes its way does not give way at all
     */
    public function firm(array $w): array
    {
        foreach ($this->gives as $node => $gives) {
            $w[$node] = $gives > self::TELLS ? $gives : 0.0;
        }

        return $w;
    }

    /**
     * Begins a step.
     *
     * @param list<Collider> $colliders
     * @param float $mass of the mean vertex, kg
     * @param float $dt s
     *
     * @return bool whether any of what it is fastened to moves
     */
    public function begin(array $colliders, float $mass, float $dt): bool
    {
        $this->seconds = $dt;
        $named = [];
        foreach ($colliders as $collider) {
            $named[$collider->name()] = $collider;
        }
        $this->on = [];
        $moves = false;
        foreach ($this->placeOf as $k) {
            foreach ($this->places[$k]['names'] as $name) {
                if (isset($named[$name])) {
                    $this->on[$k] = [$named[$name], $named[$name]->pose()];
                    $moves = $moves || $named[$name]->travel($dt) > 0.0;
                    break;
                }
            }
        }
        // As many places as share a thing, each a part of it.
        $each = count($this->on) * $mass;
        $this->firm = false;
        foreach ($this->placeOf as $node => $k) {
            $this->pulls[$node] = [0.0, 0.0, 0.0];
            if (isset($this->on[$k])) {
                [$collider, $pose] = $this->on[$k];
                $yields = $collider->yields(Quaternion::carried($pose[0], $pose[1], $this->places[$k]['local']));
                $this->gives[$node] = max(self::TELLS, $each * $yields);
                $this->firm = $this->firm || $yields <= 0.0;
            }
        }

        return $moves;
    }

    /**
     * Begins a substep: what is fastened goes where it belongs.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px
     * @param array<int, float> $py
     * @param array<int, float> $pz
     */
    public function lead(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz): void
    {
        $poses = [];
        foreach ($this->placeOf as $node => $k) {
            if (! isset($this->on[$k])) {
                $this->at[$node] = [$x[$node], $y[$node], $z[$node]];
                $this->went[$node] = [0.0, 0.0, 0.0];
                continue;
            }
            [$collider, $was] = $this->on[$k];
            $pose = $poses[$collider->name()] ??= $collider->pose();
            [$x[$node], $y[$node], $z[$node]] = $this->at[$node] = Quaternion::carried($pose[0], $pose[1], $this->places[$k]['local']);
            [$px[$node], $py[$node], $pz[$node]] = Quaternion::carried($was[0], $was[1], $this->places[$k]['local']);
            $this->went[$node] = Vector::minus($this->at[$node], [$px[$node], $py[$node], $pz[$node]]);
            $this->on[$k][1] = $pose;
        }
    }

    /**
     * Ends a substep: things feel by how much the cloth has drawn them, and what is fastened is where it belongs again.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param float $mass of the mean vertex, kg
     * @param float $h s
     * @param bool $moves whether the cloth has left its place in the last frame
     * @param bool $held whether anything else holds it
     * @param float $damping of the cloth, 1/s
     */
    public function yield(array &$x, array &$y, array &$z, array $px, array $py, array $pz, float $mass, float $h, bool $moves, bool $held, float $damping): void
    {
        // Only what is held is drawn out by what hangs on it; else this would slow the whole.
        $loses = $held || $this->firm ? ClothTuning::RUBBING * $damping * $h : 0.0;
        $goes = $loses > 0.0 ? Vector::times([array_sum($x) - array_sum($px), array_sum($y) - array_sum($py), array_sum($z) - array_sum($pz)], 1.0 / count($x)) : [0.0, 0.0, 0.0];
        $felt = [];
        foreach ($this->placeOf as $node => $k) {
            $at = $this->at[$node];
            $impulse = Vector::times(Vector::minus([$x[$node], $y[$node], $z[$node]], $at), $mass / ($this->gives[$node] * $h));
            [$x[$node], $y[$node], $z[$node]] = $at;
            $this->pulls[$node] = Vector::plus($this->pulls[$node] ?? [0.0, 0.0, 0.0], $impulse);
            if (isset($this->on[$k])) {
                $name = $this->on[$k][0]->name();
                [, $sum, $moment, $places, $ways, $count] = $felt[$name] ?? [$this->on[$k][0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], 0];
                $felt[$name] = [$this->on[$k][0], Vector::plus($sum, $impulse), Vector::plus($moment, Vector::cross($at, $impulse)), Vector::plus($places, $at), Vector::plus($ways, $this->went[$node]), $count + 1];
            }
        }
        foreach ($felt as [$collider, $impulse, $moment, $places, $ways, $count]) {
            $collider->pull($impulse, $moment, $moves, $h);
            $along = Vector::unit($impulse);
            $place = Vector::times($places, 1.0 / $count);
            $yields = $along === null || $loses <= 0.0 ? 0.0 : $collider->yields($place);
            if ($along !== null && $yields > 0.0) {
                // Cloth rubs in itself as it is drawn out and in: what hangs on it does not spring for ever.
                $speed = Vector::dot(Vector::minus(Vector::times($ways, 1.0 / $count), $goes), $along) / $h;
                $most = self::RUBS * Vector::dot($impulse, $along);
                $rubs = Vector::times($along, -max(-$most, min($most, $loses * $speed / $yields)));
                $collider->pull($rubs, Vector::cross($place, $rubs), $moves, $h);
            }
        }
    }

    /** Ends a step: what was pulled too hard breaks; whether any has. */
    public function end(): bool
    {
        if (array_filter($this->places, static fn (array $place): bool => is_finite($place['strength'])) === []) {
            return false;
        }
        $this->stretch = $this->stretch === [] ? $this->stretches() : $this->stretch;
        $pulls = $bears = [];
        foreach ($this->placeOf as $node => $k) {
            $s = $this->stretch[$k];
            $pulls[$s] = Vector::plus($pulls[$s] ?? [0.0, 0.0, 0.0], $this->pulls[$node] ?? [0.0, 0.0, 0.0]);
            $bears[$s] = ($bears[$s] ?? 0.0) + $this->places[$k]['strength'] * $this->seconds;
        }
        $broken = array_filter($pulls, static fn (array $pull, int $s): bool => Vector::dot($pull, $pull) > $bears[$s] ** 2, ARRAY_FILTER_USE_BOTH);
        foreach ($broken === [] ? [] : $this->placeOf as $k) {
            $this->holds[$k] = ! isset($broken[$this->stretch[$k]]);
        }

        return $broken !== [];
    }

    /** @return array<int, int> of each place, those of one joint that are near each other the same */
    private function stretches(): array
    {
        $stretch = [];
        $number = 0;
        foreach (array_unique(array_column($this->places, 'joint')) as $joint) {
            $own = array_filter($this->places, static fn (array $place): bool => $place['joint'] === $joint);
            $off = array_fill_keys(array_keys($own), INF);
            $next = array_key_first($own);
            for ($count = max(1, min(self::STRETCHES, intdiv(count($own), self::LONG))); $count > 0 && $next !== null; $count--, $number++) {
                foreach ($own as $k => $place) {
                    $far = Vector::distance($place['local'], $own[$next]['local']);
                    if ($far < $off[$k]) {
                        [$off[$k], $stretch[$k]] = [$far, $number];
                    }
                }
                // The next begins where none is near.
                $next = array_search(max([0.0, ...$off]), $off, true) ?: null;
            }
        }

        return $stretch;
    }

    /** What is due by a frame holds no more; whether any was. */
    public function cutBy(float $frame): bool
    {
        $cut = false;
        foreach ($this->places as $k => $place) {
            if ($this->holds[$k] && $place['cut'] !== null && $frame >= $place['cut']) {
                $this->holds[$k] = false;
                $cut = true;
            }
        }

        return $cut;
    }

    /**
     * What is fastened is not loose, and what has come off is.
     *
     * @param list<float> $gone of each vertex, 1: it has been let go
     *
     * @return list<float> the same
     */
    public function loose(array $gone): array
    {
        foreach ([false, true] as $holds) {
            foreach (array_keys($this->holds, $holds, true) as $k) {
                $gone[$this->places[$k]['vertex']] = $holds ? 0.0 : 1.0;
            }
        }

        return array_values($gone);
    }

    /** @return array<int, bool> of each place, whether it holds */
    public function save(): array
    {
        return $this->holds;
    }

    /** @param array<int, bool> $holds as they were saved */
    public function restore(array $holds): void
    {
        $this->holds = $holds;
    }
}
