<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Art\Simplify;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Plane\Pinches;
use YardBreak\Core\Plane\Triangulation;

/**
 * Picture: regions of equal tone become pieces, cut straight through along the lines between them. The picture is laid over
 * the whole side one looks at.
 */
final readonly class PicturePattern implements Pattern
{
    /** The picture is read with so many pixels along its longer side. */
    private const PIXELS = 220;

    /** Lines stray by at most this part of a pixel from the way between the pixels, after the steps have been smoothed. */
    private const STRAY = 0.6;

    /** Of the prop's size: how far beyond it the drawing reaches. */
    private const MARGIN = 0.1;

    /**
     * @param int $tones steps from black to white
     * @param float $speck smallest region, in parts of the picture
     * @param int $axis 0: x, 1: y, 2: z, the one that is looked along
     */
    public function __construct(public ToneMap $picture, public int $tones, public float $speck, public int $axis)
    {
    }

    public function cut(Fracture $fracture, int $piece, TriangleMesh $mesh, Progress $progress): void
    {
        $progress->at('picture', 0, 1);
        [$low, $high] = $mesh->bounds();
        $u = ($this->axis + 1) % 3;
        $v = ($this->axis + 2) % 3;
        $margin = self::MARGIN * $mesh->size();
        $box = new Triangulation([$low[$u] - $margin, $low[$v] - $margin], [$high[$u] + $margin, $high[$v] + $margin], 1e-6);
        $lines = $this->lines($high[$u] - $low[$u], $high[$v] - $low[$v]);
        $numbers = array_map(static fn (array $points): array => array_map(static fn (array $p): int => $box->point($low[$u] + $p[0], $low[$v] + $p[1]), $points), $lines);
        foreach ($numbers as $points) {
            for ($k = 1, $end = count($points); $k < $end; $k++) {
                $box->line($points[$k - 1], $points[$k]);
            }
        }
        $box->dropLooseEnds();
        $prisms = new PrismCutting(Pinches::apart($box), $this->axis);
        (new PieceCutter($fracture))->cut($piece, $prisms);
        $fracture->blur = max($fracture->blur, DrawnPattern::CLEAR * $prisms->hair());
    }

    /**
     * The lines between regions, over a side of the given size; lines that reach the picture's edge go on beyond it.
     *
     * @return list<list<array{float, float}>>
     */
    private function lines(float $wide, float $high): array
    {
        $s = self::PIXELS / max($wide, $high, 1e-12);
        $w = max(2, (int) round($wide * $s));
        $h = max(2, (int) round($high * $s));
        $region = $this->regions($w, $h);
        $at = static fn (int $x, int $y): int => $x < 0 || $y < 0 || $x >= $w || $y >= $h ? -1 : $region[$y * $w + $x];
        // Steps between pixels of two regions, as links between the pixels' corners. The rim is a region too: the frame around.
        $links = [];
        $id = static fn (int $x, int $y): int => $y * ($w + 1) + $x;
        for ($y = 0; $y <= $h; $y++) {
            for ($x = 0; $x <= $w; $x++) {
                if ($x < $w && $at($x, $y - 1) !== $at($x, $y)) {
                    $links[$id($x, $y)][] = $id($x + 1, $y);
                    $links[$id($x + 1, $y)][] = $id($x, $y);
                }
                if ($y < $h && $at($x - 1, $y) !== $at($x, $y)) {
                    $links[$id($x, $y)][] = $id($x, $y + 1);
                    $links[$id($x, $y + 1)][] = $id($x, $y);
                }
            }
        }
        $lines = [];
        $used = [];
        $follow = static function (int $from, int $to) use ($links, &$used): array {
            $chain = [$from];
            for (;;) {
                $used["{$from},{$to}"] = $used["{$to},{$from}"] = true;
                $chain[] = $to;
                if (count($links[$to]) !== 2 || $to === $chain[0]) {
                    return $chain;
                }
                $next = $links[$to][0] === $from ? $links[$to][1] : $links[$to][0];
                $from = $to;
                $to = $next;
            }
        };
        // First from where three or four lines meet, then the closed ones.
        foreach ([true, false] as $knots) {
            foreach ($links as $a => $list) {
                if ($knots === (count($list) === 2)) {
                    continue;
                }
                foreach ($list as $b) {
                    if (! isset($used["{$a},{$b}"])) {
                        $lines[] = $follow($a, $b);
                    }
                }
            }
        }
        // A little beyond the rim of the prop, so that its own outline is not cut.
        $beyond = 0.03;
        $place = static function (int $p) use ($w, $h, $wide, $high, $beyond): array {
            $x = $p % ($w + 1);
            $y = intdiv($p, $w + 1);

            return [
                $wide * ($x === 0 ? -$beyond : ($x === $w ? 1.0 + $beyond : $x / $w)),
                $high * ($y === 0 ? 1.0 + $beyond : ($y === $h ? -$beyond : 1.0 - $y / $h)),
            ];
        };

        return array_map(static fn (array $chain): array => self::smooth(array_map($place, $chain), self::STRAY / $s), $lines);
    }

    /**
     * Stairs of pixels as a line: each point goes to the middle of its neighbours, then what is straight is dropped. Ends
     * stay; so do closed lines' first points.
     *
     * @param list<array{float, float}> $line
     *
     * @return list<array{float, float}>
     */
    private static function smooth(array $line, float $stray): array
    {
        $last = count($line) - 1;
        $closed = $line[0] === $line[$last];
        for ($round = 0; $round < 3; $round++) {
            $old = $line;
            for ($k = 1; $k < $last; $k++) {
                $line[$k] = [0.25 * $old[$k - 1][0] + 0.5 * $old[$k][0] + 0.25 * $old[$k + 1][0], 0.25 * $old[$k - 1][1] + 0.5 * $old[$k][1] + 0.25 * $old[$k + 1][1]];
            }
        }
        if ($closed) {
            array_pop($line);
            $simple = Simplify::loop($line, $stray);
            $simple[] = $simple[0];

            return $simple;
        }

        return Simplify::line($line, $stray);
    }

    /**
     * Regions of one tone that hang together by the pixels' sides; specks belong to the region around them.
     *
     * @return list<int> by pixel, row by row from the top
     */
    private function regions(int $w, int $h): array
    {
        $step = [];
        for ($y = 0; $y < $h; $y++) {
            for ($x = 0; $x < $w; $x++) {
                $step[] = (int) min($this->tones - 1, floor($this->tones * $this->picture->at(($x + 0.5) / $w, 1.0 - ($y + 0.5) / $h)));
            }
        }
        [$region, $size] = self::connected($step, $w, $h);
        /** @var array<int, array<int, int>> $touches how many pixel sides two regions share */
        $touches = array_fill(0, count($size), []);
        foreach ($region as $i => $a) {
            foreach ([$i % $w < $w - 1 ? $i + 1 : -1, $i + $w < $w * $h ? $i + $w : -1] as $j) {
                if ($j >= 0 && $region[$j] !== $a) {
                    $b = $region[$j];
                    $touches[$a][$b] = ($touches[$a][$b] ?? 0) + 1;
                    $touches[$b][$a] = ($touches[$b][$a] ?? 0) + 1;
                }
            }
        }
        // The smallest first, each to the region it touches most.
        $least = max(2.0, $this->speck * $w * $h);
        $into = array_keys($size);
        asort($size);
        foreach (array_keys($size) as $r) {
            if ($size[$r] >= $least || $touches[$r] === []) {
                continue;
            }
            $most = max($touches[$r]);
            $best = (int) array_search($most, $touches[$r], true);
            $into[$r] = $best;
            $size[$best] += $size[$r];
            foreach ($touches[$r] as $other => $sides) {
                unset($touches[$other][$r]);
                if ($other !== $best) {
                    $touches[$best][$other] = ($touches[$best][$other] ?? 0) + $sides;
                    $touches[$other][$best] = ($touches[$other][$best] ?? 0) + $sides;
                }
            }
            $touches[$r] = [];
        }
        foreach ($region as $i => $r) {
            while ($into[$r] !== $r) {
                $r = $into[$r];
            }
            $region[$i] = $r;
        }

        return $region;
    }

    /**
     * @param list<int> $step
     *
     * @return array{list<int>, array<int, int>} region by pixel, and how many pixels each has
     */
    private static function connected(array $step, int $w, int $h): array
    {
        $region = array_fill(0, $w * $h, -1);
        $size = [];
        foreach ($step as $first => $tone) {
            if ($region[$first] >= 0) {
                continue;
            }
            $r = count($size);
            $region[$first] = $r;
            $queue = [$first];
            $count = 0;
            while ($queue !== []) {
                $i = array_pop($queue);
                $count++;
                $x = $i % $w;
                foreach ([$x > 0 ? $i - 1 : -1, $x < $w - 1 ? $i + 1 : -1, $i - $w, $i + $w] as $j) {
                    if ($j >= 0 && $j < $w * $h && $region[$j] < 0 && $step[$j] === $tone) {
                        $region[$j] = $r;
                        $queue[] = $j;
                    }
                }
            }
            $size[$r] = $count;
        }

        return [$region, $size];
    }
}
