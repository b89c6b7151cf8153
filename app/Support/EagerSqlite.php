<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Database\SQLiteConnection;
use PDO;
use PDOException;

/**
 * Takes SQLite's write lock when a transaction begins. A transaction that reads first and writes later is refused at once
 * ("database is locked") if another process wrote in between, however long the busy timeout; one that starts with the lock
 * waits its turn. (PHP 8.4 can say BEGIN IMMEDIATE; before, the first statement has to be a write.)
 */
final class EagerSqlite extends SQLiteConnection
{
    protected function executeBeginTransactionStatement(): void
    {
        $pdo = $this->getPdo();
        if ($pdo->inTransaction()) {
            // Left open by a commit that failed: nothing of it was kept.
            self::end($pdo);
        }
        $pdo->beginTransaction();
        try {
            $pdo->exec('PRAGMA user_version = 1');
        } catch (PDOException $error) {
            if ($pdo->inTransaction()) {
                self::end($pdo);
            }
            throw $error;
        }
    }

    protected function performRollBack($toLevel)
    {
        if ($toLevel === 0 && $this->getPdo()->inTransaction()) {
            self::end($this->getPdo());

            return;
        }
        parent::performRollBack($toLevel);
    }

    /**
     * When the disk is full, SQLite rolls back by itself, but PDO goes on believing that a transaction is open and refuses
     * every other. A rollback that finds nothing is given something to roll back.
     */
    private static function end(PDO $pdo): void
    {
        try {
            $pdo->rollBack();
        } catch (PDOException) {
            $pdo->exec('BEGIN');
            $pdo->rollBack();
        }
    }
}
