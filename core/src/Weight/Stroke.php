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
     * @param non-empty-list<array{float, float, float}> $points in the prop's own space, m
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
     * @return array<int, float> how far places are from the line, m, by their number; those farther than the reach are left out
     */
    public function distances(SampleGrid $grid, float $reach): array
    {
        [$x, $y, $z] = [$grid->samples->x, $grid->samples->y, $grid->samples->z];
        $limit = $reach * $reach;
        $found = [];
        // A single dab is a line of no length.
        $from = $this->points[0];
        foreach (count($this->points) > 1 ? array_slice($this->points, 1) : $this->points as $to) {
            [$ax, $ay, $az] = $from;
            [$ux, $uy, $uz] = [$to[0] - $ax, $to[1] - $ay, $to[2] - $az];
            $square = $ux * $ux + $uy * $uy + $uz * $uz;
            $over = $square > 0.0 ? 1.0 / $square : 0.0;
            $low = [min($ax, $to[0]) - $reach, min($ay, $to[1]) - $reach, min($az, $to[2]) - $reach];
            $high = [max($ax, $to[0]) + $reach, max($ay, $to[1]) + $reach, max($az, $to[2]) + $reach];
            foreach ($grid->within($low, $high) as $cell) {
                foreach ($cell as $k) {
                    $px = $x[$k] - $ax;
                    $py = $y[$k] - $ay;
                    $pz = $z[$k] - $az;
                    $share = ($px * $ux + $py * $uy + $pz * $uz) * $over;
                    $share = $share < 0.0 ? 0.0 : ($share > 1.0 ? 1.0 : $share);
                    $px -= $share * $ux;
                    $py -= $share * $uy;
                    $pz -= $share * $uz;
                    $far = $px * $px + $py * $py + $pz * $pz;
                    if ($far <= ($found[$k] ?? $limit)) {
                        $found[$k] = $far;
                    }
                }
            }
            $from = $to;
        }

        return array_map(sqrt(...), $found);
    }

    /** @return list<mixed> */
    public function inputs(): array
    {
        return [$this->mode, $this->radius, $this->softness, $this->strength, $this->points];
    }
}
