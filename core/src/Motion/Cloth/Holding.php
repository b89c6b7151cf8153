<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Math\Quaternion;

/**
 * Holds vertices to the place that they have in their prop. What is held wholly is there; what is held in part is drawn there, its
 * place and its speed alike, so that neither letting go nor taking back is a jolt. A pose is the position, rotation and scale of a prop.
 *
 * @phpstan-type Pose array{array{float, float, float}, array{float, float, float, float}, array{float, float, float}}
 */
final class Holding
{
    /** How fast what is held by half comes back, 1/s. */
    private const RATE = 24.0;

    /** How many of those substeps are over. */
    private int $over = 0;

    /**
     * @param array<int, float> $rx places at rest, in the prop's axes
     * @param array<int, float> $ry
     * @param array<int, float> $rz
     * @param array{array<int, float>, array<int, float>, array<int, float>}|null $was their places when the first substep begins, if they are others
     * @param int $substeps in how many they go from there to these
     */
    public function __construct(private readonly array $rx, private readonly array $ry, private readonly array $rz, private readonly ?array $was = null, private readonly int $substeps = 1)
    {
    }

    /**
     * @param Pose $pose
     *
     * @return array{float, float, float, float, float, float, float, float, float} what scales, then turns; row by row
     */
    private static function matrix(array $pose): array
    {
        [$a, $b, $c] = $pose[2];
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = Quaternion::matrix($pose[1]);

        return [$a * $m0, $b * $m1, $c * $m2, $a * $m3, $b * $m4, $c * $m5, $a * $m6, $b * $m7, $c * $m8];
    }

    /**
     * @param Pose $pose
     *
     * @return array{list<float>, list<float>, list<float>} every vertex as it is at rest
     */
    public function posed(array $pose): array
    {
        [$tx, $ty, $tz] = $pose[0];
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = self::matrix($pose);
        $x = $y = $z = [];
        foreach ($this->rx as $i => $a) {
            $b = $this->ry[$i];
            $c = $this->rz[$i];
            $x[] = $m0 * $a + $m1 * $b + $m2 * $c + $tx;
            $y[] = $m3 * $a + $m4 * $b + $m5 * $c + $ty;
            $z[] = $m6 * $a + $m7 * $b + $m8 * $c + $tz;
        }

        return [$x, $y, $z];
    }

    /**
     * @param int $substeps that are over
     *
     * @return array{array<int, float>, array<int, float>, array<int, float>} how far vertices have come on their way then
     */
    private function restAfter(int $substeps): array
    {
        $rest = [$this->rx, $this->ry, $this->rz];
        if ($this->was === null || $this->was === $rest || $substeps >= $this->substeps) {
            return $rest;
        }
        $share = $substeps / $this->substeps;
        $between = static fn (float $from, float $to): float => $from + $share * ($to - $from);

        return [array_map($between, $this->was[0], $rest[0]), array_map($between, $this->was[1], $rest[1]), array_map($between, $this->was[2], $rest[2])];
    }

    /**
     * The next substep.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param list<int> $held vertices
     * @param array<int, float> $hold how far each vertex is held, 0 to 1
     * @param Pose $was when the substep begins
     * @param Pose $is when it ends
     * @param float $h its length, s
     */
    public function draw(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $held, array $hold, array $was, array $is, float $h): void
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = self::matrix($is);
        [$n0, $n1, $n2, $n3, $n4, $n5, $n6, $n7, $n8] = self::matrix($was);
        [[$tx, $ty, $tz], [$ox, $oy, $oz]] = [$is[0], $was[0]];
        [$sx, $sy, $sz] = $this->restAfter($this->over);
        [$rx, $ry, $rz] = $this->restAfter(++$this->over);
        foreach ($held as $i) {
            $a = $rx[$i];
            $b = $ry[$i];
            $c = $rz[$i];
            $u = $m0 * $a + $m1 * $b + $m2 * $c + $tx;
            $v = $m3 * $a + $m4 * $b + $m5 * $c + $ty;
            $w = $m6 * $a + $m7 * $b + $m8 * $c + $tz;
            $a = $sx[$i];
            $b = $sy[$i];
            $c = $sz[$i];
            $p = $n0 * $a + $n1 * $b + $n2 * $c + $ox;
            $q = $n3 * $a + $n4 * $b + $n5 * $c + $oy;
            $r = $n6 * $a + $n7 * $b + $n8 * $c + $oz;
            $s = $hold[$i];
            if ($s < 1.0) {
                $s = $s * $s * (3.0 - 2.0 * $s);
                $s = 1.0 - exp(-self::RATE * $h * $s / (1.001 - $s));
                $u = $x[$i] + $s * ($u - $x[$i]);
                $v = $y[$i] + $s * ($v - $y[$i]);
                $w = $z[$i] + $s * ($w - $z[$i]);
                $p = $px[$i] + $s * ($p - $px[$i]);
                $q = $py[$i] + $s * ($q - $py[$i]);
                $r = $pz[$i] + $s * ($r - $pz[$i]);
            }
            $x[$i] = $u;
            $y[$i] = $v;
            $z[$i] = $w;
            $px[$i] = $p;
            $py[$i] = $q;
            $pz[$i] = $r;
        }
    }
}
