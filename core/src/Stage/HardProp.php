<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Rigid\RigidCollider;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Motion\State;

/**
 * A prop in the world of hard pieces: it is held somehow, and lets go of pieces, which then move by themselves. What only some
 * do (wait to be touched, hang together by glue) the others do not.
 */
abstract class HardProp
{
    /** @var array<int, bool> pieces that have let go */
    protected array $loose = [];

    /** @param PieceBodies $pieces where its pieces are */
    protected function __construct(protected readonly Prop $prop, public readonly PieceBodies $pieces, private readonly float $friction)
    {
        $this->loose = array_fill(0, count($pieces->bodies()), false);
    }

    public function hasLetGo(int $piece): bool
    {
        return $this->loose[$piece];
    }

    /** Whether it falls as one piece until it lets go. */
    public function fallsWhole(): bool
    {
        return false;
    }

    /** Whether its pieces may be of another size than they were broken at. */
    public function isSized(): bool
    {
        return $this->prop->transform->isScaled();
    }

    /** @return list<float> how far what goes by the weight acts on each piece, 0 to 1 */
    abstract public function felt(float $frame): array;

    /** @return list<float> weight of each piece, as the picture shows it */
    abstract public function weights(float $frame): array;

    /** Sends what is held on its way to where it must be at the end of the step. */
    abstract public function drive(RigidWorld $world, float $from, float $to, float $dt): void;

    /** What is held has the size that it has at a frame, after a step that ends there. */
    abstract public function grow(RigidWorld $world, float $frame): void;

    /** Lets go of all pieces that are due by this frame. */
    abstract public function letGoBy(RigidWorld $world, float $frame): void;

    /** @return list<Collider> what others may touch of it */
    abstract public function colliders(RigidWorld $world): array;

    /** @return array<string, mixed> what has changed since it was made */
    abstract public function save(): array;

    abstract public function restore(State $state): void;

    /** Whether a piece has come off, as the ridge counts it. */
    abstract public function hasComeOff(int $piece): bool;

    /** Whether a piece moves that has not let go, other than by what holds the prop. */
    public function goesItsWay(int $piece): bool
    {
        return false;
    }

    /** Whether it still waits to be touched. */
    public function waitsForContact(): bool
    {
        return false;
    }

    /** A step begins in which it may be touched. */
    public function noteSpeed(RigidWorld $world): void
    {
    }

    /**
     * @param float $speed at which both met, m/s
     * @param float $impulse that speed times their reduced mass, N s
     * @param array{float, float, float} $point where it was touched
     *
     * @return bool whether it broke by this touch
     */
    public function touched(RigidWorld $world, float $speed, float $impulse, array $point): bool
    {
        return false;
    }

    /**
     * @param array{float, float, float} $centre of the body, in the prop's space
     * @param Closure(): SurfaceTree $surface
     */
    protected function collider(string $name, RigidWorld $world, int $body, array $centre, Closure $surface, int $shape = -1): RigidCollider
    {
        return new RigidCollider("{$this->prop->id}/{$name}", $world->bodies, $body, [-$centre[0], -$centre[1], -$centre[2]], $surface, $this->friction, $shape);
    }
}
