<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Rigid\Inertia;

/** A prop's pieces as hard bodies, at a size: their masses, collision shapes and surfaces, in the prop's own axes. */
final class RigidPieces
{
    /** Pieces that make up more of the prop than this have their hollows felt. */
    private const LARGE = 0.1;

    /** Of all pieces together; made when it is asked for, as the rest. */
    private ?SurfaceTree $outside = null;

    /** @var array<int, SurfaceTree> */
    private array $surfaces = [];

    /** @var array<int, Inertia> */
    private array $inertia = [];

    /** @var array<int, list<CollisionShape>> */
    private array $shapes = [];

    /**
     * @param list<array{Inertia, Closure(): list<CollisionShape>, float}> $made of each piece, as large as it was broken: mass, shapes (made once, for who asks) and how far its farthest corner is from its centre, m
     * @param array{float, float, float} $scale how many times as large they are, along the prop's axes
     * @param self|null $base the same as they were broken; null: these are
     */
    private function __construct(private readonly BrokenProp $broken, private readonly array $made, public readonly array $scale, private readonly ?self $base = null)
    {
    }

    /**
     * At the size that the prop was broken at.
     *
     * @param float $density kg/m3
     * @param bool $moves whether its pieces are ever free
     * @param string $shape what they are felt as: parts, hull or ball
     * @param float $ball radius of that, in parts of how far a piece reaches
     *
     * @throws BreakFailed if one that must be free to move has no mass
     */
    public static function of(Prop $prop, BrokenProp $broken, float $density, bool $moves, string $shape = 'parts', float $ball = 1.0): self
    {
        $made = [];
        $total = array_sum(array_map(static fn (MassProperties $mass): float => max(0.0, $mass->volume), $broken->mass));
        foreach ($broken->pieces as $k => $mesh) {
            $mass = $broken->mass[$k];
            // A core never lets go.
            if ($mass->volume <= 0.0 && $moves && ! ($k === 0 && $broken->hasCore)) {
                throw new BreakFailed("{$prop->name} is an open sheet without mass, so it cannot move as a hard piece. Close its mesh, or keep it held for the whole shot.");
            }
            // Held for the whole shot it is only something to fall on, and its mass does not matter.
            $tensor = $mass->volume > 0.0 ? $mass->inertia : [1.0, 1.0, 1.0, 0.0, 0.0, 0.0];
            $inertia = new Inertia(($mass->volume > 0.0 ? $mass->volume : 1.0) * $density, $mass->centre, [
                $tensor[0] * $density, $tensor[1] * $density, $tensor[2] * $density, $tensor[3] * $density, $tensor[4] * $density, $tensor[5] * $density,
            ]);
            $reach = self::reachOf($mesh, $mass->centre);
            // A core is not in the way of its own skin as a ball would be.
            $felt = $k === 0 && $broken->hasCore && $shape === 'ball' ? 'parts' : $shape;
            $made[] = [$inertia, self::shapesOf($broken, $k, $felt, $mass->volume > self::LARGE * $total, $ball * $reach), $reach];
        }

        return new self($broken, $made, [1.0, 1.0, 1.0]);
    }

    /** @return Closure(): list<CollisionShape> */
    private static function shapesOf(BrokenProp $broken, int $piece, string $felt, bool $large, float $radius): Closure
    {
        $shapes = null;

        return static function () use (&$shapes, $broken, $piece, $felt, $large, $radius): array {
            if ($shapes === null) {
                $mass = $broken->mass[$piece];
                $mesh = $broken->pieces->mesh($piece);
                $shapes = match ($felt) {
                    'ball' => CollisionShape::ball($mesh, $mass->centre, $radius),
                    'hull' => CollisionShape::convex($mesh, $mass->centre),
                    default => CollisionShape::of($mesh, $mass->centre, $mass->volume, $large),
                };
            }

            return $shapes;
        };
    }

    /** @param array{float, float, float} $centre */
    private static function reachOf(TriangleMesh $mesh, array $centre): float
    {
        $far = 0.0;
        foreach ($mesh->x as $i => $x) {
            $far = max($far, ($x - $centre[0]) ** 2 + ($mesh->y[$i] - $centre[1]) ** 2 + ($mesh->z[$i] - $centre[2]) ** 2);
        }

        return sqrt($far);
    }

    /**
     * These pieces, so many times as large as they were broken.
     *
     * @param array{float, float, float} $scale along the prop's axes, each above 0
     */
    public function sized(array $scale): self
    {
        return $scale === $this->scale ? $this : new self($this->broken, $this->made, $scale, $this->base ?? $this);
    }

    public function count(): int
    {
        return count($this->made);
    }

    private function isAsMade(): bool
    {
        return $this->scale === [1.0, 1.0, 1.0];
    }

    private function isEven(): bool
    {
        return $this->scale[0] === $this->scale[1] && $this->scale[1] === $this->scale[2];
    }

    public function inertia(int $piece): Inertia
    {
        return $this->inertia[$piece] ??= $this->isAsMade() ? $this->made[$piece][0] : $this->made[$piece][0]->scaled($this->scale);
    }

    /** @param list<int> $pieces */
    public function together(array $pieces): Inertia
    {
        return Inertia::together(array_map(fn (int $k): Inertia => $this->inertia($k), $pieces));
    }

    /** @return array{float, float, float} its centre of mass */
    public function centre(int $piece): array
    {
        return $this->inertia($piece)->centre;
    }

    /** @return list<CollisionShape> */
    public function shapes(int $piece): array
    {
        return $this->shapes[$piece] ??= $this->isAsMade() ? $this->made[$piece][1]() : array_map(fn (CollisionShape $part): CollisionShape => $part->scaled($this->scale), $this->made[$piece][1]());
    }

    /** How far a piece's farthest corner is from its centre at most, m. */
    public function reach(int $piece): float
    {
        return max($this->scale) * $this->made[$piece][2];
    }

    public function surface(int $piece): SurfaceTree
    {
        return $this->surfaces[$piece] ??= $this->base !== null && $this->isEven() ? $this->base->surface($piece)->grown($this->scale[0]) : SurfaceTree::of($this->broken->pieces->mesh($piece)->scaled($this->scale), ($this->broken->mass[$piece]->volume ?? 0.0) > 0.0);
    }

    /** The surface of all pieces together, without the faces that the break laid open. */
    public function outside(): SurfaceTree
    {
        return $this->outside ??= $this->base !== null && $this->isEven() ? $this->base->outside()->grown($this->scale[0]) : SurfaceTree::of($this->broken->outside()->scaled($this->scale), $this->broken->isSolid());
    }
}
