<?php

declare(strict_types=1);

// Files are kept by the store itself; the framework's own disk is not served.
return ['default' => 'local', 'disks' => ['local' => ['driver' => 'local', 'root' => storage_path('app/private'), 'serve' => false]]];
