<?php

declare(strict_types=1);

return [
    // Where uploaded files, stage results and frames are kept.
    'store' => env('YARD_STORE', storage_path('app/store')),
    // Whether workers on other machines compute the bakes (docs/deploy.md): they are handed out by Redis, and files go by the depot.
    'remote' => (bool) env('YARD_REMOTE', false),
    // Disk by which the yard and those workers hand each other files (config/filesystems.php): s3, or a folder that all see.
    'depot' => env('YARD_DEPOT', 's3'),
    // A bake belongs to a worker of another machine for this long after its last sign of life, s. On the same machine it is
    // seen at once when a worker dies.
    'lease_seconds' => (int) env('YARD_LEASE', 60),
    // So many previews are computed at once; as many as there are cores is best. The other processes of the server go on answering.
    'computing' => max(1, (int) env('YARD_COMPUTING', 2)),
    // Names under which it is reached beyond this machine, with commas between; then everybody signs in. None: this machine only, and nobody does.
    'hosts' => array_values(array_filter(array_map(trim(...), explode(',', (string) env('YARD_HOSTS', ''))))),
    // What is in the address bar where something stands before the server that speaks TLS, as https://yard.example.
    'url' => rtrim((string) env('YARD_URL', ''), '/'),
    'room' => [
        // Results of stages (broken meshes, weights, ...) may take so many bytes; what was used longest ago goes first, and is computed again when it is needed.
        'computed' => (int) env('YARD_ROOM_COMPUTED', 4_000_000_000),
        // So many finished bakes of a shot stay beside those that are pinned.
        'bakes' => (int) env('YARD_ROOM_BAKES', 5),
    ],
];
