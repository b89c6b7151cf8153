<?php

declare(strict_types=1);

namespace App\Support;

use App\Jobs\BakeStopped;
use App\Jobs\LeaseLost;

/** A worker's right to write a bake, and how it says how far it is. */
interface Lease
{
    /**
     * Called often; looks a few times a second whether to go on.
     *
     * @throws BakeStopped
     * @throws LeaseLost
     */
    public function check(): void;

    /**
     * @param int $kept frames that need not be computed
     * @param int $at the frame it goes on after; below 1 in the pre-roll
     */
    public function started(int $pieces, int $kept, int $at): void;

    /** @throws LeaseLost */
    public function progress(int $frames): void;

    public function end(string $status, ?string $error = null): void;
}
