<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/** Knows which faces of a fracture each piece has, while the fracture is being changed. */
final class PieceFaces
{
    /** @var array<int, list<int>> */
    private array $faces;

    public function __construct(public readonly Fracture $fracture)
    {
        $this->faces = $fracture->facesByPiece();
    }

    /** @return list<int> faces of the piece that are not gone */
    public function of(int $piece): array
    {
        $back = $this->fracture->back;
        $alive = [];
        foreach ($this->faces[$piece] as $face) {
            if ($back[$face] !== Fracture::GONE) {
                $alive[] = $face;
            }
        }

        return $this->faces[$piece] = $alive;
    }

    public function newPiece(): int
    {
        $this->faces[] = [];

        return $this->fracture->pieces++;
    }

    /** Starts a piece's list anew: it is going to be cut up. */
    public function clear(int $piece): void
    {
        $this->faces[$piece] = [];
    }

    public function give(int $face, int $piece): void
    {
        $this->faces[$piece][] = $face;
    }

    /**
     * @param array{int, int, int} $corners
     * @param list<float> $weights
     */
    public function add(array $corners, int $back, int $front, int $origin, array $weights): void
    {
        $f = $this->fracture;
        $face = count($f->back);
        [$f->corner[], $f->corner[], $f->corner[]] = $corners;
        array_push($f->weight, ...$weights);
        $f->back[] = $back;
        $f->front[] = $front;
        $f->origin[] = $origin;
        $this->faces[$back][] = $face;
        if ($front !== Fracture::OUTSIDE) {
            $this->faces[$front][] = $face;
        }
    }

    /** @return list<int> the piece and all that share a face with it */
    public function around(int $piece): array
    {
        $around = [$piece => true];
        foreach ($this->of($piece) as $face) {
            $around[$this->fracture->back[$face]] = true;
            $around[$this->fracture->front[$face]] = true;
        }
        unset($around[Fracture::OUTSIDE]);

        return array_keys($around);
    }

    /**
     * The piece as a mesh, for patterns that look at it.
     *
     * @return array{TriangleMesh, list<int>, list<int>} mesh, its vertices' and its triangles' numbers in the fracture
     */
    public function mesh(int $piece): array
    {
        $f = $this->fracture;
        $number = $x = $y = $z = $triangles = $vertices = [];
        $faces = $this->of($piece);
        foreach ($faces as $face) {
            $isBack = $f->back[$face] === $piece;
            $corners = $isBack
                ? [$f->corner[3 * $face], $f->corner[3 * $face + 1], $f->corner[3 * $face + 2]]
                : [$f->corner[3 * $face], $f->corner[3 * $face + 2], $f->corner[3 * $face + 1]];
            foreach ($corners as $v) {
                if (! isset($number[$v])) {
                    $number[$v] = count($vertices);
                    $vertices[] = $v;
                    $x[] = $f->x[$v];
                    $y[] = $f->y[$v];
                    $z[] = $f->z[$v];
                }
                $triangles[] = $number[$v];
            }
        }

        return [new TriangleMesh($x, $y, $z, $triangles), $vertices, $faces];
    }
}
