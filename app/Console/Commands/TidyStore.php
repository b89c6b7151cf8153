<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Support\StoreKeeper;
use Illuminate\Console\Command;

final class TidyStore extends Command
{
    protected $signature = 'yard:tidy {--computed : Also take out all that can be computed again}';

    protected $description = 'Take out of the store what nobody needs; workers do so by themselves every few minutes';

    public function handle(): int
    {
        $keeper = StoreKeeper::ofTheYard();
        $freed = $keeper->sweep() + ($this->option('computed') === true ? $keeper->emptyComputed() : 0);
        $this->line((string) json_encode(['freed' => $freed, 'left' => $keeper->usage()], JSON_PRETTY_PRINT));

        return self::SUCCESS;
    }
}
