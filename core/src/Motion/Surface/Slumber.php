<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\State;

/**
 * Which parts of something that bends sleep. A part (what hangs together) that keeps to its place for a while loses its motion by
 * and by, then stands still and costs nothing, until something acts otherwise than when it fell asleep or comes near. A few nodes
 * that twitch keep nobody awake, nodes beside each other that all move do: how far each is from its place counts on average with
 * those around it.
 */
final class Slumber
{
    /** Times that distances are mixed with those beside. */
    private const MIXED = 3;

    /** What is farther from its place than so many times what it may be counts as no farther: one that twitches is not many that move. */
    private const MOST = 4.0;

    /** What pushes a sleeper otherwise by what would make it as fast as what settles within this time wakes it, s. */
    private const NOTICED = 0.25;

    /** And so does this much more or less hold, or length. */
    public const OTHERWISE = 0.005;

    /** Where hold stands among what acts: pushes are before it. */
    private const HOLD = 6;

    /** @var list<int> of each node, from 0 */
    private readonly array $part;

    /** @var array<int, float> for how many frames each part has kept to its place; 0: it has just left it */
    private array $slow;

    /** @var array{array<int, float>, array<int, float>, array<int, float>} the place of each node, m */
    private array $place = [[], [], []];

    /** @var array{array<int, float>, array<int, float>, array<int, float>} where each was at the end of the frame before, m */
    private array $last = [[], [], []];

    /** @var list<array<int, float>> what acted on each node when it began to settle: acceleration, speed of the air, hold, and more */
    private array $acted = [];

    /** @var array<int, list<string>> the names of what was near each sleeper */
    private array $company = [];

    /** @var array<int, array{float, float, float, float, float, float}> around each part at the end of the frame: low corner, high corner */
    private array $boxes = [];

    /** Whether others sleep than when it was asked for last. */
    private bool $changed = false;

    /**
     * @param list<int> $first what node a hangs together with is from first[a] to first[a + 1] in $other
     * @param list<int> $other
     * @param float $gap that it keeps from others, m
     * @param bool $asOne whether its parts only sleep together
     */
    public function __construct(private readonly array $first, private readonly array $other, private readonly Settling $settling, private readonly float $gap, bool $asOne = false)
    {
        $this->part = $asOne ? array_fill(0, count($first) - 1, 0) : self::parts($first, $other);
        $this->slow = array_fill(0, $this->part === [] ? 0 : max($this->part) + 1, 1.0);
    }

    /**
     * @param list<int> $first
     * @param list<int> $other
     *
     * @return list<int> number of the part of each node
     */
    private static function parts(array $first, array $other): array
    {
        $n = count($first) - 1;
        $root = array_keys(array_fill(0, $n, true));
        for ($a = 0; $a < $n; $a++) {
            for ($c = $first[$a]; $c < $first[$a + 1]; $c++) {
                $i = self::root($root, $a);
                $j = self::root($root, $other[$c]);
                $root[max($i, $j)] = min($i, $j);
            }
        }
        /** @var list<int> $part */
        $part = [];
        $number = 0;
        foreach ($root as $i => $lowest) {
            // The lowest node of a part is its root, or that of a lower one: those below are known.
            $part[] = $lowest === $i ? $number++ : $part[$lowest];
        }

        return $part;
    }

    /** @param array<int, int> $root a lower node of the same part for each, or itself */
    private static function root(array &$root, int $i): int
    {
        while ($root[$i] !== $i) {
            $i = $root[$i] = $root[$root[$i]];
        }

        return $i;
    }

    /** How much more or less push is nothing, m/s2. */
    public function unnoticed(): float
    {
        return $this->settling->speed / self::NOTICED;
    }

    private function sleeps(int $part): bool
    {
        return $this->settling->left($this->slow[$part]) <= 0.0;
    }

    /** @return list<int> */
    private function sleepers(): array
    {
        return array_values(array_filter(array_keys($this->slow), $this->sleeps(...)));
    }

