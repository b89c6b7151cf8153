<?php

declare(strict_types=1);

return [
    'default' => 'single',
    'channels' => ['single' => ['driver' => 'single', 'path' => storage_path('logs/yard.log'), 'level' => 'info']],
];
