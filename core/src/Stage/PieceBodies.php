<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\Rigid\HullBuilder;
use YardBreak\Core\Motion\Rigid\RigidBodies;
use YardBreak\Core\Motion\State;

/**
 * Which body of the rigid world carries each of a prop's pieces, by which shapes, and where on it. The axes of a body are the
 * prop's, about its own centre.
 */
final class PieceBodies
{
    /** @var array<int, RigidPieces> what each piece is one of, at its size */
    private array $of = [];

    /** @var list<list<int>> shapes of each piece */
    private array $shapes = [];

    /** @var array<int, int> body that carries each piece */
    private array $body = [];

    /** @var array<int, array{float, float, float}> each piece's centre from its body's, in the body's axes */
    private array $offset = [];

    /** @var array<int, int> piece of each shape */
    private array $pieceOf = [];

    /**
     * @param RigidPieces $held what is on one body to begin with
     * @param array{float, float, float} $centre of that body, in the prop's space
     * @param float $siblings see {@see RigidBodies::$siblings}
     */
    public function __construct(private readonly RigidBodies $bodies, RigidPieces $held, int $whole, array $centre, int $group, float $friction, float $restitution, float $siblings = 0.0)
    {
        for ($k = 0; $k < $held->count(); $k++) {
            $shapes = [];
            foreach ($held->shapes($k) as $part) {
                $shapes[] = $shape = $bodies->addShape($whole, $part->hull, Vector::minus($part->centre, $centre), $group, $friction, $restitution, $siblings);
                $bodies->standsAt($shape, $part->centre);
            }
            $this->shapes[] = $shapes;
            $this->pieceOf += array_fill_keys($shapes, $k);
            $this->body[] = $whole;
            $this->of[] = $held;
            $this->offset[] = Vector::minus($held->centre($k), $centre);
        }
    }

    /** @return array<int, int> body of each piece */
    public function bodies(): array
    {
        return $this->body;
    }

    public function bodyOf(int $piece): int
    {
        return $this->body[$piece];
    }

    /** @return list<int> */
    public function on(int $body): array
    {
        return array_keys($this->body, $body, true);
    }

    /** One of its shapes. */
    public function shapeOf(int $piece): int
    {
        return $this->shapes[$piece][0] ?? -1;
    }

    public function pieceOf(int $shape): ?int
    {
        return $this->pieceOf[$shape] ?? null;
    }

    /**
     * The shape that a place is in, or nearest to.
     *
     * @param array{float, float, float} $place in the world, m
     */
    public function nearest(array $place): int
    {
        $best = INF;
        $found = $this->shapes[0][0];
        foreach ($this->shapes as $k => $shapes) {
            $body = $this->body[$k];
            [$x, $y, $z] = Quaternion::rotate(Quaternion::conjugate($this->bodies->turnOf($body)), Vector::minus($place, $this->bodies->placeOf($body)));
            foreach ($shapes as $shape) {
                [$u, $v, $w] = [$x - $this->bodies->offset[3 * $shape], $y - $this->bodies->offset[3 * $shape + 1], $z - $this->bodies->offset[3 * $shape + 2]];
                $hull = $this->bodies->hull[$shape];
                // How far it is outside the face that it is farthest outside of.
                $off = -INF;
                foreach ($hull->d as $f => $d) {
                    $off = max($off, $hull->nx[$f] * $u + $hull->ny[$f] * $v + $hull->nz[$f] * $w - $d);
                }
                if ($off < $best) {
                    [$best, $found] = [$off, $shape];
                }
            }
        }

        return $found;
    }

    /** @return list<int> of all pieces */
    public function shapes(): array
    {
        return array_merge(...$this->shapes);
    }

    /** What a piece is one of, at its size. */
    public function of(int $piece): RigidPieces
    {
        return $this->of[$piece];
    }

    /** @return array{float, float, float} how large a piece is, of what it was broken as */
    public function scale(int $piece): array
    {
        return $this->of[$piece]->scale;
    }

    /** @return array{float, float, float} where a piece's centre is in the world, m */
    public function place(int $piece): array
    {
        return $this->bodies->pointOf($this->body[$piece], $this->offset[$piece]);
    }

    /** @return array{float, float, float} where a piece's centre is from its body's, along the axes of the world, m */
    public function arm(int $piece): array
    {
        return Quaternion::rotate($this->bodies->turnOf($this->body[$piece]), $this->offset[$piece]);
    }

