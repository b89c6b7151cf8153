<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use LogicException;

/** One stroke of a brush: a ball that is led along a line. */
final readonly class Stroke
{
    /** Each with the way in which a mirrored stroke lies. */
    private const MIRRORS = ['none' => null, 'x' => 0, 'y' => 1, 'z' => 2];

    /**
     * @param string $mode add, remove, or soften: what was painted before gets a softer edge there
     * @param float $radius of the brush, m
     * @param float $softness share of the radius on which its edge is soft, 0 to 1
     * @param float $strength of one stroke, 0 to 1
     * @param list<array{float, float, float}> $points at least one, in the prop's own space, m
     */
    public function __construct(
        public string $mode,
        public float $radius,
        public float $softness,
        public float $strength,
        public array $points,
    ) {
    }

    /**
     * @param string $mirror none, x, y or z: across the plane through the middle, square to that axis
     * @param array{float, float, float} $middle
     *
     * @return list<self> the stroke, and the one on the other side
     */
    public function mirrored(string $mirror, array $middle): array
    {
        if (! array_key_exists($mirror, self::MIRRORS)) {
            throw new LogicException("There is no mirror “{$mirror}”.");
        }
        $axis = self::MIRRORS[$mirror];
        if ($axis === null) {
            return [$this];
        }
        $across = array_map(static function (array $point) use ($axis, $middle): array {
            $point[$axis] = 2.0 * $middle[$axis] - $point[$axis];

            return $point;
        }, $this->points);

        return [$this, new self($this->mode, $this->radius, $this->softness, $this->strength, $across)];
    }

    /**
     * @param float $reach m
     *
     * @return array<int, float> how far places are from the line, m, by their number; those farther than the reach may be left out
     */
    public function distances(Samples $at, float $reach): array
    {
        [$x, $y, $z] = [$at->x, $at->y, $at->z];
        [$lx, $ly, $lz, $hx, $hy, $hz] = $this->box($reach);
        $found = [];
        foreach ($x as $k => $px) {
            $py = $y[$k];
            $pz = $z[$k];
            if ($px >= $lx && $px <= $hx && $py >= $ly && $py <= $hy && $pz >= $lz && $pz <= $hz) {
                $found[$k] = INF;
            }
        }
        // A single dab is a line of no length.
        $from = $this->points[0];
        foreach (count($this->points) > 1 ? array_slice($this->points, 1) : $this->points as $to) {
            [$ax, $ay, $az] = $from;
            [$ux, $uy, $uz] = [$to[0] - $ax, $to[1] - $ay, $to[2] - $az];
            $square = $ux * $ux + $uy * $uy + $uz * $uz;
            $over = $square > 0.0 ? 1.0 / $square : 0.0;
            foreach ($found as $k => $least) {
                $px = $x[$k] - $ax;
                $py = $y[$k] - $ay;
                $pz = $z[$k] - $az;
                $share = ($px * $ux + $py * $uy + $pz * $uz) * $over;
                $share = $share < 0.0 ? 0.0 : ($share > 1.0 ? 1.0 : $share);
                $px -= $share * $ux;
                $py -= $share * $uy;
                $pz -= $share * $uz;
                $far = $px * $px + $py * $py + $pz * $pz;
                if ($far < $least) {
                    $found[$k] = $far;
                }
            }
            $from = $to;
        }

        return array_map(sqrt(...), $found);
    }

    /** @return array{float, float, float, float, float, float} around all that is nearer than the reach */
    private function box(float $reach): array
    {
        [$lx, $ly, $lz] = [$hx, $hy, $hz] = $this->points[0];
        foreach ($this->points as [$x, $y, $z]) {
            [$lx, $ly, $lz] = [min($lx, $x), min($ly, $y), min($lz, $z)];
            [$hx, $hy, $hz] = [max($hx, $x), max($hy, $y), max($hz, $z)];
        }

        return [$lx - $reach, $ly - $reach, $lz - $reach, $hx + $reach, $hy + $reach, $hz + $reach];
    }

    /** @return list<mixed> */
    public function inputs(): array
    {
        return [$this->mode, $this->radius, $this->softness, $this->strength, $this->points];
    }
}
