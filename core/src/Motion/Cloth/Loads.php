<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Math\RandomStream;

/** What acts on a cloth for the length of a step: forces and the air around it, pressure behind it; it moves the cloth's vertices on. */
final class Loads
{
    /** @var array{array<int, float>, array<int, float>, array<int, float>} of what acts in a substep, m */
    private array $way = [[], [], []];

    /** @var array{array<int, float>, array<int, float>, array<int, float>} of the air in a substep, m */
    private array $air = [[], [], []];

    /** @var array{array<int, float>, array<int, float>, array<int, float>} unit */
    private array $normal = [[], [], []];

    /** @var list<float> share of what acts that pushes each vertex to one side, 0 on average */
    private readonly array $uneven;

    /** @var list<float> on the inside of each vertex, Pa; none: there is none */
    private array $pressure = [];

    /** Length of a substep, s. */
    private float $h = 0.0;

    /** Whether the cloth has no rim. */
    public readonly bool $closed;

    public function __construct(private readonly Weave $weave, private readonly Fabric $fabric)
    {
        $random = RandomStream::named(0, 'uneven cloth');
        $uneven = [];
        for ($i = 0; $i < $weave->count(); $i++) {
            $uneven[] = $random->between(-ClothTuning::UNEVEN, ClothTuning::UNEVEN);
        }
        // As a whole it leans to neither side.
        $mean = array_sum(array_map(static fn (float $share, float $of): float => $share * $of, $uneven, $weave->mass)) / max(1e-30, array_sum($weave->mass));
        $this->uneven = array_map(static fn (float $share): float => $share - $mean, $uneven);
        $this->closed = self::isClosed($weave);
    }

    /** A surface without a rim looks every way alike: its areas, each with its direction, add up to nothing. */
    private static function isClosed(Weave $weave): bool
    {
        $one = array_fill(0, $weave->count(), 1.0);
        $sum = array_map(array_sum(...), Advance::pressed($weave->x, $weave->y, $weave->z, $weave->triangles, $one));

        return abs($sum[0]) + abs($sum[1]) + abs($sum[2]) < 1e-9 * array_sum($weave->area);
    }

    /** @param list<float> $pressure on the inside of each vertex from the next step on, Pa; none: there is none */
    public function blowUp(array $pressure): void
    {
        $this->pressure = $pressure;
    }

    /** @return list<float> Pa */
    public function pressure(): array
    {
        return $this->pressure === [] ? array_fill(0, $this->weave->count(), 0.0) : $this->pressure;
    }

    /**
     * A step begins.
     *
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     * @param float $h length of its substeps, s
     */
    public function begin(Pushes $pushes, array $x, array $y, array $z, float $h): void
    {
        $this->h = $h;
        $square = $this->h * $this->h;
        $this->way = [self::scaled($pushes->ax, $square), self::scaled($pushes->ay, $square), self::scaled($pushes->az, $square)];
        $this->air = [self::scaled($pushes->u, $this->h), self::scaled($pushes->v, $this->h), self::scaled($pushes->w, $this->h)];
        $this->normal = Advance::normals($x, $y, $z, $this->weave->triangles);
        $this->lean();
        $this->press($x, $y, $z);
    }

    /**
     * @param array<int, float> $values
     *
     * @return array<int, float>
     */
    private static function scaled(array $values, float $by): array
    {
        foreach ($values as $i => $value) {
            $values[$i] = $by * $value;
        }

        return $values;
    }

    /** No cloth is quite even: what acts on a vertex pushes it a little to its own side of the surface. */
    private function lean(): void
    {
        [$ax, $ay, $az] = $this->way;
        [$nx, $ny, $nz] = $this->normal;
        foreach ($this->uneven as $i => $share) {
            $push = $share * sqrt($ax[$i] * $ax[$i] + $ay[$i] * $ay[$i] + $az[$i] * $az[$i]);
            $ax[$i] += $push * $nx[$i];
            $ay[$i] += $push * $ny[$i];
            $az[$i] += $push * $nz[$i];
        }
        $this->way = [$ax, $ay, $az];
    }

    /**
     * Pressure acts across the surface as it lies now.
     *
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     */
    private function press(array $x, array $y, array $z): void
    {
        if ($this->pressure === []) {
            return;
        }
        $force = Advance::pressed($x, $y, $z, $this->weave->triangles, $this->pressure);
        $mass = array_sum($this->weave->mass);
        foreach ($force as $axis => $parts) {
            // What is closed pushes itself nowhere, however the pressure differs from place to place.
            $thrust = $this->closed && $mass > 0.0 ? array_sum($parts) / $mass : 0.0;
            foreach ($this->weave->mass as $i => $m) {
                $this->way[$axis][$i] += $m > 0.0 ? $this->h * $this->h * ($parts[$i] / $m - $thrust) : 0.0;
            }
        }
    }

    /**
     * A substep begins.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses
     */
    public function advance(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w): void
    {
        $keep = max(0.0, 1.0 - $this->fabric->damping * $this->h);
        Advance::vertices($x, $y, $z, $px, $py, $pz, $w, $this->way, $this->air, $this->normal, $keep, $this->fabric->airResistance());
    }
}
