<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/**
 * Edges that are still far too long once all have been taken back: where cloth has just struck something, layers that are kept apart pull
 * them long again. There both are put right in turn, many times; what is farther away stays where it is.
 */
final class Overstretched
{
    /** An edge that is longer than it may be by more than this share of it is put right here. */
    private const FAR = 0.08;

    /** Vertices up to so many edges away may move. */
    private const RINGS = 6;

    private const ROUNDS = 60;

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w inverse masses
     * @param array<int, float> $most length that each edge may have, m
     * @param SelfContact|null $itself which pairs stay apart; null: none must
     *
     * @return bool whether there were any
     */
    public static function takeBack(array &$x, array &$y, array &$z, array $w, Weave $weave, array $most, ?SelfContact $itself): bool
    {
        $long = self::long($x, $y, $z, $weave->first, $weave->other, $most);
        if ($long === []) {
            return false;
        }
        $moves = self::around($long, $weave);
        $from = $to = $length = [];
        for ($a = 0, $n = $weave->count(); $a < $n; $a++) {
            for ($c = $weave->first[$a], $end = $weave->first[$a + 1]; $c < $end; $c++) {
                if (isset($moves[$a]) || isset($moves[$weave->other[$c]])) {
                    [$from[], $to[], $length[]] = [$a, $weave->other[$c], $most[$c]];
                }
            }
        }
        [$one, $other, $apart] = $itself?->pairs($moves) ?? [[], [], []];
        $free = [];
        foreach ([$from, $to, $one, $other] as $vertices) {
            foreach ($vertices as $v) {
                $free[$v] = isset($moves[$v]) ? $w[$v] : 0.0;
            }
        }
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $worst = self::shorten($x, $y, $z, $free, $from, $to, $length);
            self::part($x, $y, $z, $free, $one, $other, $apart);
            if ($worst < 1.0 + self::FAR) {
                break;
            }
        }

        return true;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, int> $first
     * @param array<int, int> $other
     * @param array<int, float> $most
     *
     * @return array<int, true> ends of edges that are far too long
     */
    private static function long(array $x, array $y, array $z, array $first, array $other, array $most): array
    {
        $long = [];
        $far = (1.0 + self::FAR) ** 2;
        foreach ($x as $a => $ax) {
            $ay = $y[$a];
            $az = $z[$a];
            for ($c = $first[$a], $end = $first[$a + 1]; $c < $end; ++$c) {
                $b = $other[$c];
                $dx = $ax - $x[$b];
                $dy = $ay - $y[$b];
                $dz = $az - $z[$b];
                $q = $most[$c];
                if ($dx * $dx + $dy * $dy + $dz * $dz > $far * $q * $q) {
                    $long[$a] = true;
                    $long[$b] = true;
                }
            }
        }

        return $long;
    }

    /**
     * @param array<int, true> $vertices
     *
     * @return array<int, true> they, and those near them
     */
    private static function around(array $vertices, Weave $weave): array
    {
        $rim = $vertices;
        for ($ring = 0; $ring < self::RINGS; $ring++) {
            $next = [];
            foreach ($rim as $v => $_) {
                foreach ($weave->around[$v] as $t) {
                    for ($k = $t; $k < $t + 3; $k++) {
                        $u = $weave->triangles[$k];
                        if (! isset($vertices[$u])) {
                            $vertices[$u] = $next[$u] = true;
                        }
                    }
                }
            }
            $rim = $next;
        }

        return $vertices;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $free
     * @param list<int> $from
     * @param list<int> $to
     * @param list<float> $length
     *
     * @return float how many times as long as it may be the longest was
     */
    private static function shorten(array &$x, array &$y, array &$z, array $free, array $from, array $to, array $length): float
    {
        $worst = 0.0;
        foreach ($from as $k => $a) {
            $b = $to[$k];
            $dx = $x[$a] - $x[$b];
            $dy = $y[$a] - $y[$b];
            $dz = $z[$a] - $z[$b];
            $q = $length[$k];
            $l = $dx * $dx + $dy * $dy + $dz * $dz;
            $sum = $free[$a] + $free[$b];
            if ($l <= $q * $q || $sum <= 0.0) {
                continue;
            }
            $l = sqrt($l);
            $worst = $l > $worst * $q ? $l / $q : $worst;
            $s = ($l - $q) / ($l * $sum);
            $sa = $free[$a] * $s;
            $sb = $free[$b] * $s;
            $x[$a] -= $sa * $dx;
            $y[$a] -= $sa * $dy;
            $z[$a] -= $sa * $dz;
            $x[$b] += $sb * $dx;
            $y[$b] += $sb * $dy;
            $z[$b] += $sb * $dz;
        }

        return $worst;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $free
     * @param list<int> $one
     * @param list<int> $other
     * @param list<float> $apart
     */
    private static function part(array &$x, array &$y, array &$z, array $free, array $one, array $other, array $apart): void
    {
        foreach ($one as $k => $a) {
            $b = $other[$k];
            $dx = $x[$a] - $x[$b];
            $dy = $y[$a] - $y[$b];
            $dz = $z[$a] - $z[$b];
            $d = $apart[$k];
            $l = $dx * $dx + $dy * $dy + $dz * $dz;
            $sum = $free[$a] + $free[$b];
            if ($l >= $d * $d || $l < 1e-18 || $sum <= 0.0) {
                continue;
            }
            $l = sqrt($l);
            $push = $d - $l;
            $most = ClothTuning::PUSH * $d;
            $s = ($push > $most ? $most : $push) / ($l * $sum);
            $sa = $free[$a] * $s;
            $sb = $free[$b] * $s;
            $x[$a] += $sa * $dx;
            $y[$a] += $sa * $dy;
            $z[$a] += $sa * $dz;
            $x[$b] -= $sb * $dx;
            $y[$b] -= $sb * $dy;
            $z[$b] -= $sb * $dz;
        }
    }
}
