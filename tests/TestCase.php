<?php

declare(strict_types=1);

namespace Tests;

use Illuminate\Contracts\Console\Kernel;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Testing\TestCase as Base;
use Illuminate\Support\Facades\Artisan;

/** The application on a database and a store of its own. */
abstract class TestCase extends Base
{
    protected string $folder;

    public function createApplication(): Application
    {
        $app = require __DIR__ . '/../bootstrap/app.php';
        assert($app instanceof Application);
        $app->make(Kernel::class)->bootstrap();

        return $app;
    }

    protected function setUp(): void
    {
        parent::setUp();
        $this->folder = sys_get_temp_dir() . '/yard-test-' . bin2hex(random_bytes(6));
        mkdir($this->folder);
        touch("{$this->folder}/yard.sqlite");
        config(['database.connections.sqlite.database' => "{$this->folder}/yard.sqlite", 'yard.store' => "{$this->folder}/store", 'app.key' => 'base64:' . base64_encode(str_repeat('k', 32))]);
        Artisan::call('migrate', ['--force' => true]);
    }

    protected function tearDown(): void
    {
        parent::tearDown();
        exec('rm -rf ' . escapeshellarg($this->folder));
    }

    /** @return array<mixed> a shot that bakes in a moment */
    protected static function smallDocument(): array
    {
        return [
            'version' => 2, 'frames' => 20,
            'props' => [[
                'id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 1]],
                'position' => ['y' => 0.4], 'break' => ['cellular' => ['pieces' => 6, 'seed' => 3]], 'motion' => ['rigid' => ['before' => 'falls']],
            ]],
        ];
    }
}
