<?php

declare(strict_types=1);

return ['driver' => 'array', 'lifetime' => 120, 'cookie' => 'yard', 'path' => '/', 'same_site' => 'strict', 'http_only' => true];
