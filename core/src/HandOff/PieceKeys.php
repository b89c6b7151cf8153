<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Bake\BadBake;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Motion\Track;

/** Of some pieces of a prop, where they are at each frame of a bake. */
final class PieceKeys
{
    /** Keys held at once: pieces are taken in as many turns as that asks for. */
    private const KEYS = 2_000_000;

    /** @return int how many pieces to take at once */
    public static function turn(int $frames): int
    {
        return max(1, intdiv(self::KEYS, max(1, $frames)));
    }

    /**
     * @param bool $weighed whether the weights are asked for too
     *
     * @return list<array{translation: string, rotation: string, scale?: string, weights?: string}> singles of some pieces at each frame
     *
     * @throws BadBake if a frame has not been baked
     */
    public static function of(Prop $prop, BakeReader $bake, int $from, int $to, bool $weighed): array
    {
        $places = $turns = $scales = $weights = array_fill(0, $to - $from, '');
        [$pose, $scale, $life, $weight] = array_map(static fn (string $kind): ?int => $bake->manifest->track($prop->id, $kind), [Track::POSE, Track::SCALE, Track::LIFE, Track::WEIGHT]);
        $weight = $weighed ? $weight : null;
        for ($frame = 1; $frame <= $bake->manifest->frames; $frame++) {
            $read = static fn (?int $track): array => $track === null ? [] : $bake->track($frame, $track) ?? throw self::unbaked($frame);
            [$values, $sizes, $lives, $shares] = [$read($pose), $read($scale), $read($life), $read($weight)];
            for ($p = $from; $p < $to; $p++) {
                $v = 7 * $p;
                $places[$p - $from] .= pack('g3', $values[$v], $values[$v + 1], $values[$v + 2]);
                $turns[$p - $from] .= pack('g4', $values[$v + 3], $values[$v + 4], $values[$v + 5], $values[$v + 6]);
                $weights[$p - $from] .= $weight === null ? '' : pack('g', $shares[$p]);
                if ($scale !== null || $life !== null) {
                    $share = $lives[$p] ?? 1.0;
                    $scales[$p - $from] .= pack('g3', $share * ($sizes[3 * $p] ?? 1.0), $share * ($sizes[3 * $p + 1] ?? 1.0), $share * ($sizes[3 * $p + 2] ?? 1.0));
                }
            }
        }
        $full = str_repeat(pack('g3', 1.0, 1.0, 1.0), $bake->manifest->frames);

        return array_map(
            static fn (string $p, string $t, string $s, string $w): array => ['translation' => $p, 'rotation' => $t] + ($s === '' || $s === $full ? [] : ['scale' => $s]) + ($w === '' ? [] : ['weights' => $w]),
            $places,
            $turns,
            $scales,
            $weights,
        );
    }

    public static function unbaked(int $frame): BadBake
    {
        return new BadBake("Frame {$frame} has not been baked yet. Wait for the bake to finish.");
    }
}
