<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Light\Cover;

/** The flakes that have not let go lie over their core: what comes to it lies on them. */
final class HeldFlakes implements Cover
{
    /** @var array<int, true> flakes that have gone */
    private array $gone = [];

    /** Length of a cell that centres are sorted into, m. */
    private float $cell = 1.0;

    /** @var array<int, array<int, array<int, list<int>>>> flakes by the cell of their centre */
    private array $cells = [];

    /** @var array<int, float> how high each stands above the core, where it was asked */
    private array $high = [];

    private ?float $most = null;

    /** How many times as large the prop is now. */
    private float $scale = 1.0;

    /**
     * @param Closure(): SurfaceTree $core in the prop's space, as it was broken
     */
    public function __construct(private readonly BrokenProp $broken, private readonly Closure $core)
    {
        $count = max(1, count($broken->pieces) - 1);
        [$low, $high] = $broken->bounds;
        [$a, $b, $c] = [$high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]];
        // As long as a flake is wide, about: that many squares over the bounds.
        $this->cell = max(1e-6, sqrt(2.0 * ($a * $b + $b * $c + $c * $a) / $count));
        for ($k = 1; $k < count($broken->pieces); $k++) {
            [$x, $y, $z] = $broken->centre($k);
            $this->cells[(int) floor($x / $this->cell)][(int) floor($y / $this->cell)][(int) floor($z / $this->cell)][] = $k;
        }
    }

    public function grow(float $scale): void
    {
        $this->scale = $scale;
    }

    public function goes(int $flake): void
    {
        $this->gone[$flake] = true;
    }

    public function number(): int
    {
        return count($this->gone);
    }

    public function most(): float
    {
        // Flakes are of one make: how high one stands says it of all, with room for those at sharp edges.
        $this->most ??= count($this->broken->pieces) > 1 ? 2.0 * $this->height(1) : 0.0;

        return $this->most * $this->scale;
    }

    public function at(float $x, float $y, float $z): float
    {
        $scale = $this->scale;
        $flake = $this->nearest($x / $scale, $y / $scale, $z / $scale);

        return $flake === null || isset($this->gone[$flake]) ? 0.0 : min($this->most(), $scale * $this->height($flake));
    }

    /** The flake whose middle is nearest, if it reaches there. */
    private function nearest(float $x, float $y, float $z): ?int
    {
        [$i, $j, $k] = [(int) floor($x / $this->cell), (int) floor($y / $this->cell), (int) floor($z / $this->cell)];
        $nearest = null;
        $best = INF;
        for ($a = $i - 1; $a <= $i + 1; $a++) {
            for ($b = $j - 1; $b <= $j + 1; $b++) {
                for ($c = $k - 1; $c <= $k + 1; $c++) {
                    foreach ($this->cells[$a][$b][$c] ?? [] as $flake) {
                        [$cx, $cy, $cz] = $this->broken->mass[$flake]->centre;
                        $d = ($x - $cx) ** 2 + ($y - $cy) ** 2 + ($z - $cz) ** 2;
                        if ($d < $best) {
                            [$best, $nearest] = [$d, $flake];
                        }
                    }
                }
            }
        }

        if ($nearest === null) {
            return null;
        }
        // What does not reach there does not cover it: bits lie apart.
        [$a, $b, $c] = $this->broken->sizes[$nearest];

        return 4.0 * $best <= $a * $a + $b * $b + $c * $c ? $nearest : null;
    }

    /** How far a flake's outside is from the core, m. */
    private function height(int $flake): float
    {
        if (! isset($this->high[$flake])) {
            $mesh = $this->broken->pieces->mesh($flake);
            $core = ($this->core)();
            $high = 0.0;
            foreach ($mesh->x as $n => $x) {
                $core->look($core->nearest($x, $mesh->y[$n], $mesh->z[$n], INF), $x, $mesh->y[$n], $mesh->z[$n]);
                $high = max($high, $core->distance);
            }
            $this->high[$flake] = $high;
        }

        return $this->high[$flake];
    }
}
