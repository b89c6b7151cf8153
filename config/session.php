<?php

declare(strict_types=1);

// Only there where one signs in: {@see App\Http\Middleware\SignedIn}.
return [
    'driver' => env('SESSION_DRIVER', 'database'),
    'table' => 'sessions',
    'lottery' => [2, 100],
    // Minutes without a request; a day's work with a long lunch.
    'lifetime' => (int) env('SESSION_LIFETIME', 600),
    'expire_on_close' => false,
    'cookie' => 'yard',
    'path' => '/',
    'secure' => str_starts_with((string) env('YARD_URL', ''), 'https://'),
    'same_site' => 'strict',
    'http_only' => true,
];
