<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;

/** A prop's pieces in its own space, as the break stage left them. A whole prop is one piece. */
final readonly class BrokenProp
{
    /** @var list<MassProperties> */
    public array $mass;

    /**
     * @param string $hash of everything the pieces were made from
     * @param list<TriangleMesh> $pieces
     * @param array{array{float, float, float}, array{float, float, float}} $bounds of the whole
     */
    public function __construct(public string $hash, public array $pieces, public array $bounds)
    {
        $this->mass = array_map(static fn (TriangleMesh $piece): MassProperties => MassProperties::of($piece), $pieces);
    }

    /** @return array{float, float, float} the point a piece is placed and turned about: its centre of mass, or of its bounds if it has no volume */
    public function centre(int $piece): array
    {
        return $this->mass[$piece]->centre;
    }
}
