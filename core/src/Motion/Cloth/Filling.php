<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * What a closed part of a cloth is filled with: one constraint on its volume (Müller, Heidelberger, Hennix and Ratcliff 2007,
 * "Position based dynamics", section 4.4, without their compliance), which pushes with a pressure of its own making up to a limit.
 */
final readonly class Filling
{
    /**
     * @param list<int> $vertices of the cloth
     * @param list<int> $triangles three numbers of those each
     * @param float $volume as it was woven, m3
     */
    private function __construct(private array $vertices, private array $triangles, private float $volume)
    {
    }

    /** @return list<self> of each part that has an inside */
    public static function of(Weave $weave): array
    {
        $fillings = [];
        foreach (Topology::closedParts(new TriangleMesh($weave->x, $weave->y, $weave->z, $weave->triangles)) as [$vertices, $part]) {
            $volume = MassProperties::of($part)->volume;
            if ($volume > 0.0) {
                $fillings[] = new self($vertices, array_values($part->triangles), $volume);
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
        // What a pressure of one does to a vertex is how the volume changes with it; of the third degree, the volume is a third
        // of the places times that, seen from any place: from one of its own it is as exact wherever the cloth is.
        [$f, $g, $h] = Advance::pressed($a, $b, $c, $this->triangles, array_fill(0, count($a), 1.0));
        $volume = 0.0;
        foreach ($f as $i => $fx) {
            $volume += $fx * ($a[$i] - $a[0]) + $g[$i] * ($b[$i] - $b[0]) + $h[$i] * ($c[$i] - $c[0]);
        }
        $volume /= 3.0;
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
}
