<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Bake\Codec\Codecs;
use YardBreak\Core\Document\Playing;
use YardBreak\Core\Motion\Frame;

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
                $writer->append(self::at($from, $playing->at($n), $n));
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
    private static function at(BakeReader $from, float $moment, int $number): Frame
    {
        $low = (int) floor($moment + self::SAME);
        $share = $moment - $low;
        $a = $from->frame($low) ?? throw new BadBake("Frame {$low} is not there.");
        if ($share < self::SAME) {
            return new Frame($number, $a->tracks, $a->values, $a->readout);
        }
        $b = $from->frame($low + 1) ?? throw new BadBake('Frame ' . ($low + 1) . ' is not there.');
        $values = [];
        foreach ($a->tracks as $k => $track) {
            $values[] = Codecs::of($track->kind)->between($a->values[$k], $b->values[$k], $share);
        }
        // There are no half pieces: the readout is of the nearer one.
        return new Frame($number, $a->tracks, $values, $share < 0.5 ? $a->readout : $b->readout);
    }
}
