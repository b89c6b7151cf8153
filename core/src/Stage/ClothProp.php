<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Plane;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Cloth\Cloth;
use YardBreak\Core\Motion\Cloth\ClothTuning;
use YardBreak\Core\Motion\Cloth\Fabric;
use YardBreak\Core\Motion\Cloth\Holding;
use YardBreak\Core\Motion\Cloth\Weave;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\RanAway;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Surface\PlaneContact;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/**
 * A prop that is cloth. Each vertex is held as far as its hold says, times what its weight has left of it: at no weight as far
 * as ever, at the threshold not at all. Triggers without a weight let go of it at once.
 *
 * @phpstan-import-type Pose from Holding
 */
final class ClothProp
{
    /** Finer ones would not be baked in a night. */
    private const MOST = 60_000;

    /** No cloth gets farther than this from the middle of the world, m. */
    private const REACH = 1e5;

    /** It takes each so-manieth of the substeps that all share. */
    public readonly int $every;

    private readonly Cloth $cloth;

    private readonly Animated $growth;

    private readonly Animated $pressure;

    /** Whether it has ever grown or been blown up. */
    private bool $swells = false;

    private readonly PieceTiming $timing;

    private readonly WeightSource $holding;

    private readonly Samples $places;

    /** @var list<float>|null of each vertex; null: it does not go by the weight */
    private readonly ?array $thresholds;

    /** @var array<int, bool> of each vertex, where something else than the weight lets go */
    private array $loose = [];

    /** @var array<int, float> how far each vertex is held now */
    private array $hold;

    /** @var list<int> vertices that are held at the first frame */
    private array $held = [];

    /** Vertices of a core never let go. */
    private readonly int $core;

    /** @var array{float, Pose} the pose asked for last */
    private array $known;

    /** @var array{float, float, float} scale of the prop at the first frame */
    private readonly array $woven;

    /**
     * @param list<Plane> $planes
     * @param float $h length of a substep that all share, s
     *
     * @throws BreakFailed if it cannot be cloth
     */
    public function __construct(private readonly Prop $prop, BrokenProp $broken, array $planes, float $h, Surfaces $others)
    {
        $settings = $prop->mover->settings;
        $mesh = TriangleMesh::together($broken->pieces);
        if ($mesh->vertexCount() > self::MOST) {
            throw new BreakFailed("{$prop->name} has {$mesh->vertexCount()} vertices, too many for cloth. Make its mesh of fewer, even triangles: at most " . self::MOST . ' vertices.');
        }
        $mass = 0.001 * $settings->float('mass');
        $fabric = new Fabric(
            $mass,
            Fabric::PULL / (0.01 * $settings->float('stretch')),
            $settings->float('shear'),
            Fabric::rigidity($mass, $settings->float('overhang')),
            $settings->float('damping'),
            $settings->float('drag'),
            $settings->float('friction'),
            $settings->float('gap'),
            $settings->bool('feelsItself'),
        );
        $this->growth = $settings->animated('growth');
        $this->pressure = $settings->animated('pressure');
        $this->core = $broken->hasCore ? $broken->pieces->mesh(0)->vertexCount() : 0;
        $this->timing = new PieceTiming($prop, $broken, $others);
        $this->thresholds = $this->timing->thresholds($mesh->vertexCount());
        $this->places = new Samples(array_values($mesh->x), array_values($mesh->y), array_values($mesh->z));
        $this->holding = Weighing::held($prop, PropShape::of($mesh, $others));
        $this->loose = array_fill(0, $mesh->vertexCount(), false);
        $this->known = [0.0, [[0.0, 0.0, 0.0], Quaternion::IDENTITY, [1.0, 1.0, 1.0]]];
        $contacts = array_map(static fn (Plane $plane): PlaneContact => new PlaneContact(
            $plane->normal,
            $plane->normal[1] * $plane->height + $fabric->gap,
            sqrt($plane->friction * $fabric->friction),
        ), $planes);
        $this->hold = $this->heldAt(1.0);
        $this->held = array_keys(array_filter($this->hold, static fn (float $held): bool => $held > 0.0));
        // It is woven at the size it has at first; keyed after that, what is held is drawn wider or closer.
        $this->woven = $prop->transform->scaleAt(1.0);
        $weave = Weave::of($mesh->scaled($this->woven), $fabric);
        $this->every = ClothTuning::every($fabric->feelsItself ? ClothTuning::BALL * $weave->meanEdge() : INF, $h);
        $this->cloth = new Cloth($weave, $fabric, $contacts, $this->every * $h, $this->hold, $this->pose(1.0));
    }

    public function count(): int
    {
        return count($this->loose);
    }

    /** @return list<float> how far each vertex is held at a frame, 0 to 1 */
    private function heldAt(float $frame): array
    {
        $held = array_map(static fn (float $share): float => $share < 0.0 ? 0.0 : ($share > 1.0 ? 1.0 : $share), $this->holding->evaluate($this->places, $frame));
        if ($this->thresholds !== null) {
            foreach ($this->timing->weights($frame) as $i => $weight) {
                $left = 1.0 - $weight / $this->thresholds[$i];
                $held[$i] *= $left <= 0.0 ? 0.0 : ($left > 1.0 ? 1.0 : $left);
            }
        } else {
            foreach ($this->loose as $i => $loose) {
                $held[$i] = $loose ? 0.0 : $held[$i];
            }
        }
        for ($i = 0; $i < $this->core; $i++) {
            $held[$i] = 1.0;
        }

        return array_values($held);
    }

