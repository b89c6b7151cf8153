<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Collider;

/**
 * Light pieces against the true surface of one collider. Each keeps how far it may move, in the collider's axes, before it can
 * touch. A way that crosses the surface ends there: no piece passes, however fast, and no wall is too thin.
 */
final class LightContact implements LightSurface
{
    /** The tree is searched for so many radii further than must be, so that it need not be asked again soon. */
    private const AHEAD = 8.0;

    /** @var array<int, float> where each asked last, in the collider's axes */
    private array $qx = [];

    /** @var array<int, float> */
    private array $qy = [];

    /** @var array<int, float> */
    private array $qz = [];

    /** @var array<int, float> how far it was from touching then */
    private array $clear = [];

    /** As it is in this step; asked for when a piece comes near. */
    private ?SurfaceTree $tree = null;

    /** What the distances above were taken to. */
    private ?SurfaceTree $asked = null;

    /** @var array{array{float, float, float}, array{float, float, float, float}} where it stands now; those that lie on it ask one after the other */
    private array $pose;

    /** @var array{list<float>, array{float, float, float}} axes before the step */
    private array $was;

    /** @var array{list<float>, array{float, float, float}} axes after it */
    private array $is;

    private int $covered = 0;

    private bool $laidOpen = false;

    /** @var array{array{float, float, float}, array{float, float, float}}|null its box in its axes when the step began; null: nothing has come near */
    private ?array $box;

    /** @var array{array{float, float, float}, array{float, float, float}}|null the same now, if it is another */
    private ?array $grown = null;

    private bool $moves = false;

    /**
     * @param int|null $covered number of the cover at the last step; null: there was none
     * @param array{array{float, float, float}, array{float, float, float}}|null $box in which what lies on it was last placed
     */
    public function __construct(private Collider $collider, private readonly ?Cover $cover, ?int $covered, ?array $box)
    {
        $this->box = $box;
        $this->was = $this->is = $this->axes();
        $this->covered = $covered ?? $cover?->number() ?? 0;
    }

    /** A step begins. */
    public function open(Collider $collider): void
    {
        $this->collider = $collider;
        $this->was = $this->axes();
        $this->tree = null;
        [$this->box, $this->grown] = [$this->grown ?? $this->box, null];
    }

    public function close(?Collider $now): void
    {
        $this->moves = $this->collider->travel(1.0) > 0.0;
        if ($this->moves && $now !== null) {
            // As large as it is by now.
            $this->collider = $now;
            $this->tree = null;
        }
        if ($this->box !== null && ($box = $this->tree()->bounds()) !== $this->box) {
            $this->grown = $box;
        }
        $this->is = $this->axes();
        $covered = $this->cover?->number() ?? 0;
        $this->laidOpen = $covered !== $this->covered;
        $this->covered = $covered;
    }

    private function tree(): SurfaceTree
    {
        if ($this->tree === null) {
            $this->tree = $this->collider->surface();
            if ($this->tree !== $this->asked) {
                $this->asked = $this->tree;
                $this->qx = $this->qy = $this->qz = $this->clear = [];
            }
        }

        return $this->tree;
    }

    /** @return array{list<float>, array{float, float, float}} */
    private function axes(): array
    {
        $this->pose = $this->collider->pose();

        return [Quaternion::matrix($this->pose[1]), $this->pose[0]];
    }

    public function ball(): array
    {
        return $this->collider->ball();
    }

    public function travel(float $dt): float
    {
        return $this->collider->travel($dt);
    }

    public function friction(): float
    {
        return $this->collider->friction();
    }

    public function isStill(): bool
    {
        return ! $this->moves && $this->grown === null && $this->was === $this->is;
    }

    public function covered(): ?int
    {
        return $this->cover === null ? null : $this->covered;
    }

    public function box(): ?array
    {
        return $this->grown ?? $this->box;
    }

    /** Whether some of what covers it has gone in the step. */
    public function isLaidOpen(): bool
    {
        return $this->laidOpen;
    }

    public function find(int $i, LightPiece $piece, array $was, array $is, float $dt): ?array
    {
        $tree = $this->tree();
        if ($tree->isEmpty()) {
            return null;
        }
        $this->box ??= $tree->bounds();
        [$bx, $by, $bz] = self::into($this->is, $is);
        [$ax, $ay, $az] = self::into($this->was, $was);
        if (isset($this->clear[$i]) && $this->clear[$i] > 0.0) {
            $room = $this->clear[$i] ** 2;
            [$x, $y, $z] = [$this->qx[$i], $this->qy[$i], $this->qz[$i]];
            if (($bx - $x) ** 2 + ($by - $y) ** 2 + ($bz - $z) ** 2 < $room && ($ax - $x) ** 2 + ($ay - $y) ** 2 + ($az - $z) ** 2 < $room) {
                return null;
            }
        }
        $path = sqrt(($bx - $ax) ** 2 + ($by - $ay) ** 2 + ($bz - $az) ** 2);
        $felt = $piece->radius + ($this->cover?->most() ?? 0.0);
        $reach = self::AHEAD * $felt + 4.0 * $path;
        $t = $tree->nearest($bx, $by, $bz, $reach);
        [$this->qx[$i], $this->qy[$i], $this->qz[$i]] = [$bx, $by, $bz];
        if ($t < 0) {
            $this->clear[$i] = $reach - $felt;

            return null;
        }
        $tree->look($t, $bx, $by, $bz);
        [$nx, $ny, $nz, $height] = [$tree->nx, $tree->ny, $tree->nz, $tree->distance];
        $this->clear[$i] = $height - $felt;
        if ($path > abs($height)) {
            $wall = LightWall::across($tree, [$ax, $ay, $az], [$bx - $ax, $by - $ay, $bz - $az]);
            if ($wall !== null) {
                [$nx, $ny, $nz, $offset] = $wall;
                $height = $nx * $bx + $ny * $by + $nz * $bz - $offset;
                $this->clear[$i] = 0.0;
            }
        }
        if ($height >= $felt) {
            return null;
        }
        if ($this->cover !== null) {
            $height -= $this->cover->at($bx, $by, $bz);
        }

        return [$this->outward([$nx, $ny, $nz]), $height, $this->velocity([$bx, $by, $bz], $is, $dt)];
    }

