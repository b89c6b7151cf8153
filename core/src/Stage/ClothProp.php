<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Plane;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\RoundedDrawing;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Cloth\Cloth;
use YardBreak\Core\Motion\Cloth\ClothTuning;
use YardBreak\Core\Motion\Cloth\Crowded;
use YardBreak\Core\Motion\Cloth\Fastening;
use YardBreak\Core\Motion\Cloth\Growth;
use YardBreak\Core\Motion\Cloth\Holding;
use YardBreak\Core\Motion\Cloth\Seams;
use YardBreak\Core\Motion\Cloth\Weave;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\RanAway;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Steps;
use YardBreak\Core\Motion\Surface\Bending;
use YardBreak\Core\Motion\Surface\PlaneContact;
use YardBreak\Core\Motion\Surface\Settling;
use YardBreak\Core\Motion\Surface\Slumber;
use YardBreak\Core\Weight\Samples;

/**
 * A prop that is cloth, its vertices held as {@see HeldParts} says.
 *
 * @phpstan-import-type Pose from Holding
 */
final class ClothProp implements VertexProp
{
    /** Finer ones would not be baked in a night. */
    private const MOST = 60_000;

    /** No cloth gets farther than this from the middle of the world, m. */
    private const REACH = 1e5;

    private int $every = ClothTuning::EVERY;

    /** How fast it may come at anything in these substeps, m/s. */
    private readonly float $calm;

    private Cloth $cloth;

    /** As it is cut, before it is sewn together. */
    private readonly TriangleMesh $cut;

    /** Null: its pieces are not sewn together. */
    private readonly ?Seams $seams;

    /** @var array<int, float> how far each vertex was held when the cloth was put together as it is */
    private array $heldThen;

    /** @var array<int, bool> of each place that it is fastened by, whether it held then */
    private array $fastenedThen;

    /** @var list<PlaneContact> */
    private readonly array $floors;

    /** Whether it has ever grown or been blown up. */
    private bool $swells = false;

    private readonly PieceTiming $timing;

    private readonly HeldParts $held;

    /** @var array{float, Pose} the pose asked for last */
    private array $known;

    private readonly KeyedSize $size;

    /** Null: it is drawn as it is computed. */
    private readonly ?RoundedDrawing $drawing;

    /** Null: it has no shape but its own. */
    private readonly ?OtherRest $other;

    /** Null: it does not play its file. */
    private readonly ?PlayedRest $played;

    /** Null: it is fastened to nothing. */
    private readonly ?Fastening $fastening;

    /**
     * @param list<Plane> $planes
     * @param float $unit length of a substep that all share, s
     *
     * @throws BreakFailed if it cannot be cloth
     */
    public function __construct(private readonly Prop $prop, private readonly ClothSettings $settings, BrokenProp $broken, array $planes, private readonly float $unit, Surfaces $others, private readonly ?Settling $settling = null, ?Fastenings $fastenings = null)
    {
        $this->drawing = $broken->finer > 0 ? RoundedDrawing::of(iterator_to_array($broken->pieces, false), $broken->finer, $broken->hasCore ? 1 : 0) : null;
        $broken = $broken->coarse();
        $mesh = TriangleMesh::together($broken->pieces);
        if ($mesh->vertexCount() > self::MOST) {
            throw new BreakFailed("{$prop->name} has {$mesh->vertexCount()} vertices, too many for cloth. Make its mesh of fewer, even triangles: at most " . self::MOST . ' vertices.');
        }
        $fabric = $settings->fabric;
        $this->timing = new PieceTiming($prop, $broken, $others);
        $places = new Samples(array_values($mesh->x), array_values($mesh->y), array_values($mesh->z));
        $core = $settings->led ? $mesh->vertexCount() : ($broken->hasCore ? $broken->pieces->mesh(0)->vertexCount() : 0);
        $holding = Weighing::held($prop, PropShape::ofPieces($broken, $others));
        $this->held = new HeldParts($this->timing, $places, $holding, $this->timing->weights(...), $core);
        $this->known = [0.0, [[0.0, 0.0, 0.0], Quaternion::IDENTITY, [1.0, 1.0, 1.0]]];
        $this->floors = array_map(static fn (Plane $plane): PlaneContact => new PlaneContact(
            $plane->normal,
            $plane->normal[1] * $plane->height + $fabric->gap,
            sqrt($plane->friction * $fabric->friction),
        ), $planes);
        $this->size = KeyedSize::of($prop, $broken, $this->timing, $holding);
        $this->cut = $mesh->scaled($this->size->made);
        $this->other = $prop->mover->has('likens') ? OtherRest::of($prop, $places, $this->size->made, $others) : null;
        $this->played = PlayedRest::of($prop, $places, $this->size->made, $others);
        $this->seams = $prop->pattern->has('patches') && $this->settings->tears > 0.0 ? Seams::between($this->cut, self::pieceOf($broken), $fabric) : null;
        $this->heldThen = $this->held->now();
        $fastening = $fastenings?->of($prop, $mesh);
        $this->fastening = $fastening === null || $fastening->isEmpty() ? null : $fastening;
        $this->fastenedThen = $this->fastening?->save() ?? [];
        $weave = $this->weave();
        $this->calm = ClothTuning::calm($fabric->feelsItself ? ClothTuning::BALL * $weave->meanEdge() : INF, $unit);
        $this->cloth = $this->put($weave);
    }