    /** @return Pose where the prop is, and how large against what was woven */
    private function pose(float $frame): array
    {
        if ($this->known[0] !== $frame) {
            $transform = $this->prop->transform;
            [$sx, $sy, $sz] = $transform->scaleAt($frame);
            [$wx, $wy, $wz] = $this->woven;
            $this->known = [$frame, [$transform->positionAt($frame), $transform->rotationAt($frame), [$sx / $wx, $sy / $wy, $sz / $wz]]];
        }

        return $this->known[1];
    }

    /** What is due by a frame lets go. */
    public function bring(float $frame): void
    {
        if ($this->thresholds === null) {
            $due = $this->timing->due($frame, array_keys($this->loose, false, true));
            if ($due !== []) {
                $this->letGo($due);
                $this->hold = $this->heldAt($frame);
            }
        }
    }

    /** @param list<int> $vertices */
    private function letGo(array $vertices): void
    {
        foreach ($vertices as $i) {
            $this->loose[$i] = $i >= $this->core;
        }
    }

    /**
     * @param int $group what it is to the forces
     * @param list<Collider> $others
     */
    public function begin(Forces $forces, int $group, float $from, float $to, float $dt, array $others): void
    {
        $this->hold = $this->heldAt($to);
        $this->cloth->holdBy($this->hold);
        $feels = $this->timing->trigger->touchSpeed() !== null && in_array(false, $this->loose, true);
        [$x, $y, $z] = $this->cloth->axes();
        $pushes = $forces->at($x, $y, $z, array_fill(0, count($x), $group), $from, $dt, fn (): array => $this->timing->felt($from));
        $this->swell($from);
        $this->cloth->begin($pushes, $dt, $others, $feels);
    }

    /** Grows and blows up as far as its weight has come; without one wholly. */
    private function swell(float $frame): void
    {
        $growth = 0.01 * $this->growth->at($frame);
        $pressure = $this->pressure->at($frame);
        if ($growth === 0.0 && $pressure === 0.0 && ! $this->swells) {
            return;
        }
        $this->swells = true;
        $far = $this->timing->felt($frame);
        $this->cloth->grow(array_map(static fn (float $share): float => 1.0 + $growth * $share, $far));
        $this->cloth->blowUp(array_map(static fn (float $share): float => $pressure * $share, $far));
    }

    public function substep(float $from, float $to): void
    {
        $was = $this->pose($from);
        $this->cloth->substep($was, $this->pose($to));
    }

    /** @throws RanAway */
    public function end(float $frame): void
    {
        if (abs($frame - round($frame)) < 1e-9) {
            $this->cloth->finish();
            if (! $this->cloth->isSane(self::REACH)) {
                throw new RanAway("{$this->prop->name} ran away at frame " . (int) round($frame) . ': its cloth is torn to and fro faster than it can follow. Let what strikes it move more slowly, make its mesh coarser, or give it more damping.');
            }
        }
        $speed = $this->timing->trigger->touchSpeed();
        if ($speed === null) {
            return;
        }
        [$fastest, $at] = $this->cloth->fastestTouch();
        if ($fastest > 0.0 && $fastest >= $speed) {
            $this->touched($at);
        }
    }

    /** @param array{float, float, float} $at where it was struck */
    private function touched(array $at): void
    {
        $within = $this->timing->trigger->touchReach();
        $places = $this->cloth->places();
        $now = [];
        foreach (array_keys($this->loose, false, true) as $i) {
            $far = sqrt(($places[3 * $i] - $at[0]) ** 2 + ($places[3 * $i + 1] - $at[1]) ** 2 + ($places[3 * $i + 2] - $at[2]) ** 2);
            if ($within <= 0.0 || $far <= $within) {
                $now[] = $i;
            }
        }
        $this->letGo($now);
    }

    /** @return list<float> three numbers a vertex */
    public function places(): array
    {
        return $this->cloth->places();
    }

    /** @return list<float> of each vertex, 0 to 1 */
    public function weights(float $frame): array
    {
        return $this->timing->shown($frame, array_map(static fn (bool $loose): float => $loose ? 1.0 : 0.0, array_values($this->loose)));
    }

    /** @return array{released: float, moving: float, kinetic: float} vertices that were held and are not, vertices that move, energy in J */
    public function facts(float $settleSpeed): array
    {
        [$moving, $kinetic] = $this->cloth->facts($settleSpeed);
        $released = 0;
        foreach ($this->held as $i) {
            $released += $this->hold[$i] <= 0.0 ? 1 : 0;
        }

        return ['released' => (float) $released, 'moving' => (float) $moving, 'kinetic' => $kinetic];
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return ['cloth' => $this->cloth->save(), 'loose' => $this->loose, 'hold' => $this->hold];
    }

    public function restore(State $saved): void
    {
        $this->loose = $saved->bools('loose');
        $this->hold = $saved->floats('hold');
        $this->cloth->holdBy($this->hold);
        $this->cloth->restore($saved->part('cloth'));
        $this->swells = true;
    }
}
