<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use WeakMap;
use YardBreak\Core\Break\ToneMap;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Sightings;
use YardBreak\Core\Stage\Kind\HasMotion;
use YardBreak\Core\Stage\Kind\Kinds;

/** What weights see of other props: their surfaces as they were prepared, at the size they have at a frame, and what was seen of their pieces. */
final class Surfaces
{
    /** Pictures kept at hand: those that one goes over into the other, and some that do not change. */
    private const PICTURES = 6;

    /** @var WeakMap<Prop, array{array{float, float, float}, SurfaceTree}> size and surface; a prop of another document is another prop */
    private WeakMap $trees;

    /** @var WeakMap<Prop, array{TriangleMesh, bool}> mesh, and whether it has an inside */
    private WeakMap $meshes;

    /** @var WeakMap<Prop, array<string, mixed>> */
    private WeakMap $made;

    /** @var array<string, ToneMap> by asset */
    private array $pictures = [];

    /**
     * @param Closure(Prop): TriangleMesh $prepared
     * @param Closure(Prop): string $hash of what decides that mesh
     * @param Closure(Prop): BrokenProp $broken
     * @param Closure(Prop): string $brokenHash of what decides those pieces
     * @param SeenPieces|null $seen where they were seen; null: nobody has seen them, they are where their keys put them
     */
    public function __construct(
        private readonly Closure $prepared,
        private readonly Closure $hash,
        private readonly StageRunner $runner,
        private readonly Assets $assets,
        private readonly Closure $broken,
        private readonly Closure $brokenHash,
        public readonly ?SeenPieces $seen = null,
    ) {
        $this->trees = new WeakMap();
        $this->meshes = new WeakMap();
        $this->made = new WeakMap();
    }

    /**
     * The same for weights that go by what was seen of others.
     *
     * @param Closure(string): BrokenProp $broken pieces of a prop of the shot, by id
     */
    public function along(Sightings $sightings, Closure $broken): self
    {
        $own = new self($this->prepared, $this->hash, $this->runner, $this->assets, $this->broken, $this->brokenHash, new SeenPieces($sightings, $broken, $this->runner));
        [$own->trees, $own->meshes, $own->made] = [$this->trees, $this->meshes, $this->made];

        return $own;
    }

    public function hash(Prop $prop): string
    {
        return ($this->hash)($prop);
    }

    /** The pieces of a prop; never ask while it is being broken. */
    public function broken(Prop $prop): BrokenProp
    {
        return ($this->broken)($prop);
    }

    public function brokenHash(Prop $prop): string
    {
        return ($this->brokenHash)($prop);
    }

    /**
     * In the prop's own axes, turned and moved by nobody yet, and how many times as large it is: a size that is the same along
     * all axes is left to who asks, so that a prop that grows need not be sorted anew at every frame.
     *
     * @return array{SurfaceTree, float}
     */
    public function of(Prop $prop, float $frame): array
    {
        [$x, $y, $z] = $prop->transform->scaleAt($frame);
        [$scale, $times] = $x === $y && $y === $z ? [[1.0, 1.0, 1.0], $x] : [[$x, $y, $z], 1.0];
        if ($scale === [1.0, 1.0, 1.0]) {
            return [$this->own($prop), $times];
        }
        $known = $this->trees[$prop] ?? null;
        if ($known === null || $known[0] !== $scale) {
            [$mesh, $closed] = $this->mesh($prop);
            $this->trees[$prop] = $known = [$scale, SurfaceTree::of($mesh->scaled($scale), $closed)];
        }

        return [$known[1], $times];
    }

    /**
     * As its file moves it.
     *
     * @return MovingMesh|null null: it does not play its file
     *
     * @throws BadFile if it cannot
     */
    public function moving(Prop $prop): ?MovingMesh
    {
        $source = Kinds::source($prop->source->kind);

        return $prop->plays() && is_a($source, HasMotion::class, true) ? $this->remembered($prop, 'moving', fn (): MovingMesh => $source::moving($prop->source->settings, $this->assets, $prop->played->string('clip'), $prop->prepare->float('size'))) : null;
    }

    /** In the prop's own space, as it was prepared. */
    public function own(Prop $prop): SurfaceTree
    {
        return $this->remembered($prop, 'tree', fn (): SurfaceTree => $this->result(new PreparedSurface($this->hash($prop), fn (): TriangleMesh => $this->mesh($prop)[0])));
    }

    /**
     * What is made of a prop once for all who ask.
     *
     * @template T
     *
     * @param Closure(): T $make
     *
     * @return T
     */
    public function remembered(Prop $prop, string $name, Closure $make): mixed
    {
        $made = $this->made[$prop] ?? [];
        if (! array_key_exists($name, $made)) {
            $made[$name] = $make();
            $this->made[$prop] = $made;
        }

        /** @var T */
        return $made[$name];
    }

    public function ownMesh(Prop $prop): TriangleMesh
    {
        return $this->mesh($prop)[0];
    }

    /**
     * What a stage makes, as it was kept, or made and kept now.
     *
     * @template T
     *
     * @param Stage<T> $stage
     *
     * @return T
     */
    public function result(Stage $stage): mixed
    {
        return $this->runner->result($stage);
    }

    /** @param Stage<*> $stage */
    public function isKept(Stage $stage): bool
    {
        return $this->runner->isKept($stage);
    }

    /**
     * A picture that was brought in, read once for all who ask.
     *
     * @throws BadFile
     */
    public function tones(string $asset): ToneMap
    {
        $tones = $this->pictures[$asset] ?? Tones::of($this->assets, $asset);
        // The last few only: numbered ones may be many.
        unset($this->pictures[$asset]);
        $this->pictures = array_slice($this->pictures, 1 - self::PICTURES, null, true) + [$asset => $tones];

        return $tones;
    }

    /** @return array{float, float, float} the middle of its bounds, in the world */
    public function middle(Prop $prop, float $frame): array
    {
        [$low, $high] = $this->mesh($prop)[0]->bounds();

        return $prop->transform->carried([0.5 * ($low[0] + $high[0]), 0.5 * ($low[1] + $high[1]), 0.5 * ($low[2] + $high[2])], $frame);
    }

    /** @return array{TriangleMesh, bool} */
    private function mesh(Prop $prop): array
    {
        $known = $this->meshes[$prop] ?? null;
        if ($known === null) {
            $mesh = ($this->prepared)($prop);
            $this->meshes[$prop] = $known = [$mesh, Topology::of($mesh)->isWatertight()];
        }

        return $known;
    }
}
