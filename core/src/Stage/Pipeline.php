<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use LogicException;
use WeakReference;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Joint;
use YardBreak\Core\Document\Plane;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Mesh\Health;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\RememberedSightings;
use YardBreak\Core\Motion\Sightings;
use YardBreak\Core\Motion\Simulation;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Stage\Kind\Source\FlatArt;

/**
 * The stages of a shot, each built on the one before: prop, break, motion.
 *
 * @phpstan-import-type Facts from Health
 */
final class Pipeline
{
    /** Raised when the frames change for the same inputs. */
    private const MOTION = 47;

    public readonly StageRunner $runner;

    /** What weights see of other props. */
    public readonly Surfaces $surfaces;

    /** @var array<string, WeakReference<SourceMesh>> prepared meshes by hash of their stage */
    private array $sources = [];

    public function __construct(StageStore $store, private readonly Assets $assets)
    {
        $this->runner = new StageRunner($store);
        $this->surfaces = new Surfaces($this->prepared(...), $this->preparedHash(...), $this->runner, $assets, $this->broken(...), $this->brokenHash(...));
    }

    public function preparedHash(Prop $prop): string
    {
        return StageRunner::hash(new Prepare($prop, $this->assets));
    }

    /** @throws BadFile */
    public function prepared(Prop $prop): TriangleMesh
    {
        return $this->source($prop)->mesh;
    }

    /**
     * Read once for as long as somebody holds on to it: checks ask dozens of times, and a large mesh takes half a second to read.
     *
     * @throws BadFile
     */
    public function source(Prop $prop): SourceMesh
    {
        $stage = new Prepare($prop, $this->assets);
        $hash = StageRunner::hash($stage);
        $source = ($this->sources[$hash] ?? null)?->get();
        if ($source === null) {
            $source = $this->runner->result($stage);
            $this->sources[$hash] = WeakReference::create($source);
        }

        return $source;
    }

    /**
     * @param array{float, float, float} $scale how many times as large, along each axis
     *
     * @return array{health: Facts, repairs: list<string>|null} and what the repair of the file did, in words; null if it was not asked for
     *
     * @throws BadFile
     */
    public function health(Prop $prop, array $scale = [1.0, 1.0, 1.0]): array
    {
        return $this->runner->result(new PreparedHealth($this->preparedHash($prop), fn (): SourceMesh => $this->source($prop), $scale));
    }

    /**
     * What a slab of flat art shows on its face, as a PNG; null if it shows none.
     *
     * @throws BadFile
     */
    public function facePicture(Prop $prop): ?string
    {
        return $prop->source->has('painted') ? FlatArt::face($prop->source->settings, $this->assets) : null;
    }

    /** @throws BadFile if a picture is missing */
    public function brokenHash(Prop $prop): string
    {
        return StageRunner::hash($this->breaking($prop));
    }

    /**
     * @throws BadFile
     * @throws BreakFailed
     */
    public function broken(Prop $prop, Progress $progress = new Progress()): BrokenProp
    {
        return $this->runner->result($this->breaking($prop), $progress);
    }

    private function breaking(Prop $prop): Breaking
    {
        return new Breaking($prop, $this->preparedHash($prop), fn (): TriangleMesh => $this->prepared($prop), $this->assets, $this->surfaces);
    }

    /**
     * A weight at every vertex of a prop's pieces, at some frames on end.
     *
     * @param string $of "release", "hold" or the id of a further weight
     * @param int|null $layer a source alone
     * @param Surfaces|null $seen for weights that go by how others move; null: they are where their keys put them
     */
    public function weightTrack(Prop $prop, string $of, ?int $layer, int $first, int $count, ?Surfaces $seen = null): WeightTrack
    {
        return new WeightTrack($prop, $of, $layer, $first, $count, $this->brokenHash($prop), fn (): BrokenProp => $this->broken($prop), $seen ?? $this->surfaces);
    }

    /** How many pieces of a prop let go at each frame, as far as that is known before a bake. */
    public function releases(Prop $prop, int $frames, ?Surfaces $seen = null): Releases
    {
        return new Releases($prop, $frames, $this->brokenHash($prop), fn (): BrokenProp => $this->broken($prop), $seen ?? $this->surfaces);
    }

    /** What the weights of a shot see when some of it has been seen to move. */
    public function seeing(Shot $shot, Sightings $sightings): Surfaces
    {
        return $this->surfaces->along($sightings, fn (string $id): BrokenProp => $this->broken($shot->prop($id) ?? throw new LogicException("There is no prop “{$id}”.")));
    }

