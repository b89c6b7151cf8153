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
 * those around it. What lies in still air and only trembles, as cloth whose edges are as long as what it lies on, keeps to a place too: over a longer
 * time it is where it was.
 */
final class Slumber
{
    /** Times that distances are mixed with those beside. */
    private const MIXED = 3;

    /** What is farther from its place than so many times what it may be counts as no farther: one that twitches is not many that move. */
    private const MOST = 4.0;

    /** What has begun to settle may be so many times as far from its place. */
    private const CREEPS = 2.0;

    /** What pushes a sleeper otherwise by what would make it as fast as what settles within this time wakes it, s. */
    private const NOTICED = 0.25;

    /** Air that moves faster than this, m/s, may blow what it moves to and fro. */
    private const STILL_AIR = 0.1;

    /** Of what trembles: it may be at most so many times as far from its place. */
    private const COARSE = 2.5;

    /** And at no time so many times that. */
    private const SHAKES = 2.0;

    /** @var array<int, float> for how many frames each part has kept to its place; 0: it has just left it */
    private array $slow;

    /** What is put right to and fro at the ends of frames is where it is on average. */
    private readonly Keeping $keeps;

    /** Over a longer time; followed only for what trembles. */
    private readonly Keeping $keepsAbout;

    /** Whether air or something else moves about it. */
    private bool $stirred = false;

    /** @var array{array<int, float>, array<int, float>, array<int, float>} where each was at the end of the frame before, m */
    private array $last = [[], [], []];

    private readonly Surroundings $surroundings;

    /** @var array<int, array{float, float, float, float, float, float}> around each part at the end of the frame: low corner, high corner */
    private array $boxes = [];

    /** Whether others sleep than when it was asked for last. */
    private bool $changed = false;

    /**
     * @param float $gap that it keeps from others, m
     * @param float $trembles how far it may tremble about a place that it keeps to, m; 0: it does not
     */
    public function __construct(private readonly Connected $nodes, private readonly Settling $settling, private readonly float $gap, private readonly float $trembles = 0.0)
    {
        $this->slow = array_fill(0, $nodes->parts, 1.0);
        $this->keeps = new Keeping(0.5);
        $this->keepsAbout = new Keeping($settling->blend);
        $this->surroundings = new Surroundings($nodes);
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

        return array_map(static fn (int $part): bool => $sleeps[$part], $this->nodes->part);
    }

    /** Something has changed for all of it. */
    public function wake(): void
    {
        $this->wakeParts(array_keys($this->slow));
    }

    /** @param list<int> $nodes something is still to be put right with these */
    public function wakeNodes(array $nodes): void
    {
        $this->wakeParts(array_map(fn (int $i): int => $this->nodes->part[$i], $nodes));
    }

    /** @param array<int> $parts */
    private function wakeParts(array $parts): void
    {
        foreach ($parts as $part) {
            if ($this->sleeps($part)) {
                $this->changed = true;
                $this->surroundings->forget($part);
            }
            // It has not moved yet: neighbours may sleep on.
            $this->slow[$part] = min($this->slow[$part], 1.0);
        }
    }

    /**
     * Something that moves is about to come as near as this.
     *
     * @param array{float, float, float, float, float, float} $box around it: low corner, high corner
     */
    public function stir(array $box, float $reach): void
    {
        $this->wakeParts(array_filter($this->sleepers(), fn (int $part): bool => Surroundings::near($this->boxes[$part], $box, $reach)));
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
        if ($this->settling->isNever()) {
            return;
        }
        $sleepers = $this->sleepers();
        if ($sleepers !== []) {
            $this->wakeParts($this->surroundings->meet(array_intersect_key($this->boxes, array_flip($sleepers)), $colliders, $this->gap + $this->settling->far, $dt));
        }
        $this->stirred = $this->trembles > 0.0 && ($this->isBlown($pushes) || $this->isPassed($colliders, $dt));
        $push = $this->unnoticed();
        $acts = [[$pushes->ax, $push], [$pushes->ay, $push], [$pushes->az, $push], [$pushes->u, $push], [$pushes->v, $push], [$pushes->w, $push], [$hold, Surroundings::OTHERWISE], ...$more];
        $this->wakeParts($this->surroundings->feel($acts, $this->dozing()));
    }

    private function isBlown(Pushes $pushes): bool
    {
        foreach ([$pushes->u, $pushes->v, $pushes->w] as $air) {
            if ($air !== [] && max(max($air), -min($air)) > self::STILL_AIR) {
                return true;
            }
        }

        return false;
    }

    /**
     * Whether something goes by faster than what rests.
     *
     * @param list<Collider> $colliders
     */
    private function isPassed(array $colliders, float $dt): bool
    {
        [$x, $y, $z] = $this->last;
        if ($x === [] || $y === [] || $z === []) {
            return false;
        }
        $box = [min($x), min($y), min($z), max($x), max($y), max($z)];
        foreach ($colliders as $collider) {
            $travel = $collider->travel($dt);
            [[$p, $q, $r], $radius] = $collider->ball();
            if ($travel > $this->settling->speed * $dt && Surroundings::near($box, [$p, $q, $r, $p, $q, $r], $radius + $this->gap + $this->settling->far + $travel)) {
                return true;
            }
        }

        return false;
    }

