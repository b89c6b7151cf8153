<?php

declare(strict_types=1);

return [
    // Where uploaded files, stage results and frames are kept.
    'store' => env('YARD_STORE', storage_path('app/store')),
    // A bake belongs to a worker of another machine for this long after its last sign of life, s. On the same machine it is
    // seen at once when a worker dies.
    'lease_seconds' => (int) env('YARD_LEASE', 60),
];
