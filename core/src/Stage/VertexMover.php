<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Motion\Bends;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Steps;
use YardBreak\Core\Motion\Surface\Bending;
use YardBreak\Core\Motion\Surface\BendingContact;
use YardBreak\Core\Motion\Surface\CrossedSurfaces;
use YardBreak\Core\Motion\Surface\Edges;
use YardBreak\Core\Motion\Surface\Settling;
use YardBreak\Core\Motion\Track;

/** Props of a shot whose vertices move. They take their substeps after those whose surfaces they touch. */
final class VertexMover implements Mover, Bends
{
    /** How often two are pushed apart in a substep, or drawn apart at a frame's end, at the most: what is soft gets only part of the way, since its inside holds it back ... */
    private const TURNS = 4;

    /** ... and how near they must have got, in gaps, to be left alone. */
    private const OUT = 0.25;

    private readonly Forces $forces;

    private float $from = 1.0;

    private float $to = 1.0;

    /** @var array<int, list<float>> places of the props' vertices in the frame written last */
    private array $shown = [];

    /** @var array<int, Edges> of each prop that has met another */
    private array $edges = [];

    /** @var list<array{int, int, BendingContact}> between its props, for the step under way */
    private array $contacts = [];

    /**
     * @param list<Prop> $own the props it moves
     * @param list<VertexProp> $props what moves them
     */
    public function __construct(private readonly Shot $shot, private readonly array $own, private readonly array $props, private readonly Surfaces $others)
    {
        $this->forces = ShotForces::on($shot, $own, $others);
    }

    /** Both as one, so that their props meet each other. */
    public function joined(self $other): self
    {
        return new self($this->shot, [...$this->own, ...$other->own], [...$this->props, ...$other->props], $this->others);
    }

    /** Length of a substep that all movers share, s. */
    public static function substepOf(Shot $shot): float
    {
        return 1.0 / ($shot->fps * Steps::aFrame($shot->fps) * Steps::SUBSTEPS);
    }

    public static function settling(Shot $shot): Settling
    {
        return Settling::below($shot->settleSpeed, $shot->fps);
    }

    public function tracks(): array
    {
        $tracks = [];
        foreach ($this->own as $k => $prop) {
            foreach ([Track::VERTICES, Track::WEIGHT] as $kind) {
                $tracks[] = new Track($prop->id, $kind, $this->props[$k]->count());
            }
        }

        return $tracks;
    }

    public function release(float $frame): void
    {
        foreach ($this->props as $prop) {
            $prop->bring($frame);
        }
    }

    public function colliders(): array
    {
        return [];
    }

    public function surfaces(): array
    {
        $surfaces = [];
        foreach ($this->props as $k => $prop) {
            $surfaces["bending {$this->own[$k]->id}"] = $prop->bending(...);
        }

        return $surfaces;
    }

    public function meet(array $others): void
    {
    }

    public function drive(float $from, float $to, float $dt): void
    {
    }

    public function begin(float $from, float $to, float $dt, Closure $others): void
    {
        [$this->from, $this->to] = [$from, $to];
        $colliders = $others();
        $this->rouse($dt);
        $met = $this->meetings($dt);
        foreach ($this->props as $k => $prop) {
            $prop->begin($this->forces, $k, $from, $to, $dt, $colliders, $met[$k] ?? 0.0);
        }
        $this->contacts = count($this->props) > 1 ? $this->between(array_map(static fn (VertexProp $prop): Bending => $prop->bending(), $this->props), $dt) : [];
    }

    /** What sleeps wakes where another comes near that moves. */
    private function rouse(float $dt): void
    {
        foreach ($this->props as $sleeper) {
            if (! $sleeper->slumber()->hasSleepers()) {
                continue;
            }
            foreach ($this->props as $other) {
                if ($other !== $sleeper && $other->slumber()->isLively()) {
                    $surface = $other->bending();
                    $sleeper->slumber()->stir($surface->box(), $surface->gap + $surface->travel($dt));
                }
            }
        }
    }

