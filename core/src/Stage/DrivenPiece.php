<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Touch;

/** A piece as others meet it that goes its way whatever is in it. */
final class DrivenPiece implements Collider
{
    /** What is smaller than this share of itself is met as if it were of that size. */
    private const LEAST = 0.001;

    /** At the size that was asked for last. */
    private RigidPieces $sized;

    /**
     * @param string $name tells it from all others
     * @param RigidPieces $made the pieces of its prop as they were broken
     * @param int $group those of one prop have the same
     */
    public function __construct(private readonly string $name, private readonly KnownWay $prop, private readonly int $piece, private readonly RigidPieces $made, public readonly int $group, private readonly float $friction, public readonly float $restitution)
    {
        $this->sized = $made;
    }

    /** Its masses, shapes and surface at the size that it has at a frame. */
    public function solid(float $frame): RigidPieces
    {
        $scale = $this->scaleAt($frame);

        return $this->sized = $this->sized->scale === $scale ? $this->sized : $this->made->sized($scale);
    }

    public function piece(): int
    {
        return $this->piece;
    }

    /** @return array{array{float, float, float}, array{float, float, float, float}} place of its centre of mass at a frame, and its turn */
    public function centreAt(float $frame): array
    {
        $poses = $this->prop->placesAt($frame)[0];
        $p = 7 * $this->piece;

        return [[$poses[$p], $poses[$p + 1], $poses[$p + 2]], [$poses[$p + 3], $poses[$p + 4], $poses[$p + 5], $poses[$p + 6]]];
    }

    /** @return array{float, float, float} along its own axes */
    public function scaleAt(float $frame): array
    {
        $scales = $this->prop->placesAt($frame)[1];
        $p = 3 * $this->piece;

        return [max(self::LEAST, $scales[$p]), max(self::LEAST, $scales[$p + 1]), max(self::LEAST, $scales[$p + 2])];
    }

    public function name(): string
    {
        return $this->name;
    }

    public function ball(): array
    {
        return [$this->centreAt($this->prop->now())[0], $this->reach($this->prop->now())];
    }

    /** How far its farthest corner is from its centre at most, m. */
    private function reach(float $frame): float
    {
        return max($this->scaleAt($frame)) * $this->made->reach($this->piece);
    }

    /** For the length of a step it is as large as at its beginning: a surface is sorted once a step at most. */
    public function surface(): SurfaceTree
    {
        return $this->solid($this->prop->step()[0])->surface($this->piece);
    }

    public function friction(): float
    {
        return $this->friction;
    }

    public function pose(): array
    {
        [$place, $turn] = $this->centreAt($this->prop->now());
        [$x, $y, $z] = $this->solid($this->prop->step()[0])->centre($this->piece);

        return [Quaternion::carried($place, $turn, [-$x, -$y, -$z]), $turn];
    }

    public function mass(): float
    {
        return INF;
    }

    public function travel(float $dt): float
    {
        [$from, $to] = $this->prop->step();
        [[$ax, $ay, $az], $was] = $this->centreAt($from);
        [[$bx, $by, $bz], $is] = $this->centreAt($to);
        $dot = min(1.0, abs($was[0] * $is[0] + $was[1] * $is[1] + $was[2] * $is[2] + $was[3] * $is[3]));

        return sqrt(($bx - $ax) ** 2 + ($by - $ay) ** 2 + ($bz - $az) ** 2) + $this->reach($to) * 2.0 * acos($dot) + $this->growth($dt);
    }

    public function growth(float $dt): float
    {
        [$from, $to] = $this->prop->step();

        return $this->reach($to) * max(array_map(static fn (float $a, float $b): float => abs($a - $b) / $a, $this->scaleAt($from), $this->scaleAt($to)));
    }

    public function push(Touch $touch): void
    {
    }

    public function stop(array $place, array $way, float $most, float $friction, float $bears): float
    {
        return 0.0;
    }

    public function feels(): bool
    {
        return false;
    }

    public function meet(array $place, array $way, float $goes, float $spare): void
    {
    }

    public function bear(float $force): void
    {
    }

    public function yields(array $place): float
    {
        return 0.0;
    }

    public function pull(array $impulse, array $moment, bool $moves, float $h): void
    {
    }
}