    /** @return array<int, float> parts that have begun to settle, and for how many frames they have kept to their place */
    private function dozing(): array
    {
        return array_filter($this->slow, fn (float $frames): bool => $this->settling->left($frames) < 1.0);
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
        if ($this->last[0] === []) {
            $this->last = [$x, $y, $z];
        }
        $this->keeps->follow([$x, $y, $z]);
        $strayed = $this->strayed($this->keeps->mean, $this->keeps->place);
        if ($this->trembles > 0.0) {
            $this->keepsAbout->follow([$x, $y, $z]);
            $strayed = $this->stirred ? $strayed : $this->trembling($strayed);
        }
        $left = $this->settled($strayed);
        foreach ($this->nodes->part as $i => $part) {
            if (! isset($left[$part])) {
                continue;
            }
            if ($this->slow[$part] === 0.0) {
                $this->keeps->move($i);
                if ($this->trembles > 0.0) {
                    $this->keepsAbout->move($i);
                }
            } elseif ($left[$part] < 1.0) {
                [$x[$i], $px[$i]] = self::slowed($x[$i], $px[$i], $this->last[0][$i], $left[$part]);
                [$y[$i], $py[$i]] = self::slowed($y[$i], $py[$i], $this->last[1][$i], $left[$part]);
                [$z[$i], $pz[$i]] = self::slowed($z[$i], $pz[$i], $this->last[2][$i], $left[$part]);
            }
        }

        return $left !== [] && min($left) < 1.0;
    }

    /**
     * What hangs swings about a place without keeping to it.
     *
     * @param array<int, float> $strayed how far each part is from its place at the most, in what it may
     *
     * @return array<int, float> or no farther than it is from it over a longer time
     */
    private function trembling(array $strayed): array
    {
        $hangs = $this->surroundings->hanging();
        $may = min(self::COARSE, max(1.0, $this->trembles / $this->settling->far));
        // The average lags behind what sets out.
        $now = $this->strayed($this->keeps->mean, $this->keepsAbout->place, $may);
        foreach ($this->strayed($this->keepsAbout->mean, $this->keepsAbout->place, $may) as $part => $far) {
            if (! isset($hangs[$part]) && $now[$part] < self::SHAKES) {
                $strayed[$part] = min($strayed[$part], $far);
            }
        }

        return $strayed;
    }

    /**
     * @param array<int, float> $strayed how far each part is from its place at the most, in what it may
     *
     * @return array<int, float> how much of its motion is left to each that was awake
     */
    private function settled(array $strayed): array
    {
        $hangs = $this->surroundings->hanging();
        $left = [];
        foreach ($this->slow as $part => $frames) {
            if (! $this->sleeps($part)) {
                // What has begun to settle is not started up again by the little that it still creeps.
                $may = $this->settling->left($frames) < 1.0 ? self::CREEPS : 1.0;
                $this->slow[$part] = $strayed[$part] > $may ? 0.0 : $this->settling->longer($frames, isset($hangs[$part]));
                $left[$part] = $this->settling->left($this->slow[$part]);
                $this->changed = $this->changed || $left[$part] <= 0.0;
            }
        }

        return $left;
    }

    /** @return array{float, float} place, and place before, with so much of its motion since the last frame, and of its speed */
    private static function slowed(float $is, float $was, float $last, float $left): array
    {
        $now = $last + $left * ($is - $last);

        return [$now, $now - $left * ($is - $was)];
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $now of the nodes, m
     * @param array{array<int, float>, array<int, float>, array<int, float>} $place of each, m
     * @param float $may how many times as far as else
     *
     * @return array<int, float> how far each part has strayed from its place where it has most, in what it may; where all have, no more than on average
     */
    private function strayed(array $now, array $place, float $may = 1.0): array
    {
        [[$x, $y, $z], [$ax, $ay, $az]] = [$now, $place];
        $per = 1.0 / ($may * $this->settling->far);
        $off = [];
        $sum = $count = array_fill(0, count($this->slow), 0.0);
        foreach ($this->nodes->part as $i => $part) {
            $far = $per * sqrt(($x[$i] - $ax[$i]) ** 2 + ($y[$i] - $ay[$i]) ** 2 + ($z[$i] - $az[$i]) ** 2);
            $off[] = $far = $far > self::MOST ? self::MOST : $far;
            $sum[$part] += $far;
            $count[$part]++;
        }
        $most = array_map(static fn (float $of, float $n): float => $of / $n, $sum, $count);
        if ($most === [] || min($most) > 1.0) {
            return $most;
        }
        for ($k = 0; $k < self::MIXED; $k++) {
            $off = $this->nodes->mixed($off);
        }
        foreach ($off as $i => $far) {
            $most[$this->nodes->part[$i]] = max($most[$this->nodes->part[$i]], $far);
        }

        return $most;
    }

    /**
     * A frame has ended: what sleeps beside a part that has left its place wakes.
     *
     * @param array<int, float> $x places of the nodes
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    public function end(array $x, array $y, array $z): void
    {
        $this->last = [$x, $y, $z];
        if (! $this->hasSleepers()) {
            return;
        }
        $this->boxes = $this->nodes->boxes(...$this->last);
        foreach (array_keys($this->slow, 0.0, true) as $part) {
            $this->stir($this->boxes[$part], $this->gap + $this->settling->far);
        }
    }

    /** @return array<string, mixed> everything that decides who wakes and who sleeps next */
    public function save(): array
    {
        return ['slow' => $this->slow, 'keeps' => $this->keeps->save(), 'about' => $this->keepsAbout->save(), 'last' => array_merge(...$this->last), ...$this->surroundings->save($this->dozing() !== [])];
    }

    public function restore(State $saved): void
    {
        $this->slow = $saved->floats('slow');
        $this->keeps->restore($saved->part('keeps'));
        $this->keepsAbout->restore($saved->part('about'));
        $this->last = $saved->thrice('last');
        $this->surroundings->restore($saved);
        if ($this->hasSleepers()) {
            $this->boxes = $this->nodes->boxes(...$this->last);
        }
        $this->changed = true;
    }
}
