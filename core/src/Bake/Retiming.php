<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Bake\Codec\Codecs;
use YardBreak\Core\Document\Playing;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;

/** Frames in another time: each shows a moment of frames that are there already, between two of them where it must. */
final class Retiming
{
    /** Nearer to a frame than this it is that frame. */
    private const SAME = 1e-6;

    /**
     * @param (callable(): void)|null $tick called often; what it throws ends it, and what was there before stays
     *
     * @throws BadBake if a frame is missing, or there is no room
     */
    public static function write(BakeReader $from, string $path, Playing $playing, Manifest $manifest, ?callable $tick = null): void
    {
        // Beside its place first: a file is there when it is whole.
        $part = "{$path}.part";
        $writer = BakeWriter::create($part, $manifest);
        try {
            for ($n = 1; $n <= $manifest->frames; $n++) {
                $writer->append(self::at($from, $playing, $n));
                if ($tick !== null) {
                    $tick();
                }
            }
        } finally {
            $writer->close();
        }
        BakeWriter::place($part, $path);
    }

    /** @throws BadBake */
    private static function at(BakeReader $from, Playing $playing, int $number): Frame
    {
        /** @var array<int, Frame> $known by number */
        $known = [];
        $frame = static function (int $n) use ($from, &$known): Frame {
            return $known[$n] ??= $from->frame($n) ?? throw new BadBake("Frame {$n} is not there.");
        };
        // There are no half pieces: the readout is of the nearer one.
        $shown = $frame((int) round($playing->at($number)));
        $values = [];
        $readout = $shown->readout;
        foreach ($shown->tracks as $k => $track) {
            $moment = $playing->of($track->prop, $number);
            $low = (int) floor($moment + self::SAME);
            $share = $moment - $low;
            $values[] = $share < self::SAME ? $frame($low)->values[$k] : Codecs::of($track->kind)->between($frame($low)->values[$k], $frame($low + 1)->values[$k], $share);
            $own = $frame((int) round($moment));
            if ($track->kind === Track::FLAGS && $own !== $shown && isset($readout['released'])) {
                $readout['released'] += self::released($own->values[$k]) - self::released($shown->values[$k]);
            }
        }

        return new Frame($number, $shown->tracks, $values, $readout);
    }

    /** @param array<int, float|int> $flags */
    private static function released(array $flags): int
    {
        return count(array_filter($flags, static fn (float|int $flag): bool => ((int) $flag & Frame::RELEASED) > 0));
    }
}
