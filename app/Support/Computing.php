<?php

declare(strict_types=1);

namespace App\Support;

/**
 * Places at which answers are computed. The processes that answer are more than these, so while previews are made the rest of
 * the site goes on answering; who finds no place is told to come again. A place is a locked file: it is free again however its
 * process ended.
 */
final class Computing
{
    /** How long one waits for a place before one is sent away, s: what takes less is not worth coming again for. */
    private const PATIENCE = 0.2;

    /** How often it is tried, s. */
    private const AGAIN = 0.02;

    private bool $inTurn = false;

    private int $depth = 0;

    public function __construct(private readonly string $folder, private readonly int $places)
    {
    }

    /** From now on this process computes only at a place, and waits for nobody who has one. */
    public function takeTurns(bool $inTurn = true): void
    {
        $this->inTurn = $inTurn;
    }

    /**
     * Does some work at a place of its own, while nobody else does work of the same name.
     *
     * @template T
     *
     * @param string $lock path of the file that stands for that work
     * @param callable(): T $work
     *
     * @return T
     *
     * @throws Busy if it does not come to its turn
     */
    public function alone(string $lock, callable $work): mixed
    {
        $place = $this->inTurn && $this->depth === 0 ? $this->place() : null;
        $this->depth++;
        try {
            return $this->named($lock, $work);
        } finally {
            $this->depth--;
            if ($place !== null) {
                fclose($place);
            }
        }
    }

    /** @return resource|null a file that is locked; null: none can be made, and one computes without a place */
    private function place()
    {
        if (! is_dir($this->folder)) {
            @mkdir($this->folder, 0o775, true);
        }
        $until = microtime(true) + self::PATIENCE;
        do {
            for ($k = 0; $k < $this->places; $k++) {
                $file = @fopen("{$this->folder}/{$k}", 'c');
                if ($file === false) {
                    return null;
                }
                if (flock($file, LOCK_EX | LOCK_NB)) {
                    return $file;
                }
                fclose($file);
            }
            usleep((int) (1e6 * self::AGAIN));
        } while (microtime(true) < $until);

        throw new Busy();
    }

    /**
     * @template T
     *
     * @param callable(): T $work
     *
     * @return T
     */
    private function named(string $path, callable $work): mixed
    {
        $taken = 0;
        $lock = @fopen($path, 'c');
        if ($lock === false || ! flock($lock, $this->inTurn ? LOCK_EX | LOCK_NB : LOCK_EX, $taken)) {
            if ($lock !== false) {
                fclose($lock);
            }
            if ($this->inTurn && $taken === 1) {
                throw new Busy();
            }

            // Without a lock the work may be done twice, with the same result.
            return $work();
        }
        try {
            return $work();
        } finally {
            @unlink($path);
            fclose($lock);
        }
    }
}