    /** Whether all of it sleeps. */
    public function isWhole(): bool
    {
        return $this->slow !== [] && count($this->sleepers()) === count($this->slow);
    }

    public function hasSleepers(): bool
    {
        return $this->sleepers() !== [];
    }

    /** Whether any of it has left its place in the last frame. */
    public function isLively(): bool
    {
        return in_array(0.0, $this->slow, true);
    }

    /** @return list<bool>|null whether each node sleeps; null: as when it was asked for last */
    public function changes(): ?array
    {
        if (! $this->changed) {
            return null;
        }
        $this->changed = false;
        $sleeps = array_map($this->sleeps(...), array_keys($this->slow));

        return array_map(static fn (int $part): bool => $sleeps[$part], $this->part);
    }

    /** Something has changed for all of it. */
    public function wake(): void
    {
        foreach ($this->slow as $part => $_) {
            $this->wakePart($part);
        }
    }

    /** @param iterable<int> $nodes something is still to be put right with these */
    public function wakeNodes(iterable $nodes): void
    {
        foreach ($nodes as $i) {
            $this->wakePart($this->part[$i]);
        }
    }

    private function wakePart(int $part): void
    {
        if ($this->sleeps($part)) {
            $this->changed = true;
            unset($this->company[$part]);
        }
        // It has not moved yet: neighbours may sleep on.
        $this->slow[$part] = min($this->slow[$part], 1.0);
    }

    /**
     * Something that moves is about to come as near as this.
     *
     * @param array{float, float, float, float, float, float} $box around it: low corner, high corner
     */
    public function stir(array $box, float $reach): void
    {
        foreach ($this->sleepers() as $part) {
            if ($this->isNear($part, $box, $reach)) {
                $this->wakePart($part);
            }
        }
    }

    /** @param array{float, float, float, float, float, float} $box */
    private function isNear(int $part, array $box, float $reach): bool
    {
        $own = $this->boxes[$part];
        foreach ([0, 1, 2] as $axis) {
            if ($box[$axis] > $own[$axis + 3] + $reach || $box[$axis + 3] < $own[$axis] - $reach) {
                return false;
            }
        }

        return true;
    }

    /**
     * A step begins.
     *
     * @param Pushes $pushes what acts on each node
     * @param array<int, float> $hold how far each is held
     * @param list<array{array<int, float>, float}> $more that changes how it lies, and how much more or less of it is nothing
     * @param list<Collider> $colliders
     * @param float $dt s
     */
    public function begin(Pushes $pushes, array $hold, array $more, array $colliders, float $dt): void
    {
        $sleepers = $this->sleepers();
        if ($sleepers !== []) {
            $this->meet($sleepers, $colliders, $dt);
        }
        if (! $this->settling->isNever()) {
            $push = $this->unnoticed();
            $this->feel([[$pushes->ax, $push], [$pushes->ay, $push], [$pushes->az, $push], [$pushes->u, $push], [$pushes->v, $push], [$pushes->w, $push], [$hold, self::OTHERWISE], ...$more]);
        }
    }

    /**
     * @param list<int> $sleepers
     * @param list<Collider> $colliders
     */
    private function meet(array $sleepers, array $colliders, float $dt): void
    {
        $company = [];
        foreach ($colliders as $collider) {
            [[$x, $y, $z], $radius] = $collider->ball();
            $travel = $collider->travel($dt);
            foreach ($sleepers as $part) {
                if ($this->isNear($part, [$x, $y, $z, $x, $y, $z], $radius + $this->gap + $travel + $this->settling->far)) {
                    $company[$part][] = $collider->name();
                    if ($travel > 0.0) {
                        $this->wakePart($part);
                    }
                }
            }
        }
        foreach ($sleepers as $part) {
            // What it lay on may have gone.
            $before = $this->company[$part] ?? null;
            if ($before !== null && $before !== ($company[$part] ?? [])) {
                $this->wakePart($part);
            } elseif ($this->sleeps($part)) {
                $this->company[$part] = $company[$part] ?? [];
            }
        }
    }

