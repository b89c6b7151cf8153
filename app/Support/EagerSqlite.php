<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Database\SQLiteConnection;

/**
 * Takes SQLite's write lock when a transaction begins. A transaction that reads first and writes later is refused at once
 * ("database is locked") if another process wrote in between, however long the busy timeout; one that starts with the lock
 * waits its turn. (PHP 8.4 can say BEGIN IMMEDIATE; before, the first statement has to be a write.)
 */
final class EagerSqlite extends SQLiteConnection
{
    protected function executeBeginTransactionStatement(): void
    {
        $this->getPdo()->beginTransaction();
        try {
            $this->getPdo()->exec('PRAGMA user_version = 1');
        } catch (\PDOException $error) {
            $this->getPdo()->rollBack();
            throw $error;
        }
    }
}
