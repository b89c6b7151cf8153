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

    private PieceDirections $directions;

    public function __construct(Prop $prop, BrokenProp $broken, Surfaces $others, private int $seed)
    {
        $this->settings = $prop->mover->settings;
        $this->directions = new PieceDirections($prop, $broken, $others);
    }

    /**
     * @param array{float, float, float, float} $rotation of the prop as the piece lets go
     *
     * @return array{float, float, float} in the world, m/s
     */
    public function velocity(int $piece, array $rotation): array
    {
        [$outward, $normal] = [$this->settings->float('outward'), $this->settings->float('normal')];
        [$ox, $oy, $oz] = $outward === 0.0 ? [0.0, 0.0, 0.0] : $this->directions->outward($piece);
        [$nx, $ny, $nz] = $normal === 0.0 ? [0.0, 0.0, 0.0] : $this->directions->offTheSurface($piece);
        $velocity = Quaternion::rotate($rotation, [$outward * $ox + $normal * $nx, $outward * $oy + $normal * $ny, $outward * $oz + $normal * $nz]);
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
