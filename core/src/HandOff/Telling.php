<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use Closure;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Motion\Track;

/** How far a file of the whole motion is: a piece is one thing to do, and so is each frame of what bends. */
final class Telling
{
    /**
     * @param callable(int, int): void $progress how much is done, of how much
     *
     * @return Closure(): void to be called when one more is done
     */
    public static function of(Manifest $manifest, callable $progress): Closure
    {
        $bent = array_filter($manifest->tracks, static fn (Track $track): bool => $track->kind === Track::VERTICES);
        $all = $manifest->pieces() + count($bent) * $manifest->frames;
        $done = 0;

        return static function () use (&$done, $all, $progress): void {
            $progress(++$done, $all);
        };
    }
}