    /**
     * @param float $dt s
     *
     * @return array<int, float> of each prop that another may touch in the step, how fast the two come at each other at the most, m/s
     */
    private function meetings(float $dt): array
    {
        $met = [];
        $surfaces = count($this->props) > 1 ? array_map(static fn (VertexProp $prop): Bending => $prop->bending(), $this->props) : [];
        $travel = array_map(static fn (Bending $surface): float => $surface->travel($dt), $surfaces);
        $boxes = array_map(static fn (Bending $surface): array => $surface->box(), $surfaces);
        foreach ($surfaces as $i => $one) {
            for ($j = 0; $j < $i; $j++) {
                $both = $travel[$i] + $travel[$j];
                if (self::apart($boxes[$i], $boxes[$j]) <= max($one->gap, $surfaces[$j]->gap) + $both) {
                    $met[$i] = max($met[$i] ?? 0.0, $both / $dt);
                    $met[$j] = max($met[$j] ?? 0.0, $both / $dt);
                }
            }
        }

        return $met;
    }

    /**
     * @param array{float, float, float, float, float, float} $one low corner, high corner
     * @param array{float, float, float, float, float, float} $other
     *
     * @return float how far two boxes are apart along the axis along which they are most, m; 0: they overlap
     */
    private static function apart(array $one, array $other): float
    {
        return max(0.0, $other[0] - $one[3], $one[0] - $other[3], $other[1] - $one[4], $one[1] - $other[4], $other[2] - $one[5], $one[2] - $other[5]);
    }

    /**
     * @param list<Bending> $surfaces
     * @param float $dt s
     *
     * @return list<array{int, int, BendingContact}> numbers of the one and of the other
     */
    private function between(array $surfaces, float $dt): array
    {
        $contacts = $trees = $means = [];
        $travel = array_map(static fn (Bending $surface): float => $surface->travel($dt), $surfaces);
        $boxes = array_map(static fn (Bending $surface): array => $surface->box(), $surfaces);
        $sleep = array_map(static fn (VertexProp $prop): bool => $prop->slumber()->isWhole(), $this->props);
        foreach ($surfaces as $i => $one) {
            foreach ($surfaces as $j => $other) {
                $reach = $travel[$i] + $travel[$j];
                if ($i === $j || ($sleep[$i] && $sleep[$j]) || self::apart($boxes[$i], $boxes[$j]) > max($one->gap, $other->gap) + $reach) {
                    continue;
                }
                $trees[$j] ??= $other->tree();
                $means[$j] ??= $this->edges($j, $other)->mean($other);
                $contact = BendingContact::of($one, $other, $this->edges($i, $one), $means[$j], $trees[$j], $reach);
                array_push($contacts, ...($contact === null ? [] : [[$i, $j, $contact]]));
            }
        }

        return $contacts;
    }

    private function edges(int $k, Bending $surface): Edges
    {
        // They hang together otherwise once something is torn.
        if (($this->edges[$k] ?? null)?->triangles !== $surface->triangles) {
            $this->edges[$k] = Edges::of($surface->triangles);
        }

        return $this->edges[$k];
    }

    public function substep(int $number): void
    {
        $at = fn (int $substep): float => $this->from + ($this->to - $this->from) * $substep / Steps::SUBSTEPS;
        foreach ($this->props as $prop) {
            if (($number + 1) % $prop->every() === 0) {
                $prop->substep($at($number + 1 - $prop->every()), $at($number + 1));
            }
        }
        foreach ($this->contacts as [$i, $j, $contact]) {
            // When both have just taken one of theirs.
            if (($number + 1) % max($this->props[$i]->every(), $this->props[$j]->every()) === 0) {
                $this->part($this->props[$i], $this->props[$j], $contact, true);
            }
        }
    }

    private function part(VertexProp $one, VertexProp $other, BendingContact $contact, bool $rubs): void
    {
        for ($again = 0; $again < self::TURNS; $again++) {
            [$a, $b] = [$one->bending(), $other->bending()];
            $deep = $contact->resolve($a, $b, $rubs);
            if ($deep <= 0.0) {
                return;
            }
            $one->bent($a);
            $other->bent($b);
            if ($deep < self::OUT * max($a->gap, $b->gap)) {
                return;
            }
        }
    }

