<?php

declare(strict_types=1);

return [
    'default' => 'daily',
    // A file a day, two weeks of them.
    'channels' => ['daily' => ['driver' => 'daily', 'path' => storage_path('logs/yard.log'), 'level' => 'info', 'days' => 14]],
];
