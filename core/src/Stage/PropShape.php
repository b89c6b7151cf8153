<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Mesh\TriangleMesh;

/** What a weight may ask of the prop it is of, its bounds and its mesh, which are only made when they are asked for; and of others. */
final class PropShape
{
    /** @var array{array{float, float, float}, array{float, float, float}}|null */
    private ?array $bounds = null;

    private ?TriangleMesh $mesh = null;

    /**
     * @param Closure(): array{array{float, float, float}, array{float, float, float}} $measure
     * @param Closure(): TriangleMesh $make
     * @param Surfaces $others surfaces of other props
     * @param (Closure(): BrokenProp)|null $broken null: it is not broken yet
     * @param int|null $until a glimpse is enough, and only what happens up to this frame matters; null: all of it, as exact as can be
     */
    private function __construct(private readonly Closure $measure, private readonly Closure $make, public readonly Surfaces $others, public readonly ?int $until = null, private readonly ?Closure $broken = null)
    {
    }

    /** Of a prop that is about to be broken: there are no pieces yet. */
    public static function of(TriangleMesh $mesh, Surfaces $others): self
    {
        return new self($mesh->bounds(...), static fn (): TriangleMesh => $mesh, $others);
    }

    /** Of a prop as it stands before anything lets go; its pieces only for who asks. */
    public static function ofProp(Prop $prop, TriangleMesh $mesh, Surfaces $others): self
    {
        return new self($mesh->bounds(...), static fn (): TriangleMesh => $mesh, $others, null, static fn (): BrokenProp => $others->broken($prop));
    }

    public static function ofPieces(BrokenProp $broken, Surfaces $others): self
    {
        return self::later(static fn (): BrokenProp => $broken, $others);
    }

    /** @param Closure(): BrokenProp $pieces */
    public static function later(Closure $pieces, Surfaces $others, ?int $until = null): self
    {
        return new self(static fn (): array => $pieces()->bounds, static fn (): TriangleMesh => $pieces()->together(), $others, $until, $pieces);
    }

    /** Its pieces; null where a break is only about to be made. */
    public function pieces(): ?BrokenProp
    {
        return $this->broken === null ? null : ($this->broken)();
    }

    /** @return array{array{float, float, float}, array{float, float, float}} in the prop's own space, m */
    public function bounds(): array
    {
        return $this->bounds ??= ($this->measure)();
    }

    public function mesh(): TriangleMesh
    {
        return $this->mesh ??= ($this->make)();
    }
}
