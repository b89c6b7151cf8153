<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\SiteGrid;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Light\Cover;

/** The flakes that have not let go lie over their core: what comes to it lies on them. */
final class HeldFlakes implements Cover
{
    /** So many of them are measured to tell how high any stands. */
    private const MEASURED = 40;

    /** @var array<int, true> flakes that have gone */
    private array $gone = [];

    /** None if there are none. */
    private readonly ?SiteGrid $grid;

    /** @var array<int, float> middles of the flakes, in the prop's space */
    private array $x = [];

    /** @var array<int, float> */
    private array $y = [];

    /** @var array<int, float> */
    private array $z = [];

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
        for ($k = 1; $k < count($broken->pieces); $k++) {
            [$this->x[], $this->y[], $this->z[]] = $broken->centre($k);
        }
        [$low, $high] = $broken->bounds;
        [$a, $b, $c] = [$high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]];
        // As far apart as so many squares over the bounds.
        $this->grid = $this->x === [] ? null : SiteGrid::of($this->x, $this->y, $this->z, sqrt(2.0 * ($a * $b + $b * $c + $c * $a) / max(1, count($this->x))));
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
        if ($this->most === null) {
            // They are of one make: some say it of all, with room for the largest and those at sharp edges.
            $this->most = 0.0;
            for ($k = 1, $count = count($this->broken->pieces); $k < $count; $k += max(1, intdiv($count, self::MEASURED))) {
                $this->most = max($this->most, 2.0 * $this->height($k));
            }
        }

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
        if ($this->grid === null) {
            return null;
        }
        $flake = $this->grid->nearest($this->x, $this->y, $this->z, [$x], [$y], [$z])[0];
        $far = ($x - $this->x[$flake]) ** 2 + ($y - $this->y[$flake]) ** 2 + ($z - $this->z[$flake]) ** 2;
        // What does not reach there does not cover it: bits lie apart. The core is the first piece.
        [$a, $b, $c] = $this->broken->sizes[$flake + 1];

        return 4.0 * $far <= $a * $a + $b * $b + $c * $c ? $flake + 1 : null;
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