    public function end(bool $over): void
    {
        foreach ($this->props as $prop) {
            $prop->end($this->to, $over);
        }
        // What came through itself is drawn back, and at a frame's end lengths are put right: nothing may be drawn through others by that.
        foreach ($this->contacts as [$i, $j, $contact]) {
            $this->part($this->props[$i], $this->props[$j], $contact, false);
        }
        if ($over) {
            $this->uncross();
            foreach (array_unique([...array_column($this->contacts, 0), ...array_column($this->contacts, 1)]) as $i) {
                $this->props[$i]->clear();
            }
            foreach ($this->props as $prop) {
                $prop->settle();
            }
        }
    }

    /** What is still through others at a frame's end is drawn out of them; that may draw it into itself. */
    private function uncross(): void
    {
        $met = [];
        foreach ($this->contacts as [$i, $j]) {
            $met[min($i, $j)][max($i, $j)] = true;
        }
        $before = array_fill_keys(array_keys($this->props), true);
        for ($turn = 0; $turn < self::TURNS; $turn++) {
            $moved = [];
            foreach ($met as $i => $others) {
                foreach ($others as $j => $_) {
                    // Two that have stayed where they were are as far apart as they were found to be.
                    $looked = isset($before[$i]) || isset($before[$j]) || isset($moved[$i]) || isset($moved[$j]);
                    $moved += $looked && $this->drawnApart($i, $j) ? [$i => true, $j => true] : [];
                }
            }
            $before = $moved;
            if ($moved === []) {
                return;
            }
            foreach ($moved as $k => $_) {
                $this->props[$k]->untangle();
            }
        }
    }

    private function drawnApart(int $i, int $j): bool
    {
        [$one, $other] = [$this->props[$i], $this->props[$j]];
        [$a, $b] = [$one->bending(), $other->bending()];
        $crossed = CrossedSurfaces::part($a, $b, min($this->edges($i, $a)->mean($a), $this->edges($j, $b)->mean($b)));
        if ($crossed) {
            $one->bent($a);
            $other->bent($b);
        }

        return $crossed;
    }

    public function write(float $frame): array
    {
        $values = [];
        $readouts = [];
        foreach ($this->props as $k => $prop) {
            $places = $prop->places();
            array_push($values, $prop->drawn($places), $prop->weights($frame));
            $moving = self::moved($this->shown[$k] ?? $places, $places, $prop->held(), $this->shot->settleSpeed / $this->shot->fps);
            $readouts[] = ['moving' => $moving] + $prop->facts();
            $this->shown[$k] = $places;
        }

        return [$values, Frame::together($readouts)];
    }

    /**
     * How many vertices have moved from frame to frame: what lies on something goes to and fro within a step, and yet rests.
     *
     * @param list<float> $before three numbers a vertex
     * @param list<float> $now
     * @param array<int, float> $held what is held wholly does not count
     * @param float $far m
     */
    private static function moved(array $before, array $now, array $held, float $far): float
    {
        $moved = 0;
        $limit = $far * $far;
        foreach (array_values($held) as $v => $share) {
            $k = 3 * $v;
            $square = ($now[$k] - $before[$k]) ** 2 + ($now[$k + 1] - $before[$k + 1]) ** 2 + ($now[$k + 2] - $before[$k + 2]) ** 2;
            $moved += $share < 1.0 && $square > $limit ? 1 : 0;
        }

        return (float) $moved;
    }

    public function save(): string
    {
        return State::pack(['props' => array_map(static fn (VertexProp $prop): array => $prop->save(), $this->props)]);
    }

    public function restore(string $state): void
    {
        foreach (State::read($state)->parts('props') as $k => $prop) {
            $this->props[$k]->restore($prop);
            $this->shown[$k] = $this->props[$k]->places();
        }
    }
}
