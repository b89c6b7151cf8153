<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use YardBreak\Core\Format\BadFile;

/**
 * The outline of what a picture shows: where its alpha passes one half, found between the pixels (marching squares, Lorensen
 * and Cline 1987, in the plane), then simplified (Douglas and Peucker 1973).
 */
final class PngOutline
{
    /** Outlines may stray by this many pixels. */
    private const STRAY = 0.35;

    private const POINTS = 100_000;

    /** Loops with less area than this many pixels are dust. */
    private const DUST = 6.0;

    /** @throws BadFile */
    public static function of(Picture $picture): Artwork
    {
        $w = $picture->width;
        $h = $picture->height;
        // A clear rim, so that what touches the picture's edge is closed there.
        $alpha = static fn (int $x, int $y): float => $x < 0 || $y < 0 || $x >= $w || $y >= $h ? 0.0 : $picture->alpha($x, $y);
        /** @var array<string, string> $next */
        $next = [];
        $place = [];
        for ($y = -1; $y < $h; $y++) {
            for ($x = -1; $x < $w; $x++) {
                $a = $alpha($x, $y);
                $b = $alpha($x + 1, $y);
                $c = $alpha($x + 1, $y + 1);
                $d = $alpha($x, $y + 1);
                $case = ($a >= 0.5 ? 1 : 0) | ($b >= 0.5 ? 2 : 0) | ($c >= 0.5 ? 4 : 0) | ($d >= 0.5 ? 8 : 0);
                if ($case === 0 || $case === 15) {
                    continue;
                }
                // Crossings of the square's sides, named so that neighbours share them.
                $sides = [
                    't' => ["h{$x},{$y}", $x + self::at($a, $b), (float) $y],
                    'r' => ['v' . ($x + 1) . ",{$y}", $x + 1.0, $y + self::at($b, $c)],
                    'b' => ["h{$x}," . ($y + 1), $x + self::at($d, $c), $y + 1.0],
                    'l' => ["v{$x},{$y}", (float) $x, $y + self::at($a, $d)],
                ];
                // The inside lies to the left as one goes (y down: on screen to the right).
                $ways = match ($case) {
                    1 => ['tl'], 2 => ['rt'], 3 => ['rl'], 4 => ['br'], 6 => ['bt'], 7 => ['bl'], 8 => ['lb'], 9 => ['tb'], 11 => ['rb'], 12 => ['lr'], 13 => ['tr'], 14 => ['lt'],
                    // Two corners across from each other stay apart.
                    5 => ['tl', 'br'],
                    default => ['rt', 'lb'],
                };
                foreach ($ways as $way) {
                    [$from, $fx, $fy] = $sides[$way[0]];
                    [$to, $tx, $ty] = $sides[$way[1]];
                    $next[$from] = $to;
                    $place[$from] = [$fx + 0.5, -$fy - 0.5];
                    $place[$to] = [$tx + 0.5, -$ty - 0.5];
                }
            }
        }
        $outlines = [];
        $points = 0;
        while (($start = array_key_first($next)) !== null) {
            $loop = [];
            for ($at = $start; isset($next[$at]);) {
                $loop[] = $place[$at];
                $to = $next[$at];
                unset($next[$at]);
                $at = $to;
            }
            if (abs(self::area($loop)) >= self::DUST) {
                $outlines[] = $simple = Simplify::loop($loop, self::STRAY);
                $points += count($simple);
            }
        }
        if ($outlines === []) {
            throw new BadFile('Nothing in the picture is more than half opaque. Give it a transparent background and try again.');
        }
        if ($points > self::POINTS) {
            throw new BadFile('The outline is too ragged to be traced. Smooth the edges of the picture, or make it smaller.');
        }

        return new Artwork([new Shape($outlines, true, '#b0a89a')]);
    }

    private static function at(float $a, float $b): float
    {
        return $a === $b ? 0.5 : min(0.98, max(0.02, (0.5 - $a) / ($b - $a)));
    }

    /** @param list<array{float, float}> $loop */
    private static function area(array $loop): float
    {
        $sum = 0.0;
        foreach ($loop as $k => [$x, $y]) {
            [$u, $v] = $loop[$k + 1] ?? $loop[0];
            $sum += $x * $v - $u * $y;
        }

        return 0.5 * $sum;
    }
}
