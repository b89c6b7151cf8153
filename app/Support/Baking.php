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

    /**
     * @param callable(): void $work
     *
     * @throws Throwable what is a fault of ours, once it has been said
     */
    public static function under(Lease $lease, callable $work): void
    {
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
        }
    }
}
