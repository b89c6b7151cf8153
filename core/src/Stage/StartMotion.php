<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;

/** What each piece of a prop is given of its own as it lets go, beside what all are given: away from the middle, off the surface, any way. */
final readonly class StartMotion
{
    private Settings $settings;

    public function __construct(private Prop $prop, private BrokenProp $broken, private Surfaces $others, private int $seed)
    {
        $this->settings = $prop->mover->settings;
    }

    /**
     * @param array{float, float, float, float} $rotation of the prop as the piece lets go
     *
     * @return array{float, float, float} in the world, m/s
     */
    public function velocity(int $piece, array $rotation): array
    {
        [$ox, $oy, $oz] = $this->settings->float('outward') === 0.0 ? [0.0, 0.0, 0.0] : $this->outward($piece);
        [$nx, $ny, $nz] = $this->settings->float('normal') === 0.0 ? [0.0, 0.0, 0.0] : $this->offTheSurface($piece);
        $own = [$ox + $nx, $oy + $ny, $oz + $nz];
        $velocity = $own === [0.0, 0.0, 0.0] ? $own : Quaternion::rotate($rotation, $own);
        $most = $this->settings->float('random');
        if ($most <= 0.0) {
            return $velocity;
        }
        $random = RandomStream::named($this->seed, 'start', $piece);
        [$rx, $ry, $rz] = $random->direction();
        // As many at each speed as there is room in a ball: no crowd at the middle.
        $far = $most * $random->float() ** (1.0 / 3.0);

        return [$velocity[0] + $far * $rx, $velocity[1] + $far * $ry, $velocity[2] + $far * $rz];
    }

    /** @return array{float, float, float} in the prop's axes */
    private function outward(int $piece): array
    {
        $centre = $this->broken->centre($piece);
        [$low, $high] = $this->broken->bounds;
        $out = [$centre[0] - 0.5 * ($low[0] + $high[0]), $centre[1] - 0.5 * ($low[1] + $high[1]), $centre[2] - 0.5 * ($low[2] + $high[2])];
        $far = sqrt($out[0] ** 2 + $out[1] ** 2 + $out[2] ** 2);
        $speed = $far > 1e-9 ? $this->settings->float('outward') / $far : 0.0;

        return [$speed * $out[0], $speed * $out[1], $speed * $out[2]];
    }

    /** @return array{float, float, float} in the prop's axes */
    private function offTheSurface(int $piece): array
    {
        $tree = $this->others->own($this->prop);
        [$x, $y, $z] = $this->broken->centre($piece);
        [$nx, $ny, $nz] = $tree->facing($tree->nearest($x, $y, $z, INF), $x, $y, $z);
        $speed = $this->settings->float('normal');

        return [$speed * $nx, $speed * $ny, $speed * $nz];
    }

    /**
     * @param float $most rad/s
     *
     * @return array{float, float, float} about any axis, up to so fast, rad/s
     */
    public function spin(int $piece, float $most): array
    {
        if ($most <= 0.0) {
            return [0.0, 0.0, 0.0];
        }
        $random = RandomStream::named($this->seed, 'start spin', $piece);
        [$x, $y, $z] = $random->direction();
        $fast = $most * $random->float();

        return [$fast * $x, $fast * $y, $fast * $z];
    }
}
