<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use Closure;

/** The colour of one look of a mesh, where it turns into another: as colours of vertices over a white material. */
final readonly class Tint
{
    /**
     * @param int $look of the faces
     * @param int $material number of the white one among all looks of the file
     * @param array{float, float, float} $from linear
     * @param array{float, float, float} $to
     * @param Closure(int, int): float $share how far it has turned, 0 to 1, at a frame from 1, at a vertex of the mesh
     */
    public function __construct(public int $look, public int $material, private array $from, private array $to, private Closure $share)
    {
    }

    /** @return array{float, float, float} */
    public function colour(int $vertex): array
    {
        $share = ($this->share)(1, $vertex);
        [$way, $from] = [$this->way(), $this->from];

        return [$from[0] + $share * $way[0], $from[1] + $share * $way[1], $from[2] + $share * $way[2]];
    }

    /** @return array{float, float, float} how far its colour is from that of frame 1 */
    public function since(int $frame, int $vertex): array
    {
        $share = ($this->share)($frame, $vertex) - ($this->share)(1, $vertex);
        $way = $this->way();

        return [$share * $way[0], $share * $way[1], $share * $way[2]];
    }

    /** @return array{float, float, float} from the one colour to the other */
    public function way(): array
    {
        return [$this->to[0] - $this->from[0], $this->to[1] - $this->from[1], $this->to[2] - $this->from[2]];
    }
}
