<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/**
 * What a closed part of a cloth is filled with: one constraint on its volume (Müller, Heidelberger, Hennix and Ratcliff 2007,
 * "Position based dynamics", section 4.4, without their compliance), which pushes with a pressure of its own making up to a limit.
 */
final readonly class Filling
{
    /** As it was woven, m3. */
    private float $volume;

    /**
     * @param list<int> $vertices of the cloth
     * @param list<int> $triangles three numbers of those each
     */
    private function __construct(Weave $weave, private array $vertices, private array $triangles)
    {
        [$x, $y, $z] = [[], [], []];
        foreach ($vertices as $v) {
            [$x[], $y[], $z[]] = [$weave->x[$v], $weave->y[$v], $weave->z[$v]];
        }
        $this->volume = $this->gradient($x, $y, $z)[3];
    }

    /** @return list<self> of each part that has an inside */
    public static function of(Weave $weave): array
    {
        $root = range(0, max(0, $weave->count() - 1));
        $find = static function (int $v) use (&$root): int {
            while ($root[$v] !== $v) {
                $v = $root[$v] = $root[$root[$v]];
            }

            return $v;
        };
        /** @var array<string, int> $sides how often each edge is gone along from one end to the other, less the other way */
        $sides = [];
        $t = $weave->triangles;
        for ($k = 0, $end = count($t); $k < $end; $k += 3) {
            foreach ([[$t[$k], $t[$k + 1]], [$t[$k + 1], $t[$k + 2]], [$t[$k + 2], $t[$k]]] as [$a, $b]) {
                $root[$find($a)] = $find($b);
                $sides[min($a, $b) . ' ' . max($a, $b)] = ($sides[min($a, $b) . ' ' . max($a, $b)] ?? 0) + ($a < $b ? 1 : -1);
            }
        }
        $open = [];
        foreach ($sides as $edge => $left) {
            if ($left !== 0) {
                $open[$find((int) $edge)] = true;
            }
        }
        $parts = [];
        for ($k = 0; $k < $end; $k += 3) {
            $of = $find($t[$k]);
            if (! isset($open[$of])) {
                $parts[$of] = [...$parts[$of] ?? [], $t[$k], $t[$k + 1], $t[$k + 2]];
            }
        }
        $fillings = [];
        foreach ($parts as $corners) {
            $vertices = array_values(array_unique($corners));
            $number = array_flip($vertices);
            $filling = new self($weave, $vertices, array_map(static fn (int $v): int => $number[$v], $corners));
            if ($filling->volume > 0.0) {
                $fillings[] = $filling;
            }
        }

        return $fillings;
    }

    /**
     * Brings its volume to a share of what was woven.
     *
     * @param array<int, float> $x of the cloth's vertices, m
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w inverse masses, as shares of the mean vertex's
     * @param float $most how far it may push in the substep: pressure times the substep's length squared, over the mean vertex's mass, 1/m
     */
    public function keep(array &$x, array &$y, array &$z, array $w, float $share, float $most): void
    {
        $a = $b = $c = [];
        foreach ($this->vertices as $v) {
            $a[] = $x[$v];
            $b[] = $y[$v];
            $c[] = $z[$v];
        }
        [$f, $g, $h, $volume] = $this->gradient($a, $b, $c);
        $sum = 0.0;
        foreach ($this->vertices as $i => $v) {
            $sum += $w[$v] * ($f[$i] * $f[$i] + $g[$i] * $g[$i] + $h[$i] * $h[$i]);
        }
        if ($sum <= 0.0) {
            return;
        }
        $push = max(-$most, min($most, ($share * $this->volume - $volume) / $sum));
        foreach ($this->vertices as $i => $v) {
            $s = $push * $w[$v];
            $x[$v] += $s * $f[$i];
            $y[$v] += $s * $g[$i];
            $z[$v] += $s * $h[$i];
        }
    }

    /**
     * How the volume changes with each vertex, m2, and the volume itself, m3: seen from the first vertex, so that it is as
     * exact wherever the cloth is.
     *
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     *
     * @return array{array<int, float>, array<int, float>, array<int, float>, float}
     */
    private function gradient(array $x, array $y, array $z): array
    {
        $f = $g = $h = array_fill(0, count($x), 0.0);
        [$ox, $oy, $oz] = [$x[0], $y[0], $z[0]];
        $t = $this->triangles;
        $volume = 0.0;
        for ($k = 0, $end = count($t); $k < $end; $k += 3) {
            $a = $t[$k];
            $b = $t[$k + 1];
            $c = $t[$k + 2];
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $vx = $x[$c] - $x[$a];
            $vy = $y[$c] - $y[$a];
            $vz = $z[$c] - $z[$a];
            // A third of the area times its direction: what a closed surface gains as one corner moves, summed around the corner.
            $nx = ($uy * $vz - $uz * $vy) / 6.0;
            $ny = ($uz * $vx - $ux * $vz) / 6.0;
            $nz = ($ux * $vy - $uy * $vx) / 6.0;
            $volume += $nx * ($x[$a] - $ox) + $ny * ($y[$a] - $oy) + $nz * ($z[$a] - $oz);
            $f[$a] += $nx;
            $g[$a] += $ny;
            $h[$a] += $nz;
            $f[$b] += $nx;
            $g[$b] += $ny;
            $h[$b] += $nz;
            $f[$c] += $nx;
            $g[$c] += $ny;
            $h[$c] += $nz;
        }

        return [$f, $g, $h, $volume];
    }
}
