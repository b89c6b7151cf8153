<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Mesh\TriangleMesh;

/** What a weight may ask of the prop it is of, its bounds and its mesh, which is only made when it is asked for; and of others. */
final class PropShape
{
    /** @var (Closure(): TriangleMesh)|TriangleMesh */
    private Closure|TriangleMesh $mesh;

    /**
     * @param array{array{float, float, float}, array{float, float, float}} $bounds in the prop's own space, m
     * @param Closure(): TriangleMesh $mesh
     * @param Surfaces $others surfaces of other props
     */
    public function __construct(public readonly array $bounds, Closure $mesh, public readonly Surfaces $others)
    {
        $this->mesh = $mesh;
    }

    public static function of(TriangleMesh $mesh, Surfaces $others): self
    {
        return new self($mesh->bounds(), static fn (): TriangleMesh => $mesh, $others);
    }

    public static function ofPieces(BrokenProp $broken, Surfaces $others): self
    {
        return new self($broken->bounds, static fn (): TriangleMesh => TriangleMesh::together($broken->pieces), $others);
    }

    public function mesh(): TriangleMesh
    {
        return $this->mesh instanceof Closure ? $this->mesh = ($this->mesh)() : $this->mesh;
    }
}
