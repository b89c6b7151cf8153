<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Remote\Board;
use App\Remote\Collecting;
use App\Remote\RemoteBakes;
use Illuminate\Console\Command;
use Throwable;

/** Hands the yard's bakes to its workers elsewhere, and keeps them up to what those have done. */
final class CollectBakes extends Command
{
    /** How often it looks, microseconds. */
    private const EVERY = 250_000;

    /** How long it waits where the board or the depot cannot be reached, microseconds. */
    private const AGAIN = 2_000_000;

    /** How often it looks what the depot need not keep, s. */
    private const TIDY = 3_600.0;

    protected $signature = 'yard:collect {--once : once, instead of as long as it runs}';

    protected $description = 'Hands bakes to workers on other machines and brings in what they have baked (with YARD_REMOTE=1)';

    public function handle(RemoteBakes $bakes, Board $board): int
    {
        if (! config()->boolean('yard.remote')) {
            $this->error('There are no workers elsewhere: YARD_REMOTE is not set. See docs/deploy.md.');

            return self::FAILURE;
        }
        $said = '';
        $noted = 0.0;
        $tidied = microtime(true);
        do {
            try {
                $bakes->collect();
                $said = '';
                if (microtime(true) - $noted >= Collecting::EVERY) {
                    Collecting::note($board->workers());
                    $noted = microtime(true);
                }
                if (microtime(true) - $tidied >= self::TIDY) {
                    $bakes->tidy();
                    $tidied = microtime(true);
                }
                usleep(self::EVERY);
            } catch (Throwable $error) {
                // Said once: it will be there again.
                if ($said !== $error->getMessage()) {
                    $said = $error->getMessage();
                    report($error);
                }
                Collecting::note(0, $said);
                $noted = 0.0;
                usleep(self::AGAIN);
            }
        } while (! $this->option('once'));

        return self::SUCCESS;
    }
}
