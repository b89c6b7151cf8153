<?php

declare(strict_types=1);

return [
    // Addresses of what stands before the server and speaks TLS, with commas between: what they say about who asks is believed.
    'proxies' => array_values(array_filter(array_map(trim(...), explode(',', (string) env('YARD_PROXIES', ''))))),
];