    public function seat(array $place, array $turn, array $normal): Seat
    {
        [$m] = $this->is;
        [, $rotation] = $this->pose;
        $local = self::into($this->is, $place);
        [$a, $b, $c] = $normal;

        return new Seat(
            $this->collider->name(),
            $local,
            Quaternion::multiply(Quaternion::conjugate($rotation), $turn),
            [$m[0] * $a + $m[3] * $b + $m[6] * $c, $m[1] * $a + $m[4] * $b + $m[7] * $c, $m[2] * $a + $m[5] * $b + $m[8] * $c],
        );
    }

    public function grown(Seat $seat, LightPiece $piece): Seat
    {
        if ($this->box === null || $this->grown === null) {
            return $seat;
        }
        $h = $piece->thickness;
        [$a, $b, $c] = $seat->normal;
        $foot = Vector::minus($seat->place, [$h * $a, $h * $b, $h * $c]);
        $place = self::carry($foot, $this->box, $this->grown);
        // A normal goes as what stands on both sides of it lets it: as one over the size along each axis.
        $along = Vector::minus(self::carry([1.0, 1.0, 1.0], $this->box, $this->grown), self::carry([0.0, 0.0, 0.0], $this->box, $this->grown));
        $normal = Vector::unit([$a / max(1e-9, $along[0]), $b / max(1e-9, $along[1]), $c / max(1e-9, $along[2])]) ?? $seat->normal;

        return new Seat($seat->name, [$place[0] + $h * $normal[0], $place[1] + $h * $normal[1], $place[2] + $h * $normal[2]], $seat->turn, $normal);
    }

    public function carried(Seat $seat): array
    {
        [$position, $rotation] = $this->pose;

        return [Quaternion::carried($position, $rotation, $seat->place), Quaternion::multiply($rotation, $seat->turn), $this->outward($seat->normal)];
    }

    public function bears(Seat $seat, LightPiece $piece): bool
    {
        $tree = $this->tree();
        [$x, $y, $z] = $seat->place;
        $most = $this->cover?->most() ?? 0.0;
        $t = $tree->isEmpty() ? -1 : $tree->nearest($x, $y, $z, $piece->radius + $most);
        if ($t < 0) {
            return false;
        }
        $tree->look($t, $x, $y, $z);

        return $tree->distance - ($this->cover?->at($x, $y, $z) ?? 0.0) <= $piece->thickness + Landing::LANDED;
    }

    /**
     * @param array{float, float, float} $place in a box
     * @param array{array{float, float, float}, array{float, float, float}} $from that box
     * @param array{array{float, float, float}, array{float, float, float}} $to what it has become
     *
     * @return array{float, float, float} the same place in that
     */
    private static function carry(array $place, array $from, array $to): array
    {
        foreach ([0, 1, 2] as $k) {
            $wide = $from[1][$k] - $from[0][$k];
            $place[$k] = $to[0][$k] + ($wide > 0.0 ? ($to[1][$k] - $to[0][$k]) / $wide : 1.0) * ($place[$k] - $from[0][$k]);
        }

        return $place;
    }

    /**
     * @param array{float, float, float} $normal in the collider's axes
     *
     * @return array{float, float, float}
     */
    private function outward(array $normal): array
    {
        [$m] = $this->is;
        [$a, $b, $c] = $normal;

        return [$m[0] * $a + $m[1] * $b + $m[2] * $c, $m[3] * $a + $m[4] * $b + $m[5] * $c, $m[6] * $a + $m[7] * $b + $m[8] * $c];
    }

    /**
     * @param array{float, float, float} $local place in the collider's axes
     * @param array{float, float, float} $is the same in the world
     *
     * @return array{float, float, float} m/s
     */
    private function velocity(array $local, array $is, float $dt): array
    {
        if ($this->isStill()) {
            return [0.0, 0.0, 0.0];
        }
        [$m, [$x, $y, $z]] = $this->was;
        [$a, $b, $c] = $this->box === null || $this->grown === null ? $local : self::carry($local, $this->grown, $this->box);

        return [
            ($is[0] - $x - $m[0] * $a - $m[1] * $b - $m[2] * $c) / $dt,
            ($is[1] - $y - $m[3] * $a - $m[4] * $b - $m[5] * $c) / $dt,
            ($is[2] - $z - $m[6] * $a - $m[7] * $b - $m[8] * $c) / $dt,
        ];
    }

    /**
     * @param array{list<float>, array{float, float, float}} $axes
     * @param array{float, float, float} $place in the world
     *
     * @return array{float, float, float} in those axes
     */
    private static function into(array $axes, array $place): array
    {
        [$m, [$x, $y, $z]] = $axes;
        $a = $place[0] - $x;
        $b = $place[1] - $y;
        $c = $place[2] - $z;

        return [$m[0] * $a + $m[3] * $b + $m[6] * $c, $m[1] * $a + $m[4] * $b + $m[7] * $c, $m[2] * $a + $m[5] * $b + $m[8] * $c];
    }
}
