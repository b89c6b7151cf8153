<?php

declare(strict_types=1);

namespace App\Support;

use App\Jobs\BakeStopped;
use App\Jobs\LeaseLost;
use Throwable;
use YardBreak\Core\Refusal;

/** What every worker does with a bake that it holds: however the work ends, the lease says so. */
final class Baking
{
    /** Said where the fault is ours. */
    public const FAULT = 'The simulation stopped with an error of ours; the newest log in storage/logs says more.';

    /** What this worker is at; null: nothing, or that has ended. */
    private static ?Lease $held = null;

    private static bool $watched = false;

    /**
     * @param callable(): void $work
     *
     * @throws Throwable what is a fault of ours, once it has been said
     */
    public static function under(Lease $lease, callable $work): void
    {
        if (! self::$watched) {
            register_shutdown_function(self::atTheEnd(...));
            self::$watched = true;
        }
        self::$held = $lease;
        try {
            $work();
            $lease->end('done');
        } catch (BakeStopped) {
            $lease->end('cancelled');
        } catch (LeaseLost) {
            // The new owner goes on; this worker touches nothing any more.
        } catch (Refusal $error) {
            $lease->end('failed', $error->getMessage());
        } catch (Throwable $error) {
            $lease->end('failed', self::FAULT);
            throw $error;
        } finally {
            self::$held = null;
        }
    }

    /** Where memory ends PHP only stops, and nobody would hear of it. */
    private static function atTheEnd(): void
    {
        $error = error_get_last();
        if (self::$held === null || $error === null || $error['type'] !== E_ERROR) {
            return;
        }
        $limit = (string) ini_get('memory_limit');
        ini_set('memory_limit', '-1');
        self::$held->end('failed', str_starts_with($error['message'], 'Allowed memory size')
            ? "It needs more memory than a worker may have ({$limit}). Make what bends of fewer vertices, or break it into fewer pieces, then bake again. What was computed is kept."
            : self::FAULT);
    }
}