    /** @return list<int> piece of each vertex */
    private static function pieceOf(BrokenProp $broken): array
    {
        $of = [];
        foreach ($broken->pieces as $k => $piece) {
            array_push($of, ...array_fill(0, $piece->vertexCount(), $k));
        }

        return $of;
    }

    private function weave(): Weave
    {
        return Weave::of($this->seams?->sewn($this->cut) ?? $this->cut, $this->settings->fabric);
    }

    private function put(Weave $weave): Cloth
    {
        $this->fastening?->settle($this->nodeOf(...));
        $fastened = array_keys($this->fastening?->gives() ?? []);
        $cloth = new Cloth($weave, $this->settings->fabric, $this->floors, $this->every * $this->unit, $this->ofNodes($this->heldThen), $this->pose(1.0), $this->settling, $this->seams, $fastened);
        if ($this->fastening !== null) {
            $cloth->fasten($this->fastening);
        }
        if ($this->other !== null || $this->played !== null) {
            $this->shape($cloth, 1.0, 1.0);
            $cloth->lie($this->pose(1.0));
        }
        $cloth->size($this->size->wanted());

        return $cloth;
    }

    /** Draws it into the other shape as far as its weight has come, without one wholly; and leads what is held where its file has it. */
    private function shape(Cloth $cloth, float $from, float $to): void
    {
        $substeps = intdiv(Steps::SUBSTEPS, $this->every);
        if ($this->other !== null) {
            $was = $this->other->at($from, $this->timing->felt(...));
            $cloth->take($this->byNodes($was), $this->byNodes($this->other->at($to, $this->timing->felt(...))), $substeps);
        }
        if ($this->played !== null) {
            $was = $this->played->at($from);
            $cloth->lead($this->byNodes($was), $this->byNodes($this->played->at($to)), $substeps);
        }
    }

    /**
     * @param array{list<float>, list<float>, list<float>} $places
     *
     * @return array{array<int, float>, array<int, float>, array<int, float>}
     */
    private function byNodes(array $places): array
    {
        return [$this->ofNodes($places[0]), $this->ofNodes($places[1]), $this->ofNodes($places[2])];
    }

    /**
     * Where it comes at nothing fast, half as many substeps hold it as well.
     *
     * @param list<Collider> $others
     * @param float $met how fast another that bends comes at it, m/s
     */
    private function keepPace(array $others, float $met, float $dt): void
    {
        $calm = is_infinite($this->calm) || ($met <= ClothTuning::TOUCHES * $this->calm && $this->cloth->isCalm($this->calm, $others, $dt));
        $this->every = $calm ? ClothTuning::EVERY : 1;
        $this->cloth->pace($this->every * $this->unit);
    }

    /** What has been stretched too far comes apart. */
    private function tear(): void
    {
        $before = $this->seams?->open();
        if ($before !== null) {
            $was = $this->cloth;
            $this->heldThen = $this->held->now();
            $this->fastenedThen = $this->fastening?->save() ?? [];
            $this->cloth = $this->put($this->weave());
            $this->cloth->goOnFrom($was, $before);
        }
    }

