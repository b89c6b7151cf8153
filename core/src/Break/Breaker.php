<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\Parting;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * A whole break: the pattern's cuts, slivers joined to their neighbours, clean edges, rough fresh faces; then every piece is
 * measured ({@see MeshCutter::pieces}).
 */
final readonly class Breaker
{
    /** A mesh so many times its size away has only six digits left for its shape. */
    private const FAR = 1e5;

    /**
     * @param float $smallest pieces smaller than this part of the mean are joined to a neighbour
     * @param float $thinnest pieces thinner than this are, too (1: a ball; a needle is near 0)
     * @param float $roughness height of bumps on fresh faces in parts of $fineness
     * @param float $fineness edges of fresh faces are made about this long, m, if they are rough
     * @param int|null $fibres axis along which bumps are drawn out
     * @param list<Edit> $edits in order
     * @param list<Lock> $locks pieces that stay as another pattern made them
     * @param bool $folds fresh faces are divided as finely as the surface, since they are to bend with it
     */
    public function __construct(
        private float $smallest = 0.0,
        private float $thinnest = 0.0,
        private float $roughness = 0.0,
        private float $fineness = 0.0,
        private int $seed = 1,
        private ?int $fibres = null,
        private array $edits = [],
        private array $locks = [],
        private bool $folds = false,
    ) {
    }

    /**
     * @throws BreakFailed if the mesh has no inside, crosses itself, or the pattern does not suit it
     */
    public function break(TriangleMesh $mesh, Pattern $pattern, Progress $progress = new Progress()): Broken
    {
        try {
            return $this->broken($mesh, $pattern, $progress);
        } catch (BreakFailed $refusal) {
            [$low, $high] = $mesh->isEmpty() ? [[0.0], [0.0]] : $mesh->bounds();
            $far = max(array_map(abs(...), [...$low, ...$high])) / max(1e-300, $mesh->size());
            // So far away the places of a sound mesh are rounded until it crosses itself.
            throw $far < self::FAR ? $refusal : new BreakFailed(sprintf(
                'The mesh lies %s times its size from its origin, where places are too coarse to cut it like this. Move it to its origin in the program it comes from. (%s)',
                number_format($far),
                $refusal->getMessage(),
            ));
        }
    }

    /** @throws BreakFailed */
    private function broken(TriangleMesh $mesh, Pattern $pattern, Progress $progress): Broken
    {
        $mesh = Parting::whereCrowded($mesh);
        $whole = MeshCutter::requireSolid($mesh);
        $fracture = Fracture::whole($mesh);
        $this->cut($fracture, $mesh, $pattern, $progress);
        $joined = PieceMerger::slivers($fracture, $this->smallest, $this->thinnest);
        foreach ($this->edits as $edit) {
            $edit->apply($fracture, $progress);
        }
        Welder::weld($fracture);
        $fineness = min($this->fineness > 0.0 ? $this->fineness : INF, $this->folds ? $mesh->meanEdge() : INF);
        if (is_finite($fineness)) {
            $progress->at('fresh faces', 0, 1);
            $fineness = InnerFaces::divide($fracture, $fineness);
        }
        if ($this->roughness > 0.0 && $this->fineness > 0.0) {
            // Bumps stay as large as asked where what folds is divided more finely than that.
            InnerFaces::roughen($fracture, $this->roughness * $this->fineness, max($fineness, $this->fineness), $this->seed, $this->fibres);
        }

        return new Broken(
            MeshCutter::pieces($fracture, $mesh, $whole->volume - $fracture->discarded),
            $fracture->sharedAreas(),
            $joined,
            $fracture->discarded,
            $fracture->notes,
        );
    }

    private function cut(Fracture $fracture, TriangleMesh $mesh, Pattern $pattern, Progress $progress): void
    {
        $locks = array_values(array_filter($this->locks, static fn (Lock $lock): bool => $lock->pattern != $pattern));
        if ($locks === []) {
            $pattern->cut($fracture, 0, $mesh, $progress);

            return;
        }
        $rest = Lock::cutOut($locks, $fracture, $progress);
        $pattern->cut($fracture, $rest, (new PieceFaces($fracture))->mesh($rest)[0], $progress);
        Parts::separate($fracture);
    }
}