    /** @param list<array{array<int, float>, float}> $acts on each node now, and how much more or less of it is nothing */
    private function feel(array $acts): void
    {
        $settled = array_filter($this->slow, fn (float $frames): bool => $this->settling->left($frames) < 1.0);
        if ($settled !== [] && count($acts) !== count($this->acted)) {
            // Something acts that did not act at all.
            $this->wake();
            $settled = [];
        }
        if ($settled === []) {
            $this->acted = array_column($acts, 0);

            return;
        }
        foreach ($acts as $k => [$of, $most]) {
            $before = $this->acted[$k];
            foreach ($this->part as $i => $part) {
                // Pushes do the less the more a node is held.
                if (isset($settled[$part]) && abs($of[$i] - $before[$i]) * ($k < self::HOLD ? 1.0 - $acts[self::HOLD][0][$i] : 1.0) > $most) {
                    $this->wakePart($part);
                    unset($settled[$part]);
                }
            }
        }
        foreach ($acts as $k => [$of]) {
            foreach ($this->part as $i => $part) {
                if (! isset($settled[$part])) {
                    $this->acted[$k][$i] = $of[$i];
                }
            }
        }
    }

    /**
     * A frame ends, and nothing goes through anything: what keeps to its place has come by less and less since the last, then sleeps.
     *
     * @param array<int, float> $x places of the nodes
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px where they were a substep before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     *
     * @return bool whether anything is elsewhere by that
     */
    public function rest(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz): bool
    {
        if ($this->settling->isNever()) {
            return false;
        }
        if ($this->place[0] === []) {
            $this->place = $this->last = [$x, $y, $z];
        }
        $strayed = $this->strayed($x, $y, $z);
        $hangs = $this->hanging();
        $left = [];
        foreach ($this->slow as $part => $frames) {
            if ($this->sleeps($part)) {
                continue;
            }
            $this->slow[$part] = $strayed[$part] > 1.0 ? 0.0 : $this->settling->longer($frames, isset($hangs[$part]));
            $left[$part] = $this->settling->left($this->slow[$part]);
            $this->changed = $this->changed || $left[$part] <= 0.0;
        }
        foreach ($this->part as $i => $part) {
            if (! isset($left[$part])) {
                continue;
            }
            if ($this->slow[$part] === 0.0) {
                [$this->place[0][$i], $this->place[1][$i], $this->place[2][$i]] = [$x[$i], $y[$i], $z[$i]];
            } elseif ($left[$part] < 1.0) {
                [$x[$i], $px[$i]] = self::slowed($x[$i], $px[$i], $this->last[0][$i], $left[$part]);
                [$y[$i], $py[$i]] = self::slowed($y[$i], $py[$i], $this->last[1][$i], $left[$part]);
                [$z[$i], $pz[$i]] = self::slowed($z[$i], $pz[$i], $this->last[2][$i], $left[$part]);
            }
        }

        return $left !== [] && min($left) < 1.0;
    }

    /**
     * A frame has ended.
     *
     * @param array<int, float> $x places of the nodes
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    public function end(array $x, array $y, array $z): void
    {
        if (! $this->settling->isNever()) {
            $this->last = [$x, $y, $z];
            $this->rouse();
        }
    }

    /** @return array<int, true> parts that are held, but not all over */
    private function hanging(): array
    {
        $held = $free = [];
        foreach ($this->acted[self::HOLD] ?? [] as $i => $hold) {
            if ($hold > 0.0) {
                $held[$this->part[$i]] = true;
            }
            if ($hold < 1.0) {
                $free[$this->part[$i]] = true;
            }
        }

        return array_intersect_key($held, $free);
    }

