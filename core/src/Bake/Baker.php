<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Acting;
use YardBreak\Core\Stage\Pipeline;

/**
 * Computes a shot's frames into a file. What has been computed before, by this bake or by another whose shot was the same up
 * to a frame, is taken over: a bake that was cut off goes on, and a change that acts only later begins there.
 */
final class Baker
{
    /** A state is kept at least this often, s; no more than that is lost with a worker. */
    private const EVERY = 4.0;

    /** States kept in a bake because something begins to act there. */
    private const CHANGES = 24;

    /**
     * @param (callable(Manifest, int, int): void)|null $started with how many frames were taken over, and the frame it goes on after: below 1 in the pre-roll
     * @param (callable(Frame): void)|null $stored called after each frame that was computed, those of the pre-roll too, which are not stored
     * @param (callable(): void)|null $tick called often; what it throws ends the bake, and what has been stored stays
     *
     * @return int frames that were taken over
     *
     * @throws Refusal
     */
    public static function bake(
        Pipeline $pipeline,
        Shot $shot,
        string $path,
        ?callable $started = null,
        ?callable $stored = null,
        ?callable $tick = null,
        ?Checkpoints $checkpoints = null,
    ): int {
        // In another time it is shown once all of it has happened.
        $shown = $path;
        $path = $shot->playing->isPlain() ? $path : "{$path}.happened";
        [$motion, $acting] = $pipeline->acting($shot, $tick, BakedSightings::toBe($path));
        $manifest = new Manifest($shot->fps, $shot->frames, $pipeline->motionHash($shot), $motion->tracks());
        [$after, $state, $source] = $checkpoints === null ? [0, '', ''] : self::known($acting, $shot, $manifest, $checkpoints, $tick);
        $kept = max(0, $after);
        $writer = $kept > 0 ? BakeWriter::adopt($path, $manifest, $source, $kept) : BakeWriter::create($path, $manifest);
        try {
            if ($state !== '') {
                $motion->restore($state);
            }
            if ($started !== null) {
                $started($manifest, $kept, $state === '' ? -$shot->preRoll : $after);
            }
            $changes = array_fill_keys(array_slice($acting->changes(), 0, self::CHANGES), true);
            $last = microtime(true);
            foreach ($motion->frames() as $number => $frame) {
                if ($number >= 1) {
                    $writer->append($frame);
                }
                if ($stored !== null) {
                    $stored($frame);
                }
                $now = microtime(true);
                if ($checkpoints !== null && ($now - $last > self::EVERY || isset($changes[$number]) || ($number === 1 && $shot->preRoll > 0) || $number === $shot->frames)) {
                    $checkpoints->keep($acting->upTo($number), $motion->save(), $path);
                    $last = $now;
                }
            }
        } finally {
            $writer->close();
        }
        if ($shown !== $path) {
            Retiming::write(BakeReader::open($path), $shown, $shot->playing, $manifest, $tick);
            if ($checkpoints === null) {
                // Nobody goes on from there.
                @unlink($path);
                @unlink(BakeReader::indexOf($path));
            }
        }

        return $kept;
    }

    /**
     * The latest frame up to which everything has been computed.
     *
     * @param (callable(): void)|null $tick
     *
     * @return array{int, string, string} frame, below 1 in the pre-roll; state (empty: none), path of the frames
     */
    private static function known(Acting $acting, Shot $shot, Manifest $manifest, Checkpoints $checkpoints, ?callable $tick): array
    {
        // Weights of very many pieces at all frames take a while.
        for ($n = 1; $n <= $shot->frames && $tick !== null; $n++) {
            $acting->upTo($n);
            $tick();
        }
        for ($n = $shot->frames; $n > 1 - $shot->preRoll || $n === 1; $n--) {
            $found = $checkpoints->find($acting->upTo($n));
            if ($found === null) {
                continue;
            }
            try {
                $reader = BakeReader::open($found[1]);
                if ($reader->frames() >= max(0, $n) && $reader->manifest->tracks == $manifest->tracks && $reader->manifest->readout === $manifest->readout) {
                    return [$n, $found[0], $found[1]];
                }
            } catch (BadBake) {
                // Its frames are gone: an earlier one may do.
            }
        }

        return [0, '', ''];
    }
}
