<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use Closure;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Collider;

/** A hard body with its true surface, as others may touch it. */
final readonly class RigidCollider implements Collider
{
    /** What lies on it does not wake it, what falls on it does; m/s in a substep. */
    private const WAKING = 0.05;

    /**
     * @param string $name tells it from all others
     * @param array{float, float, float} $origin of the surface's axes from the body's centre, in the body's axes
     * @param Closure(): SurfaceTree $surface made when it is first needed, and kept by whoever gives it
     */
    public function __construct(
        private string $name,
        private RigidBodies $bodies,
        private int $body,
        private array $origin,
        private Closure $surface,
        private float $friction,
    ) {
    }

    public function name(): string
    {
        return $this->name;
    }

    public function ball(): array
    {
        return [$this->bodies->poseNow($this->body)[0], $this->bodies->bodyRadius[$this->body]];
    }

    public function surface(): SurfaceTree
    {
        return ($this->surface)();
    }

    public function friction(): float
    {
        return $this->friction;
    }

    public function pose(): array
    {
        [$place, $turn] = $this->bodies->poseNow($this->body);

        return [Quaternion::carried($place, $turn, $this->origin), $turn];
    }

    public function travel(float $dt): float
    {
        [$velocity, $spin] = $this->bodies->velocity($this->body);
        $radius = $this->bodies->bodyRadius[$this->body];
        $growth = max(array_map(abs(...), $this->bodies->growth[$this->body] ?? [0.0]));

        return $dt * (self::length($velocity) + $radius * (self::length($spin) + $growth));
    }

    public function push(array $impulse, array $moment, float $most): void
    {
        if (! $this->bodies->free[$this->body]) {
            return;
        }
        [$velocity, $spin] = $this->bodies->velocity($this->body);
        [$px, $py, $pz] = $this->bodies->placeOf($this->body);
        $by = self::length($impulse) / $this->bodies->mass[$this->body];
        $share = $by > $most ? $most / $by : 1.0;
        if ($this->bodies->isAsleep($this->body)) {
            if ($share * $by < self::WAKING) {
                return;
            }
            $this->bodies->wake($this->body);
        }
        [$jx, $jy, $jz] = [$share * $impulse[0], $share * $impulse[1], $share * $impulse[2]];
        $turned = $this->bodies->turnedBy($this->body, [
            $share * $moment[0] - $py * $jz + $pz * $jy,
            $share * $moment[1] - $pz * $jx + $px * $jz,
            $share * $moment[2] - $px * $jy + $py * $jx,
        ]);
        $mass = $this->bodies->mass[$this->body];
        $this->bodies->setVelocity(
            $this->body,
            [$velocity[0] + $jx / $mass, $velocity[1] + $jy / $mass, $velocity[2] + $jz / $mass],
            [$spin[0] + $turned[0], $spin[1] + $turned[1], $spin[2] + $turned[2]],
        );
    }

    public function stop(array $place, array $way, float $most): void
    {
        if (! $this->bodies->free[$this->body] || $this->bodies->isAsleep($this->body)) {
            return;
        }
        [$velocity, $spin] = $this->bodies->velocity($this->body);
        [$px, $py, $pz] = $this->bodies->placeOf($this->body);
        [$rx, $ry, $rz] = [$place[0] - $px, $place[1] - $py, $place[2] - $pz];
        [$nx, $ny, $nz] = $way;
        $arm = [$ry * $nz - $rz * $ny, $rz * $nx - $rx * $nz, $rx * $ny - $ry * $nx];
        $speed = $velocity[0] * $nx + $velocity[1] * $ny + $velocity[2] * $nz + $spin[0] * $arm[0] + $spin[1] * $arm[1] + $spin[2] * $arm[2];
        if ($speed <= $most) {
            return;
        }
        $turned = $this->bodies->turnedBy($this->body, $arm);
        $per = 1.0 / $this->bodies->mass[$this->body];
        $j = ($most - $speed) / ($per + $turned[0] * $arm[0] + $turned[1] * $arm[1] + $turned[2] * $arm[2]);
        $this->bodies->setVelocity(
            $this->body,
            [$velocity[0] + $j * $per * $nx, $velocity[1] + $j * $per * $ny, $velocity[2] + $j * $per * $nz],
            [$spin[0] + $j * $turned[0], $spin[1] + $j * $turned[1], $spin[2] + $j * $turned[2]],
        );
    }

    /** @param array{float, float, float} $v */
    private static function length(array $v): float
    {
        return sqrt($v[0] ** 2 + $v[1] ** 2 + $v[2] ** 2);
    }
}
