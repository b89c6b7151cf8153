<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use Closure;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Surface\Bending;

/**
 * Light pieces against a surface that bends. They are looked at once it stands where it does at the end of a step, on the way they
 * went as seen from the place of it that is nearest then; what lies on it keeps its place on a triangle. It does not feel them.
 */
final class BentContact implements LightSurface
{
    /** As it stands when the step begins. */
    private Bending $before;

    /** And when it is over. */
    private Bending $now;

    /** @var array{float, float, float, float, float, float} around it: low corner, high corner */
    private array $box;

    private ?SurfaceTree $tree = null;

    /** How far any vertex has gone in the step, m. */
    private float $moved = 0.0;

    /** Whether it hangs together otherwise than when the step began. */
    private bool $torn = false;

    /**
     * @param string $name of the surface
     * @param Closure(): Bending $bending
     */
    public function __construct(private readonly string $name, private readonly Closure $bending)
    {
        $this->before = $this->now = $bending();
        $this->box = $this->now->box();
    }

    /** A step begins. */
    public function open(): void
    {
        $this->before = ($this->bending)();
    }

    public function close(?Collider $now): void
    {
        [$was, $is] = [$this->before, ($this->bending)()];
        $this->now = $is;
        $this->box = $is->box();
        $this->tree = null;
        $this->torn = $is->triangles !== $was->triangles;
        $most = 0.0;
        foreach ($this->torn ? [] : $is->x as $i => $x) {
            $most = max($most, ($x - $was->x[$i]) ** 2 + ($is->y[$i] - $was->y[$i]) ** 2 + ($is->z[$i] - $was->z[$i]) ** 2);
        }
        $this->moved = sqrt($most);
    }

    private function tree(): SurfaceTree
    {
        return $this->tree ??= $this->now->tree();
    }

    public function ball(): array
    {
        [$ax, $ay, $az, $bx, $by, $bz] = $this->box;

        return [[0.5 * ($ax + $bx), 0.5 * ($ay + $by), 0.5 * ($az + $bz)], 0.5 * sqrt(($bx - $ax) ** 2 + ($by - $ay) ** 2 + ($bz - $az) ** 2)];
    }

    public function travel(float $dt): float
    {
        return $this->moved;
    }

    public function friction(): float
    {
        return $this->now->friction;
    }

    public function isStill(): bool
    {
        return $this->moved === 0.0 && ! $this->torn;
    }

    public function isLaidOpen(): bool
    {
        return $this->torn;
    }

    public function covered(): ?int
    {
        return null;
    }

    public function box(): ?array
    {
        return null;
    }

    public function find(int $i, LightPiece $piece, array $was, array $is, float $dt): ?array
    {
        [$x, $y, $z] = $is;
        $reach = $piece->radius + sqrt(($x - $was[0]) ** 2 + ($y - $was[1]) ** 2 + ($z - $was[2]) ** 2) + $this->moved;
        // Only for what is near is it worth while to sort the triangles anew.
        [$ax, $ay, $az, $bx, $by, $bz] = $this->box;
        if ($x < $ax - $reach || $x > $bx + $reach || $y < $ay - $reach || $y > $by + $reach || $z < $az - $reach || $z > $bz + $reach) {
            return null;
        }
        $tree = $this->tree();
        $t = $tree->nearest($x, $y, $z, $reach);
        if ($t < 0) {
            return null;
        }
        [$gx, $gy, $gz] = $this->gone($tree->seat($t, $x, $y, $z));
        [$dx, $dy, $dz] = [$x - $was[0] - $gx, $y - $was[1] - $gy, $z - $was[2] - $gz];
        $tree->look($t, $x, $y, $z);
        [$nx, $ny, $nz, $height] = [$tree->nx, $tree->ny, $tree->nz, $tree->distance];
        if ($dx * $dx + $dy * $dy + $dz * $dz > $height * $height) {
            $wall = LightWall::across($tree, [$x - $dx, $y - $dy, $z - $dz], [$dx, $dy, $dz]);
            if ($wall !== null) {
                [$nx, $ny, $nz, $offset] = $wall;
                $height = $nx * $x + $ny * $y + $nz * $z - $offset;
            }
        }

        return $height >= $piece->radius ? null : [[$nx, $ny, $nz], $height, [$gx / $dt, $gy / $dt, $gz / $dt]];
    }

