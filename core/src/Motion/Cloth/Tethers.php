<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Math\Swing;
use YardBreak\Core\Mesh\SurfaceMarch;

/**
 * No vertex can be farther from a held one than the way over the cloth is long (Kim, Chentanez, Mueller 2012, "Long range
 * attachments"): what pulls at one end is felt at the other at once. A few held vertices will do; a tether ends when its
 * anchor lets go.
 */
final class Tethers
{
    /** @var array<int, array<int, float>> of each anchor, the length by vertex, once it was asked for */
    private array $length = [];

    /** How many times as long as the ways over the cloth they are. */
    private float $times = 1.0;

    /**
     * @param list<int> $anchors
     * @param list<list<int>> $vertices tied to each
     * @param list<list<float>> $lengths
     * @param array<int, array{int, float}> $nearest by vertex, the held one that is nearest, and how long the tether to that is
     */
    private function __construct(private readonly array $anchors, private readonly array $vertices, private readonly array $lengths, private readonly array $nearest)
    {
    }

    /**
     * @param list<int> $held vertices
     * @param float $room share of its length at rest that a way may have
     * @param SurfaceMarch|null $fronts over the cloth at rest: far ways as long as they are; null: along edges, where they may be a tenth too long
     */
    public static function to(array $held, Geodesics $ways, float $room, ?SurfaceMarch $fronts = null): self
    {
        $anchors = $vertices = $lengths = [];
        $next = $held[0] ?? null;
        /** @var array<int, float> $off how far those that could still be chosen are from those that are */
        $off = array_fill_keys($held, INF);
        while ($next !== null && count($anchors) < ClothTuning::TETHERS) {
            $far = $fronts === null ? $ways->from($next) : array_filter($fronts->from([$next => 0.0], [$next => 0.0]), is_finite(...));
            $anchors[] = $next;
            unset($far[$next]);
            $vertices[] = array_keys($far);
            $lengths[] = array_map(static fn (float $way): float => $room * $way, array_values($far));
            unset($off[$next]);
            $next = null;
            $most = 0.0;
            foreach ($off as $v => $distance) {
                $off[$v] = $distance = min($distance, $far[$v] ?? INF);
                if ($distance > $most) {
                    [$most, $next] = [$distance, $v];
                }
            }
        }
        [$far, $source] = $ways->fromAll($held);
        $nearest = [];
        foreach ($far as $v => $way) {
            if ($source[$v] !== $v) {
                $nearest[$v] = [$source[$v], $room * $way];
            }
        }

        return new self($anchors, $vertices, $lengths, $nearest);
    }

    /**
     * How much farther a vertex can go along a way until a tether is taut.
     *
     * @param array{float, float, float} $place of the vertex
     * @param array{float, float, float} $way unit
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w inverse masses; only anchors that do not move count
     *
     * @return array{float, float} that, m (less than nothing: it is too far already; INF: none holds it), and how long this tether is, m
     */
    public function room(int $vertex, array $place, array $way, array $x, array $y, array $z, array $w): array
    {
        [$room, $most] = [INF, INF];
        foreach ($this->tied($vertex) as [$anchor, $length]) {
            if ($w[$anchor] > 0.0) {
                continue;
            }
            $d = [$place[0] - $x[$anchor], $place[1] - $y[$anchor], $place[2] - $z[$anchor]];
            $along = $d[0] * $way[0] + $d[1] * $way[1] + $d[2] * $way[2];
            // Where the way leaves the ball around the anchor that it can reach.
            $length *= ClothTuning::GIVES * $this->times;
            $root = $along * $along - $d[0] * $d[0] - $d[1] * $d[1] - $d[2] * $d[2] + $length * $length;
            if ($root > 0.0 && sqrt($root) - $along < $room) {
                [$room, $most] = [sqrt($root) - $along, $length];
            }
        }

        return [$room, $most];
    }

    /**
     * How far along a way a vertex can still swing, held by what is taut or nearly so: 1: it goes aside, as a curtain does; 0: it is held against it.
     *
     * @param array{float, float, float} $way unit
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w inverse masses; only anchors that do not move count
     */
    public function swing(int $vertex, array $way, array $x, array $y, array $z, array $w): float
    {
        $ropes = [];
        foreach ($this->tied($vertex) as [$anchor, $length]) {
            $rope = [$x[$anchor] - $x[$vertex], $y[$anchor] - $y[$vertex], $z[$anchor] - $z[$vertex]];
            $far = sqrt($rope[0] ** 2 + $rope[1] ** 2 + $rope[2] ** 2);
            if ($w[$anchor] <= 0.0 && $far > ClothTuning::NEARLY_TAUT * $this->times * $length) {
                $ropes[] = [$rope[0] / $far, $rope[1] / $far, $rope[2] / $far];
            }
        }

        return Swing::along($way, $ropes);
    }

