<?php

declare(strict_types=1);

namespace App\Support;

use App\Models\Asset;
use App\Models\Bake;
use App\Models\Export;
use App\Models\Revision;
use App\Models\Shot;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Log;
use YardBreak\Core\Document\Trials;

/**
 * Takes out of the store what nobody needs: old bakes of a shot that has newer ones, what was computed long ago and can be again, files
 * that were left half-written, shots deleted a month ago, uploaded files that nobody put in a shot. Never a bake that is pinned, under way, or the newest of
 * its shot. Workers call it between jobs.
 */
final readonly class StoreKeeper
{
    /** How often workers look, s. */
    private const EVERY = 300;

    /** What was used so lately may be in use, s. */
    private const FRESH = 600;

    /** A part of a file that has not grown for so long was left behind, s. */
    private const LEFT = 3_600;

    /** Files handed off are kept so long, s. */
    private const HANDED_OFF = 86_400;

    /** A deleted shot can be brought back for so long, s. */
    private const DELETED = 30 * 86_400;

    /** An uploaded file may wait so long for a shot, s. */
    private const UNUSED = 30 * 86_400;

    private function __construct(private string $store)
    {
    }

    public static function ofTheYard(): self
    {
        return new self(config()->string('yard.store'));
    }

    /** Sweeps if none of the workers has done so lately. */
    public static function nowAndThen(): void
    {
        $stamp = config()->string('yard.store') . '/swept';
        clearstatcache(true, $stamp);
        if (time() - (int) @filemtime($stamp) < self::EVERY || ! is_dir(dirname($stamp)) || ! @touch($stamp)) {
            return;
        }
        $freed = self::ofTheYard()->sweep();
        if ($freed > 0) {
            Log::info(sprintf('Took %.1f MB out of the store that nobody needs.', $freed / 1e6));
        }
    }

    /** @return int bytes that were freed */
    public function sweep(): int
    {
        return $this->purge() + $this->dropBakes() + $this->dropExports() + $this->dropParts() + $this->dropAssets() + $this->dropStages(config()->integer('yard.room.computed'), self::FRESH);
    }

    /**
     * Takes out all that can be computed again: results of stages and states to go on from.
     *
     * @return int bytes that were freed
     */
    public function emptyComputed(): int
    {
        $freed = $this->dropStages(0, 0);
        foreach ($this->files('checkpoints') as $file) {
            $freed += self::drop($file);
        }

        return $freed;
    }

    /** @return int bytes that were freed; its row goes too */
    public function dropBake(Bake $bake): int
    {
        $freed = 0;
        foreach (glob("{$bake->framesPath()}*") ?: [] as $file) {
            $freed += self::drop($file);
        }
        foreach (Export::where('bake_id', $bake->id)->get() as $export) {
            $freed += self::drop($export->path());
            $export->delete();
        }
        $bake->delete();

        return $freed;
    }

    /** @return array<string, int> bytes by what they are for */
    public function usage(): array
    {
        $usage = [];
        foreach (['bakes', 'stages', 'checkpoints', 'exports', 'assets', 'pictures'] as $part) {
            $usage[$part] = array_sum(array_map(self::size(...), iterator_to_array($this->files($part), false)));
        }
        $database = config('database.connections.sqlite.database');
        $usage['database'] = is_string($database) ? self::size($database) + self::size("{$database}-wal") : 0;

        return $usage;
    }

    public static function sizeOf(Bake $bake): int
    {
        return array_sum(array_map(self::size(...), glob("{$bake->framesPath()}*") ?: []));
    }

    /** Shots that were deleted long ago, with all that is theirs. */
    private function purge(): int
    {
        $freed = 0;
        foreach (Shot::onlyTrashed()->where('deleted_at', '<', now()->subSeconds(self::DELETED))->get() as $shot) {
            foreach ($shot->bakes()->get() as $bake) {
                $freed += $this->dropBake($bake);
            }
            $freed += self::drop("{$this->store}/pictures/{$shot->id}.jpg");
            DB::transaction(function () use ($shot): void {
                $shot->update(['head_id' => null]);
                Revision::where('shot_id', $shot->id)->delete();
                $shot->forceDelete();
            });
        }

        return $freed;
    }

    /** Of each shot the newest stay, of its trials too, and all that are pinned or under way; of those that came to nothing the newest. */
    private function dropBakes(): int
    {
        $freed = 0;
        $most = config()->integer('yard.room.bakes');
        foreach (Bake::query()->distinct()->pluck('shot_id') as $shot) {
            $ended = Bake::where('shot_id', $shot)->where('pinned', false)->whereNotIn('status', ['queued', 'running'])->orderByDesc('updated_at')->orderByDesc('id')->get();
            [$done, $broken] = $ended->partition(static fn (Bake $bake): bool => $bake->status === 'done');
            [$trials, $shown] = $done->partition(static fn (Bake $bake): bool => $bake->aside);
            foreach ([...$shown->slice($most), ...$trials->slice(Trials::MOST), ...$broken->slice($done->isEmpty() ? 1 : 0)] as $bake) {
                $fresh = $bake->updated_at !== null && $bake->updated_at->getTimestamp() >= time() - self::FRESH;
                // A file of it may be being written.
                if (! $fresh && ! Export::where('bake_id', $bake->id)->whereIn('status', ['queued', 'running'])->exists()) {
                    $freed += $this->dropBake($bake);
                }
            }
        }
        // Frames of which no bake knows any more.
        foreach ($this->files('bakes') as $file) {
            if (self::age($file) > self::LEFT && ! Bake::whereKey(strtok(basename($file), '.') ?: '')->exists()) {
                $freed += self::drop($file);
            }
        }

        return $freed;
    }

    private function dropExports(): int
    {
        $freed = 0;
        foreach (Export::whereNotIn('status', ['queued', 'running'])->where('updated_at', '<', now()->subSeconds(self::HANDED_OFF))->get() as $export) {
            $freed += self::drop($export->path());
            $export->delete();
        }

        return $freed;
    }

    /** Uploaded files that no state of any shot names, not even one that can be gone back to. */
    private function dropAssets(): int
    {
        $idle = [];
        foreach ($this->files('assets') as $file) {
            if (preg_match('/^[0-9a-f]{64}$/', basename($file)) === 1 && self::age($file) > self::UNUSED) {
                $idle[basename($file)] = $file;
            }
        }
        if ($idle === []) {
            return 0;
        }
        foreach (DB::table('revisions')->select(['id', 'document'])->lazyById(100) as $revision) {
            preg_match_all('/"([0-9a-f]{64})"/', is_string($revision->document) ? $revision->document : '', $named);
            foreach ($named[1] as $sha) {
                if (isset($idle[$sha])) {
                    // Not asked again for a while.
                    @touch($idle[$sha]);
                    unset($idle[$sha]);
                }
            }
        }
        $freed = 0;
        foreach ($idle as $sha => $file) {
            clearstatcache(true, $file);
            if (self::age($file) <= self::UNUSED) {
                // Brought in again meanwhile.
                continue;
            }
            $freed += self::drop($file);
            DB::table('brought_assets')->where('sha256', $sha)->delete();
            Asset::whereKey($sha)->delete();
        }

        return $freed;
    }

    private function dropParts(): int
    {
        $freed = 0;
        foreach ($this->files('') as $file) {
            if (preg_match('/\.(part|lock)$/', $file) === 1 && self::age($file) > self::LEFT) {
                $freed += self::drop($file);
            }
        }

        return $freed;
    }

    /**
     * Results of stages, those that were used longest ago first, until they take no more than some room.
     *
     * @param int $room bytes
     * @param int $spared those used so lately stay, s
     */
    private function dropStages(int $room, int $spared): int
    {
        $files = [];
        $sum = 0;
        foreach ($this->files('stages') as $file) {
            $size = self::size($file);
            $sum += $size;
            $files[$file] = [(int) @filemtime($file), $size];
        }
        asort($files);
        $freed = 0;
        foreach ($files as $file => [$used, $size]) {
            if ($sum - $freed <= $room || $used > time() - $spared) {
                break;
            }
            $freed += self::drop($file);
        }

        return $freed;
    }

    /** @return iterable<string> files in a folder of the store and below */
    private function files(string $part): iterable
    {
        $folders = [rtrim("{$this->store}/{$part}", '/')];
        while ($folders !== []) {
            $folder = array_pop($folders);
            // Others may take files out meanwhile.
            foreach (@scandir($folder) ?: [] as $name) {
                if ($name === '.' || $name === '..') {
                    continue;
                }
                if (is_dir("{$folder}/{$name}")) {
                    $folders[] = "{$folder}/{$name}";
                } else {
                    yield "{$folder}/{$name}";
                }
            }
        }
    }

    private static function drop(string $file): int
    {
        $size = self::size($file);

        return @unlink($file) ? $size : 0;
    }

    private static function size(string $file): int
    {
        return (int) @filesize($file);
    }

    private static function age(string $file): int
    {
        return time() - (int) @filemtime($file);
    }
}
