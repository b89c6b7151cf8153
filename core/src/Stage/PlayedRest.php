<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Weight\Samples;

/**
 * Where places of a prop are in its own axes as its file moves it: each goes with the triangle of the file that is nearest to it at
 * rest, and keeps its place in the axes of that.
 */
final class PlayedRest
{
    /** Raised when places are others for the same file and settings. */
    public const VERSION = 'played 1';

    /** Triangles thinner than this, as a share of their longest side, have no axes of their own. */
    private const THIN = 1e-6;

    /** @var array{float, array{list<float>, list<float>, list<float>}}|null frame asked about last, and where all were */
    private ?array $known = null;

    /**
     * @param list<array{int, int, int}> $corners of the triangle that each place goes with
     * @param list<array{float, float, float}> $shares of its two sides and of its normal, from the first corner
     * @param array{float, float, float} $scale how many times as large the places are told
     */
    private function __construct(private readonly MovingMesh $mesh, private readonly Settings $played, private readonly float $fps, private readonly array $corners, private readonly array $shares, private readonly array $scale)
    {
    }

    /**
     * @param Samples $at places, in the prop's axes
     * @param array{float, float, float} $scale how many times as large they are to be told
     *
     * @return self|null null: the prop does not play its file
     */
    public static function of(Prop $prop, Samples $at, array $scale, Surfaces $surfaces): ?self
    {
        $mesh = $surfaces->moving($prop);
        if ($mesh === null) {
            return null;
        }
        $rest = $mesh->rest;
        $tree = SurfaceTree::of($rest, false);
        $corners = $shares = [];
        foreach ($at->x as $k => $x) {
            [$triangle] = $tree->seat($tree->nearest($x, $at->y[$k], $at->z[$k], INF), $x, $at->y[$k], $at->z[$k]);
            [$a, $b, $c] = $own = [$rest->triangles[3 * $triangle], $rest->triangles[3 * $triangle + 1], $rest->triangles[3 * $triangle + 2]];
            $corners[] = $own;
            $shares[] = self::within(self::axes([$rest->x, $rest->y, $rest->z], $a, $b, $c), [$x - $rest->x[$a], $at->y[$k] - $rest->y[$a], $at->z[$k] - $rest->z[$a]]);
        }

        return new self($mesh, $prop->played, $prop->time->fps, $corners, $shares, $scale);
    }

    /** @return array{list<float>, list<float>, list<float>} by axis, m */
    public function at(float $frame): array
    {
        if (($this->known[0] ?? null) !== $frame) {
            $this->known = [$frame, $this->places($this->mesh->at($this->secondsAt($frame)))];
        }

        return $this->known[1];
    }

    /** How much of the file has been played at a frame, s. */
    private function secondsAt(float $frame): float
    {
        $long = $this->mesh->seconds;
        $seconds = ($frame - $this->played->float('starts')) / $this->fps * 0.01 * $this->played->float('speed');
        if ($seconds <= 0.0 || $long <= 0.0) {
            return 0.0;
        }

        return match ($this->played->string('after')) {
            'repeats' => fmod($seconds, $long),
            'returns' => $long - abs(fmod($seconds, 2.0 * $long) - $long),
            default => min($seconds, $long),
        };
    }

    /**
     * @param array{list<float>, list<float>, list<float>} $mesh
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    private function places(array $mesh): array
    {
        [$mx, $my, $mz] = $mesh;
        [$sx, $sy, $sz] = $this->scale;
        $x = $y = $z = [];
        foreach ($this->corners as $k => [$a, $b, $c]) {
            [$p, $q, $r] = $this->shares[$k];
            [$ax, $ay, $az] = [$mx[$a], $my[$a], $mz[$a]];
            [$ux, $uy, $uz] = [$mx[$b] - $ax, $my[$b] - $ay, $mz[$b] - $az];
            [$vx, $vy, $vz] = [$mx[$c] - $ax, $my[$c] - $ay, $mz[$c] - $az];
            $ox = $ax + $p * $ux + $q * $vx;
            $oy = $ay + $p * $uy + $q * $vy;
            $oz = $az + $p * $uz + $q * $vz;
            if ($r !== 0.0) {
                [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
                // As long as the root of the area: what is off the surface gets as much larger as that.
                $by = $r / max(1e-30, sqrt(sqrt($nx * $nx + $ny * $ny + $nz * $nz)));
                $ox += $by * $nx;
                $oy += $by * $ny;
                $oz += $by * $nz;
            }
            $x[] = $sx * $ox;
            $y[] = $sy * $oy;
            $z[] = $sz * $oz;
        }

        return [$x, $y, $z];
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $places by axis
     *
     * @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}} two sides of a triangle, and its normal
     */
    private static function axes(array $places, int $a, int $b, int $c): array
    {
        [$x, $y, $z] = $places;
        [$ux, $uy, $uz] = [$x[$b] - $x[$a], $y[$b] - $y[$a], $z[$b] - $z[$a]];
        [$vx, $vy, $vz] = [$x[$c] - $x[$a], $y[$c] - $y[$a], $z[$c] - $z[$a]];
        [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
        $by = 1.0 / max(1e-30, sqrt(sqrt($nx * $nx + $ny * $ny + $nz * $nz)));

        return [[$ux, $uy, $uz], [$vx, $vy, $vz], [$by * $nx, $by * $ny, $by * $nz]];
    }

    /**
     * @param array{array{float, float, float}, array{float, float, float}, array{float, float, float}} $axes
     * @param array{float, float, float} $way
     *
     * @return array{float, float, float} how much of each axis makes up the way
     */
    private static function within(array $axes, array $way): array
    {
        [[$ux, $uy, $uz], [$vx, $vy, $vz], [$nx, $ny, $nz]] = $axes;
        [$x, $y, $z] = $way;
        [$uu, $uv, $vv] = [$ux * $ux + $uy * $uy + $uz * $uz, $ux * $vx + $uy * $vy + $uz * $vz, $vx * $vx + $vy * $vy + $vz * $vz];
        $determinant = $uu * $vv - $uv * $uv;
        if ($determinant <= (self::THIN * max($uu, $vv)) ** 2) {
            return [0.0, 0.0, 0.0];
        }
        [$wu, $wv] = [$x * $ux + $y * $uy + $z * $uz, $x * $vx + $y * $vy + $z * $vz];
        $r = ($x * $nx + $y * $ny + $z * $nz) / ($nx * $nx + $ny * $ny + $nz * $nz);

        // What lies on the triangle stays on it, whatever rounding says.
        return [($vv * $wu - $uv * $wv) / $determinant, ($uu * $wv - $uv * $wu) / $determinant, abs($r) * sqrt($uu) < 1e-12 ? 0.0 : $r];
    }
}
