<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Surface\CoreContact;
use YardBreak\Core\Motion\Surface\SurfaceContact;
use YardBreak\Core\Motion\Touch;

/**
 * What is held wholly is firm: what presses on it is stopped there, and pushed along where it is moved.
 *
 * A place is where it is pressed, m, the way in which, unit, how far what holds it went in the last substep, m, and how deep the thing is
 * in it there, m; less than nothing: how far it is from touching.
 *
 * @phpstan-type Place array{array{float, float, float}, array{float, float, float}, array{float, float, float}, float}
 */
final class Firm
{
    /** How often all places are gone through in a substep, until they agree: stopped at one, a thing turns into the next. */
    private const TURNS = 6;

    /** @var array<int, mixed> vertices that somebody holds wholly */
    private array $held = [];

    /** Whether they are the skin of something solid. */
    private bool $closed = false;

    /** Length of a substep, s. */
    private float $h = 0.0;

    /** @var list<Corners> of the step under way */
    private array $corners = [];

    public function __construct(private readonly Weave $weave, private readonly Fabric $fabric)
    {
    }

    /**
     * @param array<int, mixed> $held vertices that somebody holds wholly, and who does gives way to nothing
     * @param bool $closed whether they are the skin of something solid
     */
    public function hold(array $held, bool $closed): void
    {
        [$this->held, $this->closed] = [$held, $closed];
    }

    /** @param list<int> $vertices */
    public function holds(array $vertices): bool
    {
        foreach ($vertices as $i) {
            if (! isset($this->held[$i])) {
                return false;
            }
        }

        return true;
    }

    public function isEmpty(): bool
    {
        return $this->held === [];
    }

    /**
     * A step begins.
     *
     * @param float $h length of its substeps, s
     */
    public function begin(float $h): void
    {
        $this->h = $h;
        $this->corners = [];
    }

    /**
     * Something may come at it in the step.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, list<int>> $around by vertex, where the triangles at it begin
     * @param list<int> $near vertices that it may come near
     * @param float $reach how far both may come towards each other in the step, m
     * @param float $soon and in a substep, m
     */
    public function expect(Collider $collider, array $x, array $y, array $z, array $around, array $near, float $reach, float $soon): void
    {
        if ($this->held !== [] && $collider->feels()) {
            $corners = Corners::of($collider, $x, $y, $z, $this->weave->triangles, $around, $near, $this->held, $this->closed, $this->fabric->gap, $reach, $soon);
            array_push($this->corners, ...($corners === null ? [] : [$corners]));
        }
    }

    /**
     * What presses on it goes no farther.
     *
     * @param list<SurfaceContact|CoreContact> $contacts that know which vertices are in what
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is places of all vertices, m
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was a substep before
     */
    public function stop(array $contacts, array $is, array $was): void
    {
        $colliders = $places = [];
        foreach ($contacts as $contact) {
            foreach (array_intersect_key($contact->firm(), $this->held) as $i => [$way, $deep]) {
                $colliders[$name = $contact->collider()->name()] = $contact->collider();
                $places[$name][] = [[$is[0][$i], $is[1][$i], $is[2][$i]], $way, [$is[0][$i] - $was[0][$i], $is[1][$i] - $was[1][$i], $is[2][$i] - $was[2][$i]], $deep];
            }
        }
        foreach ($this->corners as $corners) {
            $found = $corners->places($is, $was);
            if ($found !== []) {
                $colliders[$name = $corners->collider()->name()] = $corners->collider();
                $places[$name] = [...$places[$name] ?? [], ...$found];
            }
        }
        foreach ($colliders as $name => $collider) {
            $this->stopAt($collider, $places[$name] ?? []);
        }
    }

    /** @param list<Place> $places */
    private function stopAt(Collider $collider, array $places): void
    {
        $moves = $touches = false;
        $most = [];
        foreach ($places as [$place, [$a, $b, $c], $goes, $deep]) {
            $moves = $moves || $goes !== [0.0, 0.0, 0.0];
            $touches = $touches || $deep > 0.0;
            $speed = ($a * $goes[0] + $b * $goes[1] + $c * $goes[2]) / $this->h;
            $collider->meet($place, [$a, $b, $c], $speed, max(0.0, -$deep) / $this->h);
            $most[] = $speed - min(ClothTuning::DRAWN_BACK, $deep / ($deep > 0.0 ? ClothTuning::STOPS_IN * $this->h : $this->h));
        }
        if ($touches) {
            $collider->push($moves ? new Touch([0.0, 0.0, 0.0], [0.0, 0.0, 0.0], 0.0, true) : Touch::still());
        }
        $friction = sqrt($this->fabric->friction * $collider->friction());
        $sum = 0.0;
        for ($turn = 0; $turn < self::TURNS; $turn++) {
            $taken = 0.0;
            foreach ($places as $k => [$place, $way]) {
                $taken += $collider->stop($place, $way, $most[$k], $friction, INF);
            }
            $sum += $taken;
            if ($taken <= 0.0) {
                break;
            }
        }
        if ($sum > 0.0) {
            $collider->bear($sum / $this->h);
        }
    }
}
