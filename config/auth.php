<?php

declare(strict_types=1);

return [
    'defaults' => ['guard' => 'web', 'passwords' => null],
    'guards' => ['web' => ['driver' => 'session', 'provider' => 'people']],
    'providers' => ['people' => ['driver' => 'eloquent', 'model' => App\Models\Person::class]],
];
