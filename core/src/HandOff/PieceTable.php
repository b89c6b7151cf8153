<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\Pipeline;

/**
 * A row a piece, as CSV (RFC 4180): what it is called in files, how large it is, and what becomes of it. For who makes sounds, dust and
 * lists of what moves when. Of what moves by its vertices nothing is said of a motion: it has no one place.
 */
final readonly class PieceTable implements Exporter
{
    public const COLUMNS = [
        'prop', 'piece', 'name', 'volume_m3', 'mass_kg', 'width_m', 'height_m', 'depth_m', 'x_m', 'y_m', 'z_m',
        'lets_go_frame', 'rests_from_frame', 'gone_frame', 'fastest_m_per_s', 'fastest_frame', 'way_m', 'end_x_m', 'end_y_m', 'end_z_m',
    ];

    /** Pieces times frames that are looked at in a second. */
    private const QUICK = 300_000;

    public function __construct(private Pipeline $pipeline)
    {
    }

    public function format(): array
    {
        return ['extension' => 'csv', 'type' => 'text/csv', 'ofOneFrame' => false];
    }

    public function isQuick(Manifest $manifest): bool
    {
        return $manifest->pieces() * $manifest->frames <= self::QUICK;
    }

    public function write(Shot $shot, BakeReader $bake, $out, string $name, array $options, callable $progress): void
    {
        fputcsv($out, self::COLUMNS, escape: '', eol: "\r\n");
        $done = 0;
        foreach ($shot->props as $prop) {
            $broken = $this->pipeline->broken($prop);
            $fates = $this->fates($prop, $bake);
            $settings = $prop->mover->settings;
            $density = $settings->has('density') ? $settings->float('density') : null;
            $count = count($broken->pieces);
            for ($p = 0; $p < $count; $p++) {
                $fate = isset($fates[$p]) ? self::said($shot, $fates[$p]) : array_fill(0, 12, '');
                fputcsv($out, [$prop->name, $p + 1, Looks::pieceName($prop, $p, $count), ...self::size($shot, $broken, $p, $density), ...$fate], escape: '', eol: "\r\n");
                $progress(++$done, $bake->manifest->pieces());
            }
        }
    }

    /** @return list<PieceFate> of each piece; none where they have no places of their own */
    private function fates(Prop $prop, BakeReader $bake): array
    {
        [$pose, $flag, $life] = array_map(static fn (string $kind): ?int => $bake->manifest->track($prop->id, $kind), [Track::POSE, Track::FLAGS, Track::LIFE]);
        $fates = [];
        for ($number = 1; $pose !== null && $number <= $bake->manifest->frames; $number++) {
            $poses = $bake->track($number, $pose) ?? throw PieceKeys::unbaked($number);
            $flags = $flag === null ? [] : $bake->track($number, $flag) ?? [];
            $lives = $life === null ? [] : $bake->track($number, $life) ?? [];
            for ($p = 0, $v = 0, $end = count($poses); $v < $end; $p++, $v += 7) {
                $at = [(float) $poses[$v], (float) $poses[$v + 1], (float) $poses[$v + 2]];
                $fates[$p] ??= new PieceFate($at);
                $fates[$p]->see($number, $at, (int) ($flags[$p] ?? 0), (float) ($lives[$p] ?? 1.0));
            }
        }

        return array_values($fates);
    }

    /** @return list<float|string> */
    private static function size(Shot $shot, BrokenProp $broken, int $piece, ?float $density): array
    {
        $scale = $shot->placing->scale ?? 1.0;
        $volume = $broken->mass[$piece]->volume;
        [$low, $high] = $broken->pieces->mesh($piece)->bounds();

        return [
            round($scale ** 3 * $volume, 9),
            // As it was computed: placing makes nothing heavier.
            $density === null ? '' : round($density * $volume, 6),
            ...array_map(static fn (float $a, float $b): float => round($scale * ($b - $a), 6), $low, $high),
        ];
    }

    /** @return list<float|int|string> from where it begins */
    private static function said(Shot $shot, PieceFate $fate): array
    {
        $scale = $shot->placing->scale ?? 1.0;
        $called = static fn (?int $frame): int|string => $frame === null ? '' : $shot->called($frame);

        return [
            ...self::place($shot, $fate->first), $called($fate->letsGo), $called($fate->rests), $called($fate->gone),
            round($scale * $shot->fps * $fate->fastest, 3), $called($fate->fastestAt), round($scale * $fate->way, 4), ...self::place($shot, $fate->last),
        ];
    }

    /**
     * @param array{float, float, float} $at
     *
     * @return list<float> where the result is placed
     */
    private static function place(Shot $shot, array $at): array
    {
        $placing = $shot->placing;
        if ($placing !== null) {
            $at = Quaternion::carried($placing->position, $placing->rotation, [$placing->scale * $at[0], $placing->scale * $at[1], $placing->scale * $at[2]]);
        }

        // Not -0.
        return array_map(static fn (float $part): float => round($part, 5) + 0.0, $at);
    }
}