    /**
     * @template T
     *
     * @param array<int, T> $ofVertices
     *
     * @return array<int, T> of the nodes that they are sewn together to
     */
    private function ofNodes(array $ofVertices): array
    {
        return $this->seams === null ? $ofVertices : array_map(static fn (int $v): mixed => $ofVertices[$v], $this->seams->vertexOf());
    }

    private function nodeOf(int $vertex): int
    {
        return $this->seams === null ? $vertex : $this->seams->nodes()[$vertex];
    }

    /** Some of what it was fastened by holds no more. */
    private function comeOff(): void
    {
        if ($this->fastening !== null) {
            $this->fastening->settle($this->nodeOf(...));
            $this->cloth->fasten($this->fastening);
        }
    }

    /**
     * @param array<int, float> $ofNodes
     *
     * @return array<int, float>
     */
    private function ofVertices(array $ofNodes): array
    {
        return $this->seams === null ? $ofNodes : array_map(static fn (int $node): float => $ofNodes[$node], $this->seams->nodes());
    }

    public function every(): int
    {
        return $this->every;
    }

    public function count(): int
    {
        return $this->drawing->count ?? $this->cut->vertexCount();
    }

    /** @return Pose where the prop is, and how large against what was woven */
    private function pose(float $frame): array
    {
        if ($this->known[0] !== $frame) {
            $transform = $this->prop->transform;
            $this->known = [$frame, [$transform->positionAt($frame), $transform->rotationAt($frame), $this->size->keyed($frame)]];
        }

        return $this->known[1];
    }

    public function bring(float $frame): void
    {
        $this->held->bring($frame);
        if ($this->fastening?->cutBy($frame) === true) {
            $this->comeOff();
        }
    }

    /**
     * @param int $group what it is to the forces
     * @param list<Collider> $others
     * @param float $met how fast another that bends comes at it in the step, m/s
     */
    public function begin(Forces $forces, int $group, float $from, float $to, float $dt, array $others, float $met): void
    {
        $this->tear();
        $this->keepPace($others, $met, $dt);
        $this->weaken($from);
        $held = $this->held->at($to);
        $this->cloth->holdBy($this->ofNodes($held));
        if ($this->size->changes()) {
            $this->size->follow($to, max([0.0, ...$held]) > 0.0);
            $this->cloth->size($this->size->wanted());
        }
        if ($this->pose($from) !== $this->pose($to)) {
            $this->cloth->slumber->wake();
        }
        [$x, $y, $z] = $this->cloth->axes();
        $pushes = $forces->at($x, $y, $z, array_fill(0, count($x), $group), $from, $dt, fn (): array => array_values($this->ofNodes($this->timing->felt($from))));
        $this->swell($from);
        $this->shape($this->cloth, $from, $to);
        $this->cloth->begin($pushes, $dt, $others, $this->held->feels());
    }

    /** Grows and blows up as far as its weight has come; without one wholly. */
    private function swell(float $frame): void
    {
        if ($this->settings->filling !== null) {
            $this->cloth->fill(0.01 * $this->settings->filling[0]->at($frame), $this->settings->filling[1]);
        }
        $growth = 0.01 * $this->settings->growth->at($frame);
        $pressure = $this->settings->pressure->at($frame);
        if ($growth === 0.0 && $pressure === 0.0 && ! $this->swells) {
            return;
        }
        $this->swells = true;
        $far = array_values($this->ofNodes($this->timing->felt($frame)));
        $this->cloth->grow(new Growth(array_map(static fn (float $share): float => 1.0 + $growth * $share, $far), $this->settings->grain, $this->settings->across));
        $this->cloth->blowUp(array_map(static fn (float $share): float => $pressure * $share, $far));
    }

    public function substep(float $from, float $to): void
    {
        $was = $this->pose($from);
        try {
            $this->cloth->substep($was, $this->pose($to));
        } catch (Crowded) {
            throw new RanAway("{$this->prop->name} cannot be kept apart from itself at frame " . (int) round($from) . ': too much of its cloth lies in one place. Let its pieces lie farther apart, or be fewer, or let it not feel itself.');
        }
    }

