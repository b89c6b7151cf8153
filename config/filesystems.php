<?php

declare(strict_types=1);

// Files are kept by the store itself; the framework's own disk is not served. The others are depots, for workers on other machines.
return ['default' => 'local', 'disks' => [
    'local' => ['driver' => 'local', 'root' => storage_path('app/private'), 'serve' => false],
    'shared' => ['driver' => 'local', 'root' => env('YARD_DEPOT_FOLDER', storage_path('app/depot')), 'serve' => false, 'throw' => true],
    's3' => [
        'driver' => 's3',
        'key' => env('AWS_ACCESS_KEY_ID'),
        'secret' => env('AWS_SECRET_ACCESS_KEY'),
        'region' => env('AWS_DEFAULT_REGION', 'us-east-1'),
        'bucket' => env('AWS_BUCKET'),
        'endpoint' => env('AWS_ENDPOINT'),
        'use_path_style_endpoint' => (bool) env('AWS_USE_PATH_STYLE_ENDPOINT', true),
        'throw' => true,
    ],
]];
