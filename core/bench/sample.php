<?php

/**
 * Where the time goes: looks every ten milliseconds of processor time at which function runs, and who called it. Put before any
 * script; at its end it prints the functions and the ways to them by their share. Lines are those of the calls, near enough.
 * Usage: bin/php -d ffi.enable=1 -d auto_prepend_file=core/bench/sample.php SCRIPT
 */

declare(strict_types=1);

(static function (): void {
    /** @var array<string, int> $seen */
    $seen = [];
    pcntl_async_signals(true);
    pcntl_signal(SIGPROF, static function () use (&$seen): void {
        $way = [];
        foreach (array_slice(debug_backtrace(DEBUG_BACKTRACE_IGNORE_ARGS, 9), 1) as $call) {
            $way[] = preg_replace('/.*\\\\/', '', $call['class'] ?? '') . '::' . preg_replace('/.*\\\\/', '', $call['function']) . ':' . ($call['line'] ?? '');
        }
        $way = implode(' < ', $way);
        $seen[$way] = ($seen[$way] ?? 0) + 1;
    });
    $c = FFI::cdef('struct time { long s; long us; }; struct timer { struct time every; struct time first; }; int setitimer(int which, struct timer *now, struct timer *before);');
    $timer = $c->new('struct timer');
    $timer->every->us = $timer->first->us = 10_000;
    // 2: processor time of this process.
    $c->setitimer(2, FFI::addr($timer), null);
    register_shutdown_function(static function () use (&$seen, $c): void {
        $c->setitimer(2, FFI::addr($c->new('struct timer')), null);
        $sum = max(1, array_sum($seen));
        $own = [];
        foreach ($seen as $way => $times) {
            $function = strtok($way, ' ');
            $own[$function] = ($own[$function] ?? 0) + $times;
        }
        foreach ([$own, $seen] as $list) {
            arsort($list);
            foreach (array_slice($list, 0, 15, true) as $name => $times) {
                fprintf(STDERR, "%5.1f %%  %s\n", 100.0 * $times / $sum, $name);
            }
            fwrite(STDERR, "\n");
        }
    });
})();