    /**
     * Of everything that decides the frames: the same hash means the same bytes.
     *
     * @throws BadDocument
     */
    public function motionHash(Shot $shot): string
    {
        $props = array_map(fn (Prop $prop): array => [
            $prop->id,
            $this->brokenHash($prop),
            $prop->transform->inputs(),
            Weighing::inputs($prop, $this->surfaces),
            Kinds::trigger($prop->trigger->kind)::inputs($prop->trigger->settings),
            $prop->mover->kind,
            $prop->mover->settings->inForce(),
            Weighing::inputsOf($prop->held(), $prop, $this->surfaces),
            ...Kinds::goingBy($prop, $this->surfaces),
        ], $shot->props);
        $forces = ShotForces::inputs($shot, $this->surfaces);
        $planes = array_map(static fn (Plane $plane): array => $plane->inputs(), $shot->planes);

        $joints = array_map(static fn (Joint $joint): array => [...$joint->inputs(), $joint->cut], $shot->joints);

        return hash('sha256', 'motion' . self::MOTION . serialize([$shot->fps, $shot->frames, $shot->preRoll, $shot->settleSpeed, $shot->playing->inputs(), $forces, $planes, $props, ...$joints === [] ? [] : [$joints]]));
    }

    /**
     * What moves in a shot, its pieces ready.
     *
     * @param (callable(): void)|null $tick called often; what it throws ends the computation
     *
     * @throws BadFile
     * @throws BreakFailed
     */
    public function motion(Shot $shot, ?callable $tick = null): Simulation
    {
        return $this->acting($shot, $tick)[0];
    }

    /**
     * What moves in a shot, and what acts on it up to each frame.
     *
     * @param (callable(): void)|null $tick
     * @param Sightings $sightings keep what is seen, if any weight goes by it
     *
     * @return array{Simulation, Acting}
     *
     * @throws BadFile
     * @throws BreakFailed
     */
    public function acting(Shot $shot, ?callable $tick = null, Sightings $sightings = new RememberedSightings()): array
    {
        $broken = [];
        $progress = new Progress($tick === null ? null : static fn (string $what, int $done, int $of) => $tick());
        foreach ($shot->props as $prop) {
            $broken[] = $this->broken($prop, $progress);
        }
        $this->runner->runs['motion'] = $this->runner->ran('motion') + 1;

        $seen = array_filter($shot->props, Weighing::goesByMotion(...)) === [] ? null : $sightings;
        $byId = array_combine(array_column($shot->props, 'id'), $broken);
        $surfaces = $seen === null ? $this->surfaces : $this->surfaces->along($seen, static fn (string $id): BrokenProp => $byId[$id]);

        return [
            new Simulation($shot->fps, $shot->frames, $this->movers($shot, $broken, $surfaces), $tick, $seen, $shot->preRoll),
            new Acting($shot, (string) self::MOTION, $broken, $this->surfaces),
        ];
    }

    /**
     * One for each kind that a prop of the shot chose, or for those that belong together, in the order in which they step.
     *
     * @param list<BrokenProp> $broken pieces of the shot's props
     *
     * @return list<Mover>
     *
     * @throws BreakFailed
     */
    private function movers(Shot $shot, array $broken, Surfaces $surfaces): array
    {
        $movers = [];
        foreach (Kinds::movers() as $kind) {
            $own = array_filter($shot->props, static fn (Prop $prop): bool => Kinds::moverOf($prop) === Kinds::mover($kind));
            if ($own !== []) {
                $mover = Kinds::mover($kind)::make($shot, array_values($own), array_values(array_intersect_key($broken, $own)), $surfaces);
                // All that bends is one mover's, so that it meets itself.
                $last = $movers === [] ? null : $movers[count($movers) - 1];
                if ($mover instanceof VertexMover && $last instanceof VertexMover) {
                    $movers[count($movers) - 1] = $last->joined($mover);
                } else {
                    $movers[] = $mover;
                }
            }
        }

        return $movers;
    }

    /**
     * Computes the frames, one by one.
     *
     * @return iterable<int, Frame> by frame number; those before 1 are of the pre-roll
     *
     * @throws BadFile
     * @throws BreakFailed
     */
    public function frames(Shot $shot): iterable
    {
        return $this->motion($shot)->frames();
    }
}
