<?php

declare(strict_types=1);

return [
    'default' => env('QUEUE_CONNECTION', 'database'),
    'connections' => [
        'sync' => ['driver' => 'sync'],
        // A job whose worker died is handed out again after this; bakes of live workers are protected by their lease.
        'database' => ['driver' => 'database', 'table' => 'jobs', 'queue' => 'default', 'retry_after' => (int) env('QUEUE_RETRY_AFTER', 20), 'after_commit' => true],
        'redis' => ['driver' => 'redis', 'connection' => 'default', 'queue' => 'default', 'retry_after' => (int) env('QUEUE_RETRY_AFTER', 20), 'after_commit' => true],
    ],
    'failed' => ['driver' => 'database-uuids', 'database' => 'sqlite', 'table' => 'failed_jobs'],
];
