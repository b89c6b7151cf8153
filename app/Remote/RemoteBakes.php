<?php

declare(strict_types=1);

namespace App\Remote;

use App\Models\Bake;
use App\Support\Baking;
use App\Support\FileAssets;
use App\Support\LostWorker;
use Illuminate\Support\Facades\Queue;

/**
 * The yard's side of bakes that workers elsewhere compute: it hands them out with all they need, and keeps its own rows and
 * files as if they were computed here, so that nothing else has to know.
 */
final readonly class RemoteBakes
{
    /** A bake that nobody has taken for so long is handed out again, s: its job may be lost. */
    private const LOST = 15;

    public function __construct(private Board $board, private Depot $depot, private FileAssets $assets)
    {
    }

    private function offer(Bake $bake): void
    {
        $document = $bake->revision->document;
        foreach (self::filesOf($document) as $sha256) {
            $path = $this->assets->path($sha256);
            if ($path !== null) {
                $this->depot->offerAsset($sha256, $path);
            }
        }
        $this->board->open($bake->id);
        RunBakeElsewhere::dispatch($bake->id, $bake->motion_hash, $document)->onConnection('redis')->onQueue($bake->aside ? RunBakeElsewhere::LATER : RunBakeElsewhere::QUEUE);
    }

    /** Hands out what is new, and brings every bake under way up to what is known of it. */
    public function collect(): void
    {
        // What was cancelled before anybody took it is live no more, and still has to be forgotten.
        $recent = Bake::whereIn('status', ['queued', 'running'])->orWhere(static fn ($query) => $query->where('status', 'cancelled')->where('updated_at', '>', now()->subMinute()))->get();
        foreach ($recent as $bake) {
            $this->follow($bake, $this->board->seen($bake->id));
        }
    }

    /** @param array<string, string> $seen */
    private function follow(Bake $bake, array $seen): void
    {
        if ($bake->status === 'cancelled') {
            if ($seen !== []) {
                $this->forget($bake);
            }

            return;
        }
        if ($seen === []) {
            // It is new, or the board was emptied; then parts of its files begin elsewhere.
            foreach (Shipment::files($bake->framesPath()) as $file) {
                @unlink($file);
            }
            $bake->update(['status' => 'queued', 'frames_done' => -$bake->preRoll()]);
            $this->offer($bake);

            return;
        }
        if ($bake->cancel && ($seen['cancel'] ?? '') === '') {
            $this->board->stop($bake->id);
        }
        $whole = $this->fetch($bake, Shipment::sizes($seen));
        $ended = in_array($seen['status'] ?? '', ['done', 'failed', 'cancelled'], true);
        if (! $ended && ! isset($seen['owner'])) {
            $this->unowned($bake, $seen);

            return;
        }
        if (! $whole) {
            return;
        }
        $this->note($bake, $seen);
        if ($ended) {
            $this->forget($bake);
        }
    }

    /**
     * Appends what has come to the files here.
     *
     * @param array<string, int> $sizes
     *
     * @return bool whether all that was said to be there is here now
     */
    private function fetch(Bake $bake, array $sizes): bool
    {
        $whole = true;
        foreach (Shipment::files($bake->framesPath()) as $name => $file) {
            clearstatcache(true, $file);
            $whole = $whole && Shipment::grow($this->depot, $bake->id, $name, $file, $sizes[$name] ?? 0, (int) @filesize($file));
        }

        return $whole;
    }

    /**
     * Its worker died, or nobody has come yet.
     *
     * @param array<string, string> $seen
     */
    private function unowned(Bake $bake, array $seen): void
    {
        if ($bake->cancel) {
            $bake->update(['status' => 'cancelled', 'finished_at' => microtime(true)]);
        } elseif (($seen['status'] ?? '') === 'running') {
            $bake->update(LostWorker::leaves($bake, (int) ($seen['frames_done'] ?? -$bake->preRoll())));
            if ($bake->isLive()) {
                $this->offer($bake);
            } else {
                $this->forget($bake);
            }
        } elseif ($bake->updated_at !== null && $bake->updated_at->getTimestamp() < time() - self::LOST && Queue::connection('redis')->size(RunBakeElsewhere::QUEUE) === 0) {
            // Its job is lost. A second one would do no harm: a bake is not taken twice.
            $bake->touch();
            $this->offer($bake);
        }
    }

    /** @param array<string, string> $seen */
    private function note(Bake $bake, array $seen): void
    {
        $values = ['status' => $seen['status'] ?? 'queued', 'frames_done' => (int) ($seen['frames_done'] ?? -$bake->preRoll()), 'pieces' => (int) ($seen['pieces'] ?? 0), 'kept' => (int) ($seen['kept'] ?? 0)];
        if ($values['status'] === 'queued') {
            return;
        }
        if ($bake->started_at === null) {
            $values['started_at'] = microtime(true);
        }
        if ($values['status'] !== 'running') {
            $error = $seen['error'] ?? '';
            $values += ['error' => $error === '' ? null : ($error === Baking::FAULT ? "{$error} It is on the worker's machine." : $error), 'finished_at' => microtime(true)];
        }
        $bake->fill($values);
        if ($bake->isDirty()) {
            $bake->save();
        }
    }

    private function forget(Bake $bake): void
    {
        $this->board->forget($bake->id);
        $this->depot->drop($bake->id);
    }

    /** What the yard has taken out of its store (StoreKeeper) is not kept in the depot either. */
    public function tidy(): void
    {
        $this->depot->dropAssets(fn (string $sha256): bool => $this->assets->path($sha256) !== null);
    }

    /**
     * @param array<mixed> $document
     *
     * @return list<string> SHA-256 of the files it names
     */
    private static function filesOf(array $document): array
    {
        $found = [];
        array_walk_recursive($document, static function (mixed $value) use (&$found): void {
            if (is_string($value) && preg_match('/^[0-9a-f]{64}$/', $value) === 1) {
                $found[$value] = true;
            }
        });

        return array_map(strval(...), array_keys($found));
    }
}
