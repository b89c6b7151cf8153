<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

/** Edges of a surface that bends, and which of them are sharp as it lies: its rim, and where it is bent. */
final readonly class Edges
{
    /** Square of the cosine between two faces from which on their edge is sharp: about 25 degrees. */
    private const SHARP = 0.82;

    /**
     * @param array<int, int> $triangles they are of
     * @param list<int> $from
     * @param list<int> $to
     * @param list<int> $beside corner across it
     * @param list<int> $across corner on the other side; -1: there is none, or more than one
     */
    private function __construct(public array $triangles, private array $from, private array $to, private array $beside, private array $across)
    {
    }

    /** @param array<int, int> $triangles three vertices each */
    public static function of(array $triangles): self
    {
        $number = $from = $to = $beside = $across = $faces = [];
        for ($t = 0, $end = count($triangles); $t < $end; $t += 3) {
            for ($e = 0; $e < 3; $e++) {
                [$a, $b, $c] = [$triangles[$t + $e], $triangles[$t + ($e + 1) % 3], $triangles[$t + ($e + 2) % 3]];
                if ($a > $b) {
                    [$a, $b] = [$b, $a];
                }
                $k = $number[$a][$b] ?? null;
                if ($k === null) {
                    $number[$a][$b] = count($from);
                    [$from[], $to[], $beside[], $across[], $faces[]] = [$a, $b, $c, -1, 1];
                    continue;
                }
                $across[$k] = ++$faces[$k] === 2 ? $c : -1;
            }
        }

        return new self($triangles, $from, $to, $beside, array_values($across));
    }

    /** @return float how long they are on average, m; 0: there are none */
    public function mean(Bending $surface): float
    {
        [$x, $y, $z] = [$surface->x, $surface->y, $surface->z];
        $sum = 0.0;
        foreach ($this->from as $k => $a) {
            $b = $this->to[$k];
            $sum += sqrt(($x[$b] - $x[$a]) ** 2 + ($y[$b] - $y[$a]) ** 2 + ($z[$b] - $z[$a]) ** 2);
        }

        return $sum / max(1, count($this->from));
    }

    /**
     * Points between the ends of sharp edges.
     *
     * @param float $spacing they are no farther apart than this, m
     *
     * @return array{list<int>, list<int>, list<float>} ends of the edge of each, and how far it is from the first to the second
     */
    public function points(Bending $surface, float $spacing): array
    {
        [$x, $y, $z] = [$surface->x, $surface->y, $surface->z];
        $i = $j = $share = [];
        foreach ($this->from as $k => $a) {
            $b = $this->to[$k];
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $square = $ux * $ux + $uy * $uy + $uz * $uz;
            if ($square <= $spacing * $spacing) {
                continue;
            }
            $c = $this->beside[$k];
            $d = $this->across[$k];
            if ($d >= 0) {
                // Of both faces the way across the edge: in one plane they are opposite.
                $vx = $x[$c] - $x[$a];
                $vy = $y[$c] - $y[$a];
                $vz = $z[$c] - $z[$a];
                $wx = $x[$d] - $x[$a];
                $wy = $y[$d] - $y[$a];
                $wz = $z[$d] - $z[$a];
                $s = ($ux * $vx + $uy * $vy + $uz * $vz) / $square;
                $t = ($ux * $wx + $uy * $wy + $uz * $wz) / $square;
                $vx -= $s * $ux;
                $vy -= $s * $uy;
                $vz -= $s * $uz;
                $wx -= $t * $ux;
                $wy -= $t * $uy;
                $wz -= $t * $uz;
                $dot = $vx * $wx + $vy * $wy + $vz * $wz;
                if ($dot < 0.0 && $dot * $dot > self::SHARP * ($vx * $vx + $vy * $vy + $vz * $vz) * ($wx * $wx + $wy * $wy + $wz * $wz)) {
                    continue;
                }
            }
            $parts = (int) ceil(sqrt($square) / $spacing);
            for ($n = 1; $n < $parts; $n++) {
                $i[] = $a;
                $j[] = $b;
                $share[] = $n / $parts;
            }
        }

        return [$i, $j, $share];
    }
}
