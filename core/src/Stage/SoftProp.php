<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Plane;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Mesh\EdgeSplit;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Cloth\Crowded;
use YardBreak\Core\Motion\Cloth\Fastening;
use YardBreak\Core\Motion\Cloth\Holding;
use YardBreak\Core\Motion\RanAway;
use YardBreak\Core\Motion\Soft\Lattice;
use YardBreak\Core\Motion\Soft\Matter;
use YardBreak\Core\Motion\Soft\SoftBody;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Steps;
use YardBreak\Core\Motion\Surface\Bending;
use YardBreak\Core\Motion\Surface\PlaneContact;
use YardBreak\Core\Motion\Surface\Settling;
use YardBreak\Core\Motion\Surface\Slumber;
use YardBreak\Core\Weight\Samples;

/**
 * A prop that is soft all through: its pieces in a lattice, whose nodes are held as {@see HeldParts} says.
 *
 * @phpstan-import-type Pose from Holding
 */
final class SoftProp implements VertexProp
{
    private const MOST = 60_000;

    /** More boxes would not be baked in a night. */
    private const MOST_BOXES = 30_000;

    /** No body gets farther than this from the middle of the world, m. */
    private const REACH = 1e5;

    /** A wave in it must not get farther in a substep than so many boxes: else a stiff body gives more than it should. */
    private const WAVE = 0.5;

    /** Places of the surface that touch what it meets are no farther from each other, in boxes: between them small things would slip in. */
    private const CLOSE = 1.5;

    /** Parts of a substep at the most. */
    private const PARTS = 6;

    private readonly SoftBody $body;

    private readonly PieceTiming $timing;

    private readonly HeldParts $held;

    private readonly Samples $nodes;

    private readonly Animated $growth;

    private readonly float $softer;

    /** Parts each shared substep is taken in. */
    private readonly int $parts;

    private readonly int $count;

    /** Null: it has no shape but its own. */
    private readonly ?SoftRest $other;

    private readonly KeyedSize $size;

    /** Null: it is fastened to nothing. */
    private readonly ?Fastening $fastening;

