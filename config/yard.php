<?php

declare(strict_types=1);

return [
    // Where uploaded files, stage results and frames are kept.
    'store' => env('YARD_STORE', storage_path('app/store')),
    // A bake belongs to a worker for this long after its last sign of life, s.
    'lease_seconds' => (int) env('YARD_LEASE', 15),
];