    /**
     * How far those that hold a vertex went along a way in the last substep, m: on average.
     *
     * @param array{float, float, float} $way unit
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is places of all vertices, m
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was a substep before
     * @param array<int, float> $w inverse masses; only anchors that do not move by themselves count
     */
    public function went(int $vertex, array $way, array $is, array $was, array $w): float
    {
        $sum = 0.0;
        $count = 0;
        foreach ($this->tied($vertex) as [$anchor]) {
            if ($w[$anchor] <= 0.0) {
                $sum += $way[0] * ($is[0][$anchor] - $was[0][$anchor]) + $way[1] * ($is[1][$anchor] - $was[1][$anchor]) + $way[2] * ($is[2][$anchor] - $was[2][$anchor]);
                $count++;
            }
        }

        return $count === 0 ? 0.0 : $sum / $count;
    }

    /** @return list<array{int, float}> the held vertices that one is tied to, and how long the tethers are */
    private function tied(int $vertex): array
    {
        $tied = isset($this->nearest[$vertex]) ? [$this->nearest[$vertex]] : [];
        foreach ($this->anchors as $k => $anchor) {
            $this->length[$k] ??= array_combine($this->vertices[$k], $this->lengths[$k]);
            if (isset($this->length[$k][$vertex])) {
                $tied[] = [$anchor, $this->length[$k][$vertex]];
            }
        }

        return $tied;
    }

    /** For a cloth that has grown by so many times at the most. */
    public function grow(float $times): void
    {
        $this->times = $times;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w inverse masses; only anchors that do not move count
     * @param array<int, float> $gives of anchors that are held by what gives way: inverse masses, as shares of the mean vertex's
     */
    public function pull(array &$x, array &$y, array &$z, array $w, array $gives = []): void
    {
        foreach ($this->anchors as $k => $anchor) {
            if (isset($gives[$anchor])) {
                self::draw($x, $y, $z, $w, $anchor, $gives[$anchor], $this->vertices[$k], $this->lengths[$k], $this->times);
            } elseif ($w[$anchor] <= 0.0) {
                self::within($x, $y, $z, $w, $anchor, $this->vertices[$k], $this->lengths[$k], $this->times);
            }
        }
    }

    /**
     * As {@see within()}, where the anchor gives way too.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w
     * @param list<int> $vertices
     * @param list<float> $lengths
     */
    private static function draw(array &$x, array &$y, array &$z, array $w, int $anchor, float $gives, array $vertices, array $lengths, float $times): void
    {
        foreach ($vertices as $k => $i) {
            $dx = $x[$i] - $x[$anchor];
            $dy = $y[$i] - $y[$anchor];
            $dz = $z[$i] - $z[$anchor];
            $most = $times * $lengths[$k];
            $l = $dx * $dx + $dy * $dy + $dz * $dz;
            if ($l > $most * $most && $w[$i] > 0.0) {
                $s = (1.0 - $most / sqrt($l)) / ($w[$i] + $gives);
                [$own, $its] = [$w[$i] * $s, $gives * $s];
                [$x[$i], $y[$i], $z[$i]] = [$x[$i] - $own * $dx, $y[$i] - $own * $dy, $z[$i] - $own * $dz];
                [$x[$anchor], $y[$anchor], $z[$anchor]] = [$x[$anchor] + $its * $dx, $y[$anchor] + $its * $dy, $z[$anchor] + $its * $dz];
            }
        }
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w
     * @param list<int> $vertices
     * @param list<float> $lengths
     */
    private static function within(array &$x, array &$y, array &$z, array $w, int $anchor, array $vertices, array $lengths, float $times): void
    {
        [$X, $Y, $Z] = [$x, $y, $z];
        $x = $y = $z = [];
        [$ax, $ay, $az] = [$X[$anchor], $Y[$anchor], $Z[$anchor]];
        foreach ($vertices as $k => $i) {
            $dx = $X[$i] - $ax;
            $dy = $Y[$i] - $ay;
            $dz = $Z[$i] - $az;
            $most = $times * $lengths[$k];
            $l = $dx * $dx + $dy * $dy + $dz * $dz;
            if ($l > $most * $most && $w[$i] > 0.0) {
                $s = 1.0 - $most / sqrt($l);
                $X[$i] -= $s * $dx;
                $Y[$i] -= $s * $dy;
                $Z[$i] -= $s * $dz;
            }
        }
        [$x, $y, $z] = [$X, $Y, $Z];
    }
}