    /** @return array{float, float, float} where the centre of a piece's body is in the space of the prop as it was broken, m */
    public function centreUnder(int $piece): array
    {
        return Vector::minus($this->of[$piece]->centre($piece), $this->offset[$piece]);
    }

    /**
     * The area that a body of these pieces turns to the air on average: a quarter of the surface of its hull (Cauchy 1832).
     *
     * @param list<int> $pieces
     */
    public function projectedArea(array $pieces): float
    {
        $x = $y = $z = [];
        foreach ($pieces as $piece) {
            foreach ($this->of[$piece]->shapes($piece) as $part) {
                foreach ($part->outline->x as $i => $px) {
                    $x[] = $px + $part->centre[0];
                    $y[] = $part->outline->y[$i] + $part->centre[1];
                    $z[] = $part->outline->z[$i] + $part->centre[2];
                }
            }
        }

        return 0.25 * HullBuilder::of($x, $y, $z)->area();
    }

    /**
     * Makes a body of some pieces that were part of another, without a speed yet.
     *
     * @param list<int> $pieces
     * @param RigidPieces $of what they are, at their size
     * @param array{float, float, float} $was centre of the other body, in the prop's axes
     * @param array{float, float, float} $origin where that is
     * @param array{float, float, float, float} $turn of the other body
     */
    public function part(array $pieces, RigidPieces $of, array $was, array $origin, array $turn): int
    {
        // Inertia in the prop's axes is inertia in the body's: they are parallel.
        $inertia = count($pieces) === 1 ? $of->inertia($pieces[0]) : $of->together($pieces);
        $body = $this->bodies->addBody($inertia, Quaternion::carried($origin, $turn, Vector::minus($inertia->centre, $was)), $turn);
        foreach ($pieces as $k) {
            foreach ($of->shapes($k) as $n => $part) {
                $this->bodies->moveShape($this->shapes[$k][$n], $body, Vector::minus($part->centre, $inertia->centre));
            }
            $this->body[$k] = $body;
            $this->offset[$k] = Vector::minus($of->centre($k), $inertia->centre);
        }

        return $body;
    }

    /**
     * Makes a body be of these pieces alone, all of them on it already.
     *
     * @param list<int> $pieces
     * @param RigidPieces $of what they are, at their size
     *
     * @return array{float, float, float} their centre, in the prop's space
     */
    public function gather(int $body, array $pieces, RigidPieces $of): array
    {
        $rest = $of->together($pieces);
        $this->bodies->reshapeBody($body, $rest);
        foreach ($pieces as $k) {
            foreach ($of->shapes($k) as $n => $part) {
                $this->bodies->fitShape($this->shapes[$k][$n], $part->hull, Vector::minus($part->centre, $rest->centre));
                $this->bodies->standsAt($this->shapes[$k][$n], $part->centre);
            }
            $this->of[$k] = $of;
            $this->offset[$k] = Vector::minus($of->centre($k), $rest->centre);
        }

        return $rest->centre;
    }

    /** @return array{body: array<int, int>, offset: list<float>, scales: list<float>} */
    public function save(): array
    {
        return [
            'body' => $this->body,
            'offset' => array_merge(...$this->offset),
            'scales' => array_merge(...array_map(static fn (RigidPieces $of): array => $of->scale, $this->of)),
        ];
    }

    /** @param RigidPieces $held at the size that most of them may have */
    public function restore(State $state, RigidPieces $held): void
    {
        $this->body = $state->ints('body');
        $this->offset = [];
        foreach (array_chunk($state->floats('offset'), 3) as [$x, $y, $z]) {
            $this->offset[] = [$x, $y, $z];
        }
        $known = [implode(' ', $held->scale) => $held];
        foreach (array_chunk($state->floats('scales'), 3) as $k => $scale) {
            $this->of[$k] = $known[implode(' ', $scale)] ??= $held->sized([$scale[0], $scale[1], $scale[2]]);
            foreach ($this->of[$k]->shapes($k) as $n => $part) {
                $this->bodies->hull[$this->shapes[$k][$n]] = $part->hull;
                $this->bodies->standsAt($this->shapes[$k][$n], $part->centre);
            }
        }
    }
}