    /**
     * @param array{int, float, float} $seat triangle, and where on it
     *
     * @return array{float, float, float} how far that place has gone in the step, m
     */
    private function gone(array $seat): array
    {
        if ($this->torn) {
            return [0.0, 0.0, 0.0];
        }
        [$x, $y, $z] = $this->place($this->now, $seat);
        [$a, $b, $c] = $this->place($this->before, $seat);

        return [$x - $a, $y - $b, $z - $c];
    }

    /**
     * @param array{int, float, float} $seat
     *
     * @return array{float, float, float}
     */
    private function place(Bending $of, array $seat): array
    {
        [$t, $s, $q] = $seat;
        [$a, $b, $c] = [$of->triangles[3 * $t], $of->triangles[3 * $t + 1], $of->triangles[3 * $t + 2]];
        $r = 1.0 - $s - $q;

        return [$r * $of->x[$a] + $s * $of->x[$b] + $q * $of->x[$c], $r * $of->y[$a] + $s * $of->y[$b] + $q * $of->y[$c], $r * $of->z[$a] + $s * $of->z[$b] + $q * $of->z[$c]];
    }

    /** @return array{array{float, float, float, float}, array{float, float, float}} how a triangle lies now, and the way it faces */
    private function lie(int $t): array
    {
        $of = $this->now;
        [$a, $b, $c] = [$of->triangles[3 * $t], $of->triangles[3 * $t + 1], $of->triangles[3 * $t + 2]];
        $u = [$of->x[$b] - $of->x[$a], $of->y[$b] - $of->y[$a], $of->z[$b] - $of->z[$a]];
        $v = [$of->x[$c] - $of->x[$a], $of->y[$c] - $of->y[$a], $of->z[$c] - $of->z[$a]];
        $n = [$u[1] * $v[2] - $u[2] * $v[1], $u[2] * $v[0] - $u[0] * $v[2], $u[0] * $v[1] - $u[1] * $v[0]];
        $l = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);
        $n = $l > 1e-30 ? [$n[0] / $l, $n[1] / $l, $n[2] / $l] : [0.0, 1.0, 0.0];

        return [Quaternion::facing($u, $n), $n];
    }

    public function seat(array $place, array $turn, array $normal): Seat
    {
        $tree = $this->tree();
        [$x, $y, $z] = $place;
        [$triangle, $s, $q] = $seat = $tree->seat(max(0, $tree->nearest($x, $y, $z, INF)), $x, $y, $z);
        [$lies, $n] = $this->lie($triangle);
        [$a, $b, $c] = $this->place($this->now, $seat);

        return new Seat(
            $this->name,
            // On the triangle, and how far above it.
            [$s, $q, sqrt(($x - $a) ** 2 + ($y - $b) ** 2 + ($z - $c) ** 2)],
            Quaternion::multiply(Quaternion::conjugate($lies), $turn),
            // On which side.
            [$n[0] * $normal[0] + $n[1] * $normal[1] + $n[2] * $normal[2] < 0.0 ? -1.0 : 1.0, 0.0, 0.0],
            $triangle,
        );
    }

    public function grown(Seat $seat, LightPiece $piece): Seat
    {
        return $seat;
    }

    public function carried(Seat $seat): array
    {
        [$s, $q, $height] = $seat->place;
        [$x, $y, $z] = $this->place($this->now, [$seat->triangle, $s, $q]);
        [$lies, [$nx, $ny, $nz]] = $this->lie($seat->triangle);
        [$nx, $ny, $nz] = [$seat->normal[0] * $nx, $seat->normal[0] * $ny, $seat->normal[0] * $nz];

        return [[$x + $height * $nx, $y + $height * $ny, $z + $height * $nz], Quaternion::normalized(Quaternion::multiply($lies, $seat->turn)), [$nx, $ny, $nz]];
    }

    public function bears(Seat $seat, LightPiece $piece): bool
    {
        return ! $this->torn;
    }
}
