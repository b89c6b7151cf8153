<?php

declare(strict_types=1);

namespace App\Support;

use App\Models\Shot;
use Illuminate\Support\Facades\Cache;
use YardBreak\Core\Break\Progress;

/** How far a shot's preview has got, for those who wait for it; and whether anybody still does. */
final class BreakWatch
{
    /** How often a long break tells of itself and looks whether it is still wanted, s. */
    private const EVERY = 0.15;

    /** What is known of a break is forgotten after so long, s. */
    private const KEPT = 20;

    /** A break that nobody waits for any more is given up: the shot has moved on to another revision, or it was stopped. */
    public static function of(Shot $shot): Progress
    {
        $begin = $asked = microtime(true);
        $head = $shot->head_id;
        $phase = '';
        $since = $begin;

        return new Progress(static function (string $what, int $done, int $of) use ($shot, $head, $begin, &$asked, &$phase, &$since): void {
            $now = microtime(true);
            if ($what !== $phase) {
                $since = $phase === '' ? $begin : $now;
                $phase = $what;
            }
            if ($now - $asked < self::EVERY) {
                return;
            }
            $asked = $now;
            if ((float) Cache::get("break stop {$shot->id}", 0.0) > $begin) {
                throw new Problem(409, 'Stopped', 'The preview was stopped. Change a setting, or open the stage again, to start it anew.');
            }
            self::wanted($shot, $head);
            Cache::put("break {$shot->id}", [
                'what' => $what,
                'done' => $done,
                'of' => $of,
                'remaining' => $done > 0 && $of > 1 ? ($now - $since) * ($of - $done) / $done : null,
            ], self::KEPT);
        });
    }

    /** Of what is computed beside the preview; given up as soon as the shot has moved on. */
    public static function aside(Shot $shot): Progress
    {
        $asked = microtime(true);
        $head = $shot->head_id;

        return new Progress(static function () use ($shot, $head, &$asked): void {
            if (microtime(true) - $asked >= self::EVERY) {
                self::wanted($shot, $head);
                $asked = microtime(true);
            }
        });
    }

    /** @throws Problem if the shot has moved on to another revision */
    private static function wanted(Shot $shot, ?string $head): void
    {
        if (Shot::where('id', $shot->id)->value('head_id') !== $head) {
            throw new Problem(409, 'Superseded', 'The shot has changed since; the newer state is on its way.');
        }
    }

    public static function done(Shot $shot): void
    {
        Cache::forget("break {$shot->id}");
    }

    /** @return array<mixed>|null what is being done, how many are done of how many, and seconds left in this part of the work */
    public static function state(Shot $shot): ?array
    {
        $state = Cache::get("break {$shot->id}");

        return is_array($state) ? $state : null;
    }

    public static function stop(Shot $shot): void
    {
        Cache::put("break stop {$shot->id}", microtime(true), self::KEPT);
        self::done($shot);
    }
}
