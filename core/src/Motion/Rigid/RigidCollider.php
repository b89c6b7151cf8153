<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use Closure;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Touch;

/** A hard body with its true surface, as others may touch it. */
final readonly class RigidCollider implements Collider
{
    /** What lies on it does not wake it, what falls on it does; m/s in a substep. */
    private const WAKING = 0.05;

    /** Whatever firm comes at it faster than this wakes it, m/s. */
    private const ROUSED = 0.001;

    /** Cloth that was drawn tight gives back so much of what drew it: it rubs in itself. Common practice, no source. */
    private const GIVEN_BACK = 0.5;

    /** What rolls on what bends is slowed by so much of what presses on it, at its own size: it lies in a hollow of that width. Common practice, no source. */
    private const ROLLS = 0.3;

    /** A ball's mass times its radius squared, over its inertia, and that for three axes. */
    private const BALL = 2.5 * 3.0;

    /** What sleeps on something hard is woken by what draws it harder than this, m/s2. */
    private const DRAWN = 0.5;

    /**
     * @param string $name tells it from all others
     * @param array{float, float, float} $origin of the surface's axes from the body's centre, in the body's axes
     * @param Closure(): SurfaceTree $surface made when it is first needed, and kept by whoever gives it
     * @param int $shape which shape of the body it is; -1: more than one
     */
    public function __construct(
        private string $name,
        private RigidBodies $bodies,
        private int $body,
        private array $origin,
        private Closure $surface,
        private float $friction,
        private int $shape = -1,
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

    public function mass(): float
    {
        return $this->bodies->free[$this->body] ? $this->bodies->mass[$this->body] : INF;
    }

    public function travel(float $dt): float
    {
        [$velocity, $spin] = $this->bodies->velocity($this->body);
        $radius = $this->bodies->bodyRadius[$this->body];

        return $dt * (self::length($velocity) + $radius * self::length($spin)) + $this->growth($dt);
    }

    public function growth(float $dt): float
    {
        return $dt * $this->bodies->bodyRadius[$this->body] * max(array_map(abs(...), $this->bodies->growth[$this->body] ?? [0.0]));
    }

    public function push(Touch $touch): void
    {
        if (! $this->bodies->free[$this->body]) {
            return;
        }
        $sleeps = $this->bodies->isAsleep($this->body);
        $carried = $this->carry();
        $mass = $this->bodies->mass[$this->body];
        $touch = $touch->against === null ? $touch : $touch->times($this->helped($touch->impulse, $touch->against));
        $by = self::length($touch->impulse) / $mass;
        $share = $by > $touch->most ? $touch->most / $by : 1.0;
        if ($sleeps) {
            if ($share * $by < self::WAKING && ! ($carried && $touch->moves)) {
                return;
            }
            $this->bodies->wake($this->body);
        }
        $touch = $touch->times($share);
        [$velocity, $spin] = $this->after($touch->impulse, $touch->moment);
        $this->bodies->setVelocity($this->body, $velocity, $this->rolling($spin, $share * $by * $mass));
    }

    /** What bends is at it, and may carry it, so that it comes to rest on it or hanging from it; what sleeps on something hard does not care. Whether it carries it. */
    private function carry(): bool
    {
        $carried = ! $this->bodies->isAsleep($this->body) || $this->bodies->carried->has($this->body);
        if ($carried) {
            $this->bodies->carried->touch($this->body);
        }

        return $carried;
    }

    public function feels(): bool
    {
        return $this->bodies->free[$this->body] || $this->bodies->strikes->isAwaited($this->body);
    }

    public function meet(array $place, array $way, float $goes, float $spare): void
    {
        $speed = Vector::dot($this->speedAt($place), $way) - $goes;
        if ($speed < $spare) {
            return;
        }
        $this->bodies->strikes->note($this->body, $speed, $place);
        if ($speed > self::ROUSED && $this->bodies->free[$this->body] && $this->bodies->isAsleep($this->body) && ! $this->bodies->strikes->isAwaited($this->body)) {
            $this->bodies->wake($this->body);
        }
    }

    public function bear(float $force): void
    {
        if ($this->shape >= 0) {
            $this->bodies->strikes->blow($this->shape, $force);
        }
    }

    public function yields(array $place): float
    {
        if (! $this->bodies->free[$this->body]) {
            return 0.0;
        }
        [$x, $y, $z] = Vector::minus($place, $this->bodies->placeOf($this->body));
        $sum = 1.0 / $this->bodies->mass[$this->body];
        foreach ([[0.0, $z, -$y], [-$z, 0.0, $x], [$y, -$x, 0.0]] as $arm) {
            // About each axis: together no less than about the one about which it turns most easily.
            $sum += Vector::dot($this->bodies->turnedBy($this->body, $arm), $arm);
        }

        return $sum;
    }

    public function pull(array $impulse, array $moment, bool $moves, float $h): void
    {
        if (! $this->bodies->free[$this->body]) {
            return;
        }
        $carried = $this->carry();
        if ($this->bodies->isAsleep($this->body)) {
            if (! $moves || (! $carried && self::length($impulse) < self::DRAWN * $h * $this->bodies->mass[$this->body])) {
                return;
            }
            $this->bodies->wake($this->body);
        }
        $this->bodies->setVelocity($this->body, ...$this->after($impulse, $moment));
    }

    /**
     * @param array{float, float, float} $impulse N s
     * @param array{float, float, float} $moment of it about the world's origin, N m s
     *
     * @return array{array{float, float, float}, array{float, float, float}} velocity and spin once it has acted
     */
    private function after(array $impulse, array $moment): array
    {
        $mass = $this->bodies->mass[$this->body];
        [$velocity, $spin] = $this->bodies->velocity($this->body);
        [$px, $py, $pz] = $this->bodies->placeOf($this->body);
        [[$jx, $jy, $jz], [$kx, $ky, $kz]] = [$impulse, $moment];
        $turned = $this->bodies->turnedBy($this->body, [$kx - $py * $jz + $pz * $jy, $ky - $pz * $jx + $px * $jz, $kz - $px * $jy + $py * $jx]);

        return [
            [$velocity[0] + $jx / $mass, $velocity[1] + $jy / $mass, $velocity[2] + $jz / $mass],
            [$spin[0] + $turned[0], $spin[1] + $turned[1], $spin[2] + $turned[2]],
        ];
    }

    /**
     * How many times as hard what is held pushes as it could alone: as if nothing weighed more than it does; less where what it pushes goes away from it already.
     *
     * @param array{float, float, float} $impulse N s
     * @param float $against kg
     */
    private function helped(array $impulse, float $against): float
    {
        $velocity = $this->bodies->velocity($this->body)[0];
        $away = $velocity[0] * $impulse[0] + $velocity[1] * $impulse[1] + $velocity[2] * $impulse[2] > 0.0;

        return ($away ? self::GIVEN_BACK : 1.0) * max(1.0, $this->bodies->mass[$this->body] / max(1e-12, $against));
    }

    /**
     * @param array{float, float, float} $spin rad/s
     * @param float $impulse with which it is pressed on, N s
     *
     * @return array{float, float, float} what rolling on what gives leaves of its spin
     */
    private function rolling(array $spin, float $impulse): array
    {
        $speed = self::length($spin);
        if ($speed <= 0.0) {
            return $spin;
        }
        $axis = [$spin[0] / $speed, $spin[1] / $speed, $spin[2] / $speed];
        $turned = $this->bodies->turnedBy($this->body, $axis);
        $slower = self::ROLLS * $this->roundness() * $impulse * ($turned[0] * $axis[0] + $turned[1] * $axis[1] + $turned[2] * $axis[2]);
        $left = max(0.0, 1.0 - $slower / $speed);

        return [$left * $spin[0], $left * $spin[1], $left * $spin[2]];
    }

    /** Radius of what rolls: of a ball its own; of what is long, that of what turns most easily, for end over end it does not roll, m. */
    private function roundness(): float
    {
        $o = 6 * $this->body;
        $most = $this->bodies->inverse[$o] + $this->bodies->inverse[$o + 1] + $this->bodies->inverse[$o + 2];

        return min($this->bodies->bodyRadius[$this->body], sqrt(self::BALL / ($most * $this->bodies->mass[$this->body])));
    }

    public function stop(array $place, array $way, float $most, float $friction, float $bears): float
    {
        if (! $this->bodies->free[$this->body] || $this->bodies->isAsleep($this->body)) {
            return 0.0;
        }
        [$u, $v, $w] = $this->speedAt($place);
        [$a, $b, $c] = $way;
        $speed = $u * $a + $v * $b + $w * $c;
        if ($speed <= $most) {
            return 0.0;
        }
        $takes = $this->slow($place, $way, $speed - $most, $bears);
        [$u, $v, $w] = $this->speedAt($place);
        $along = $u * $a + $v * $b + $w * $c;
        $across = [$u - $along * $a, $v - $along * $b, $w - $along * $c];
        $slides = self::length($across);
        if ($slides > 0.0) {
            $this->slow($place, [$across[0] / $slides, $across[1] / $slides, $across[2] / $slides], $slides, $friction * min($takes, $bears));
        }
        [$velocity, $spin] = $this->bodies->velocity($this->body);
        $this->bodies->setVelocity($this->body, $velocity, $this->rolling($spin, min($takes, $bears)));

        return $takes;
    }

    /**
     * @param array{float, float, float} $place in the world, m
     *
     * @return array{float, float, float} m/s
     */
    private function speedAt(array $place): array
    {
        [[$u, $v, $w], [$a, $b, $c]] = $this->bodies->velocity($this->body);
        [$px, $py, $pz] = $this->bodies->placeOf($this->body);
        [$x, $y, $z] = [$place[0] - $px, $place[1] - $py, $place[2] - $pz];

        return [$u + $b * $z - $c * $y, $v + $c * $x - $a * $z, $w + $a * $y - $b * $x];
    }

    /**
     * Takes so much from its speed at a place along a way.
     *
     * @param array{float, float, float} $place in the world, m
     * @param array{float, float, float} $way unit
     * @param float $by m/s
     * @param float $most N s
     *
     * @return float N s that it takes
     */
    private function slow(array $place, array $way, float $by, float $most): float
    {
        [$velocity, $spin] = $this->bodies->velocity($this->body);
        [$px, $py, $pz] = $this->bodies->placeOf($this->body);
        [$x, $y, $z] = [$place[0] - $px, $place[1] - $py, $place[2] - $pz];
        [$a, $b, $c] = $way;
        $arm = [$y * $c - $z * $b, $z * $a - $x * $c, $x * $b - $y * $a];
        $turned = $this->bodies->turnedBy($this->body, $arm);
        $per = 1.0 / $this->bodies->mass[$this->body];
        $takes = $by / ($per + $turned[0] * $arm[0] + $turned[1] * $arm[1] + $turned[2] * $arm[2]);
        $impulse = min($most, $takes);
        $this->bodies->setVelocity(
            $this->body,
            [$velocity[0] - $impulse * $per * $a, $velocity[1] - $impulse * $per * $b, $velocity[2] - $impulse * $per * $c],
            [$spin[0] - $impulse * $turned[0], $spin[1] - $impulse * $turned[1], $spin[2] - $impulse * $turned[2]],
        );

        return $takes;
    }

    /** @param array{float, float, float} $v */
    private static function length(array $v): float
    {
        return sqrt($v[0] ** 2 + $v[1] ** 2 + $v[2] ** 2);
    }
}
