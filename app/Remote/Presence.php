<?php

declare(strict_types=1);

namespace App\Remote;

use App\Support\WorkerId;
use Illuminate\Queue\Events\Looping;

/** A worker that waits for bakes of a yard elsewhere says now and then that it is there. */
final class Presence
{
    /** How often, and for how long that holds, s. */
    private const EVERY = 3.0;
    private const HOLDS = 12.0;

    private static float $last = 0.0;

    private static ?string $id = null;

    public static function nowAndThen(Looping $waits): void
    {
        $now = microtime(true);
        if ($waits->queue !== RunBakeElsewhere::QUEUE || $now - self::$last < self::EVERY) {
            return;
        }
        self::$last = $now;
        app(Board::class)->here(self::$id ??= WorkerId::own(), self::HOLDS);
    }
}