    public function end(float $frame, bool $over): void
    {
        $this->strain();
        if ($this->fastening?->end() === true) {
            $this->comeOff();
        }
        $this->cloth->untangle();
        if ($over) {
            $this->cloth->finish();
            if (! $this->bending()->isSane(self::REACH)) {
                throw new RanAway("{$this->prop->name} ran away at frame " . (int) round($frame) . ': its cloth is torn to and fro faster than it can follow. Let what strikes it move more slowly, make its mesh coarser, or give it more damping.');
            }
        }
        $this->held->touched(...[...$this->cloth->fastestTouch(), fn (): array => array_map($this->ofVertices(...), $this->cloth->axes())]);
    }

    /** Seams bear so much from now on. */
    private function weaken(float $frame): void
    {
        $this->seams?->weaken($this->settings->weaker > 0.0 ? array_map(fn (float $weight): float => $this->settings->tears * (1.0 - $this->settings->weaker * $weight), $this->timing->felt($frame)) : array_fill(0, $this->cut->vertexCount(), $this->settings->tears));
    }

    /** Looks where seams are stretched too far; they open when the next step begins. */
    private function strain(): void
    {
        [$x, $y, $z] = $this->cloth->axes();
        $this->seams?->strain($x, $y, $z, $this->cloth->longer(...));
    }

    public function bending(): Bending
    {
        return $this->cloth->bending();
    }

    public function bent(Bending $now): void
    {
        $this->cloth->bent($now);
    }

    public function untangle(): void
    {
        $this->cloth->untangle();
    }

    public function clear(): void
    {
        $this->cloth->clear();
    }

    public function slumber(): Slumber
    {
        return $this->cloth->slumber;
    }

    public function settle(): void
    {
        $this->cloth->settle();
    }

    public function places(): array
    {
        if ($this->seams === null) {
            return $this->cloth->places();
        }
        [$x, $y, $z] = $this->cloth->axes();
        $places = [];
        foreach ($this->seams->nodes() as $node) {
            array_push($places, $x[$node], $y[$node], $z[$node]);
        }

        return $places;
    }

    public function drawn(array $places): array
    {
        return $this->drawing === null ? $places : $this->drawing->places($places);
    }

    public function weights(float $frame): array
    {
        $shown = $this->timing->shown($frame, $this->held->loose());

        return $this->drawing === null ? $shown : $this->drawing->values($shown);
    }

    public function held(): array
    {
        return $this->held->now();
    }

    public function facts(): array
    {
        $gone = $this->fastening?->loose($this->held->gone()) ?? $this->held->gone();

        return ['released' => array_sum($gone) + ($this->seams?->torn() ?? 0), 'kinetic' => $this->settings->led ? 0.0 : $this->cloth->energy()] + $this->held->hardest->take();
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return ['cloth' => $this->cloth->save(), 'every' => $this->every, ...$this->size->save(), ...$this->held->save(), ...$this->other?->save() ?? [], ...$this->fastening === null ? [] : ['fastened' => $this->fastening->save()], ...$this->seams === null ? [] : ['seams' => $this->seams->save() + ['held' => $this->heldThen, 'fastened' => $this->fastenedThen]]];
    }

    public function restore(State $saved): void
    {
        $this->held->restore($saved);
        $this->every = $saved->int('every');
        $this->cloth->pace($this->every * $this->unit);
        $this->size->restore($saved->float('until'));
        if ($this->seams !== null) {
            $seams = $saved->part('seams');
            $this->seams->restore($seams->bools('holds'), $seams->ints('opening'));
            $this->heldThen = $seams->floats('held');
            $this->fastenedThen = $seams->bools('fastened');
            $this->fastening?->restore($this->fastenedThen);
            $this->cloth = $this->put($this->weave());
        }
        if ($this->fastening !== null) {
            $this->fastening->restore($saved->bools('fastened'));
            $this->comeOff();
        }
        $this->cloth->holdBy($this->ofNodes($this->held->now()));
        if ($this->other !== null) {
            $places = $this->byNodes($this->other->restore($saved));
            $this->cloth->take($places, $places, 1);
        }
        $this->cloth->size($this->size->wanted());
        $this->cloth->restore($saved->part('cloth'));
        $this->swells = true;
    }
}