    /** @return array{float, float} place, and place before, with so much of its motion since the last frame, and of its speed */
    private static function slowed(float $is, float $was, float $last, float $left): array
    {
        $now = $last + $left * ($is - $last);

        return [$now, $now - $left * ($is - $was)];
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return array<int, float> how far each part has strayed from its place where it has most, in what it may; where it plainly has not less than all, no more than a mean
     */
    private function strayed(array $x, array $y, array $z): array
    {
        [$ax, $ay, $az] = $this->place;
        $per = 1.0 / $this->settling->far;
        $off = [];
        $sum = $count = array_fill(0, count($this->slow), 0.0);
        foreach ($this->part as $i => $part) {
            $far = $per * sqrt(($x[$i] - $ax[$i]) ** 2 + ($y[$i] - $ay[$i]) ** 2 + ($z[$i] - $az[$i]) ** 2);
            $off[] = $far = $far > self::MOST ? self::MOST : $far;
            $sum[$part] += $far;
            $count[$part]++;
        }
        $mean = array_map(static fn (float $of, float $n): float => $of / $n, $sum, $count);
        if ($mean === [] || min($mean) > 1.0) {
            return $mean;
        }
        for ($k = 0; $k < self::MIXED; $k++) {
            $off = $this->mixed($off);
        }
        foreach ($off as $i => $far) {
            $mean[$this->part[$i]] = max($mean[$this->part[$i]], $far);
        }

        return $mean;
    }

    /**
     * @param array<int, float> $values
     *
     * @return array<int, float> of each node, the mean of it and those that it hangs together with
     */
    private function mixed(array $values): array
    {
        $sum = $values;
        $count = array_fill(0, count($values), 1);
        foreach ($values as $a => $value) {
            for ($c = $this->first[$a], $end = $this->first[$a + 1]; $c < $end; ++$c) {
                $b = $this->other[$c];
                $sum[$a] += $values[$b];
                $sum[$b] += $value;
                ++$count[$a];
                ++$count[$b];
            }
        }
        foreach ($sum as $i => $of) {
            $sum[$i] = $of / $count[$i];
        }

        return $sum;
    }

    /** What sleeps beside a part that has left its place wakes. */
    private function rouse(): void
    {
        if (! $this->hasSleepers()) {
            return;
        }
        $this->box();
        foreach (array_keys($this->slow, 0.0, true) as $part) {
            $this->stir($this->boxes[$part], $this->gap + $this->settling->far);
        }
    }

    private function box(): void
    {
        [$x, $y, $z] = $this->last;
        $boxes = array_fill(0, count($this->slow), [INF, INF, INF, -INF, -INF, -INF]);
        foreach ($this->part as $i => $part) {
            [$a, $b, $c, $d, $e, $f] = $boxes[$part];
            $boxes[$part] = [min($a, $x[$i]), min($b, $y[$i]), min($c, $z[$i]), max($d, $x[$i]), max($e, $y[$i]), max($f, $z[$i])];
        }
        $this->boxes = $boxes;
    }

    /** @return array<string, mixed> everything that decides who wakes and who sleeps next */
    public function save(): array
    {
        [$parts, $names] = [[], []];
        foreach ($this->company as $part => $near) {
            foreach ($near as $name) {
                $parts[] = $part;
                $names[] = $name;
            }
        }

        return [
            'slow' => $this->slow, 'place' => array_merge(...$this->place), 'last' => array_merge(...$this->last), 'acted' => array_merge(...$this->acted),
            'met' => array_keys($this->company), 'companyOf' => $parts, 'company' => $names,
        ];
    }

    public function restore(State $saved): void
    {
        $this->slow = $saved->floats('slow');
        $n = count($this->part);
        $this->place = self::thrice($saved->floats('place'), $n);
        $this->last = self::thrice($saved->floats('last'), $n);
        $this->acted = array_chunk($saved->floats('acted'), max(1, $n));
        $this->company = array_fill_keys($saved->ints('met'), []);
        $names = $saved->strings('company');
        foreach ($saved->ints('companyOf') as $k => $part) {
            $this->company[$part][] = $names[$k];
        }
        if ($this->hasSleepers()) {
            $this->box();
        }
        $this->changed = true;
    }

    /**
     * @param array<int, float> $all
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function thrice(array $all, int $n): array
    {
        return [array_slice($all, 0, $n), array_slice($all, $n, $n), array_slice($all, 2 * $n)];
    }
}