    /**
     * @param list<Plane> $planes
     * @param float $h length of a substep that all share, s
     *
     * @throws BreakFailed if it cannot be soft
     */
    public function __construct(private readonly Prop $prop, BrokenProp $broken, array $planes, float $h, Surfaces $others, ?Settling $settling = null, ?Fastenings $fastenings = null)
    {
        $settings = $prop->mover->settings;
        $this->timing = new PieceTiming($prop, $broken, $others);
        $holding = Weighing::held($prop, PropShape::ofPieces($broken, $others));
        $this->size = KeyedSize::of($prop, $broken, $this->timing, $holding);
        $pieces = [];
        foreach ($broken->pieces as $number => $mesh) {
            if ($broken->mass[$number]->volume <= 0.0) {
                throw new BreakFailed("{$prop->name} has pieces without an inside, which cannot be soft all through. Close its mesh, give its flakes a thickness, or let it move as cloth.");
            }
            $pieces[] = $mesh->scaled($this->size->made);
        }
        $this->count = array_sum(array_map(static fn (TriangleMesh $mesh): int => $mesh->vertexCount(), $pieces));
        if ($this->count > self::MOST) {
            throw new BreakFailed("{$prop->name} has {$this->count} vertices, too many to be soft. Make its mesh of fewer triangles: at most " . self::MOST . ' vertices.');
        }
        $matter = new Matter(
            $settings->float('density'),
            1000.0 * $settings->float('stiffness'),
            $settings->float('poisson'),
            $settings->float('damping'),
            $settings->float('drag'),
            $settings->float('friction'),
            $settings->float('gap'),
            $settings->bool('feelsItself'),
        );
        [$low, $high] = TriangleMesh::together($pieces)->bounds();
        $side = max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]) / $settings->int('fineness');
        [$fine, $drawn] = self::fine($pieces, $side);
        $lattice = Lattice::of($fine, $side);
        if ($lattice->boxes() > self::MOST_BOXES) {
            throw new BreakFailed("{$prop->name} would be {$lattice->boxes()} boxes, more than " . self::MOST_BOXES . ', so that it would not be baked in a night. Make it less fine.');
        }
        $this->parts = max(1, min(self::PARTS, (int) ceil(sqrt($matter->young / $matter->density) * $h / (self::WAVE * $side) - 1e-9)));
        $this->growth = $settings->animated('growth');
        $this->softer = $settings->float('softer');
        [$a, $b, $c] = $this->size->made;
        $this->nodes = new Samples(array_map(static fn (float $x): float => $x / $a, $lattice->x), array_map(static fn (float $y): float => $y / $b, $lattice->y), array_map(static fn (float $z): float => $z / $c, $lattice->z));
        $core = $broken->hasCore ? count(array_keys($lattice->piece, 0, true)) : 0;
        $this->held = new HeldParts($this->timing, $this->nodes, $holding, $this->weightsAt(...), $core, $prop->startsFree());
        $contacts = array_map(static fn (Plane $plane): PlaneContact => new PlaneContact(
            $plane->normal,
            $plane->normal[1] * $plane->height + $matter->gap,
            sqrt($plane->friction * $matter->friction),
        ), $planes);
        $surface = TriangleMesh::together($fine);
        $this->other = $prop->mover->has('likens') ? SoftRest::of($prop, $lattice, $surface, $this->nodes, $this->size->made, $others) : null;
        $this->body = new SoftBody($lattice, $surface, $drawn, $matter, $contacts, $h / $this->parts, $this->held->now(), $this->pose(1.0), $settling);
        if ($this->other !== null) {
            $this->shape(1.0, 1.0);
            $this->body->lie($this->pose(1.0));
        }
        $this->body->size($this->size->wanted());
        $corners = array_chunk($lattice->corners, 8);
        $fastening = $fastenings?->of($prop, $surface->scaled([1.0 / $a, 1.0 / $b, 1.0 / $c]), $this->nodes, static fn (int $vertex): array => $corners[$lattice->box[$vertex]] ?? []);
        $this->fastening = $fastening === null || $fastening->isEmpty() ? null : $fastening;
        $this->comeOff();
    }

    /** It is fastened by what still holds. */
    private function comeOff(): void
    {
        if ($this->fastening !== null) {
            $this->fastening->settle();
            $this->body->fasten($this->fastening);
        }
    }

    /** Draws it into the other shape as far as its weight has come; without one wholly. */
    private function shape(float $from, float $to): void
    {
        if ($this->other !== null) {
            $was = $this->other->nodesAt($from, $this->felt(...));
            [$is, $relief] = $this->other->at($to, $this->felt(...));
            $this->body->take($was, $is, $relief, Steps::SUBSTEPS * $this->parts);
        }
    }

    /**
     * @param list<TriangleMesh> $pieces
     *
     * @return array{list<TriangleMesh>, list<int>} with edges as short as boxes are about, and which of all their vertices were there before
     */
    private static function fine(array $pieces, float $side): array
    {
        $fine = $drawn = [];
        $first = 0;
        foreach ($pieces as $mesh) {
            $fine[] = $split = EdgeSplit::of($mesh, self::CLOSE * $side);
            array_push($drawn, ...($mesh->vertexCount() === 0 ? [] : range($first, $first + $mesh->vertexCount() - 1)));
            $first += $split->vertexCount();
        }

        return [$fine, $drawn];
    }

    /** @return list<float> of the nodes */
    private function weightsAt(float $frame): array
    {
        return $this->timing->at($this->nodes, $frame);
    }

    /** @return list<float> how far what goes by the weight acts on each node; without a weight of its own wholly */
    private function felt(float $frame): array
    {
        return $this->prop->weight->isEmpty() ? array_fill(0, count($this->nodes->x), 1.0) : $this->weightsAt($frame);
    }

    /** @return Pose where the prop is, and how large against what it was made at */
    private function pose(float $frame): array
    {
        $transform = $this->prop->transform;

        return [$transform->positionAt($frame), $transform->rotationAt($frame), $this->size->keyed($frame)];
    }

    public function count(): int
    {
        return $this->count;
    }

    public function every(): int
    {
        return 1;
    }

    public function bring(float $frame): void
    {
        $this->held->bring($frame);
        if ($this->fastening?->cutBy($frame) === true) {
            $this->comeOff();
        }
    }

    public function begin(Forces $forces, int $group, float $from, float $to, float $dt, array $others, float $met): void
    {
        $held = $this->held->at($to);
        $this->body->holdBy($held);
        if ($this->size->changes()) {
            $this->size->follow($to, max([0.0, ...$held]) > 0.0);
            $this->body->size($this->size->wanted());
        }
        if ($this->pose($from) !== $this->pose($to)) {
            $this->body->slumber->wake();
        }
        [$x, $y, $z] = $this->body->nodes();
        $pushes = $forces->at(array_values($x), array_values($y), array_values($z), array_fill(0, count($x), $group), $from, $dt, fn (): array => $this->felt($from));
        $growth = 0.01 * $this->growth->at($from);
        if ($growth !== 0.0 || $this->softer !== 1.0) {
            $felt = $this->felt($from);
            $this->body->become(
                array_map(fn (float $share): float => $this->softer ** max(0.0, min(1.0, $share)), $felt),
                array_map(static fn (float $share): float => 1.0 + $growth * $share, $felt),
            );
        }
        $this->shape($from, $to);
        $this->body->begin($pushes, $dt, $others, $this->held->feels());
    }

    public function substep(float $from, float $to): void
    {
        $was = $this->pose($from);
        for ($part = 1; $part <= $this->parts; $part++) {
            $is = $this->pose($from + ($to - $from) * $part / $this->parts);
            try {
                $this->body->substep($was, $is);
            } catch (Crowded) {
                throw new RanAway("{$this->prop->name} cannot be kept apart from itself at frame " . (int) round($from) . ': too much of it lies in one place. Let its pieces lie farther apart, or be fewer, or let it not feel itself.');
            }
            $was = $is;
        }
    }

    public function end(float $frame, bool $over): void
    {
        if ($this->fastening?->end() === true) {
            $this->comeOff();
        }
        if ($over && ! $this->bending()->isSane(self::REACH)) {
            throw new RanAway("{$this->prop->name} ran away at frame " . (int) round($frame) . ': it is struck harder than it can follow. Let what strikes it move more slowly, make it stiffer or less fine, or give it more damping.');
        }
        $this->held->touched(...[...$this->body->fastestTouch(), $this->body->nodes(...)]);
    }

    public function bending(): Bending
    {
        return $this->body->bending();
    }

    public function bent(Bending $now): void
    {
        $this->body->bent($now);
    }

    public function untangle(): void
    {
        $this->body->untangle();
    }

    public function clear(): void
    {
        // Its surface is, wherever it is asked for.
    }

    public function slumber(): Slumber
    {
        return $this->body->slumber;
    }

    public function settle(): void
    {
        $this->body->settle();
    }

    public function places(): array
    {
        return $this->body->places();
    }

    public function drawn(array $places): array
    {
        return $places;
    }

    public function weights(float $frame): array
    {
        return $this->timing->shown($frame, $this->body->ofVertices($this->held->loose()));
    }

    public function held(): array
    {
        return $this->body->ofVertices(array_values($this->held->now()));
    }

    public function facts(): array
    {
        // Of a vertex most of what is around it.
        $loose = $this->fastening?->loose($this->held->gone()) ?? $this->held->gone();
        $gone = array_filter($this->body->ofVertices($loose), static fn (float $share): bool => $share > 0.5);

        return ['released' => (float) count($gone), 'kinetic' => $this->body->energy()] + $this->held->hardest->take();
    }

    public function save(): array
    {
        return ['body' => $this->body->save(), ...$this->size->save(), ...$this->held->save(), ...$this->other?->save() ?? [], ...$this->fastening === null ? [] : ['fastened' => $this->fastening->save()]];
    }

    public function restore(State $saved): void
    {
        $this->held->restore($saved);
        $this->size->restore($saved->float('until'));
        if ($this->fastening !== null) {
            $this->fastening->restore($saved->bools('fastened'));
            $this->comeOff();
        }
        $this->body->holdBy($this->held->now());
        if ($this->other !== null) {
            [$nodes, $relief] = $this->other->restore($saved);
            $this->body->take($nodes, $nodes, $relief, 1);
        }
        $this->body->size($this->size->wanted());
        $this->body->restore($saved->part('body'));
    }
}
