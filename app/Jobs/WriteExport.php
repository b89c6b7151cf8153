<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Export;
use App\Models\Shot as ShotModel;
use App\Support\StoreFull;
use App\Support\WorkerId;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use RuntimeException;
use Throwable;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\HandOff\Exporters;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Pipeline;

/** Writes a file of a bake beside its place and moves it there; a worker that dies leaves nothing half done. */
final class WriteExport implements ShouldQueue
{
    use Queueable;

    /** How often the database is told how far it is, s. */
    private const BEAT = 0.25;

    /** It may be handed out any number of times; its row decides. */
    public int $tries = 0;

    public int $timeout = 0;

    public function __construct(private readonly string $exportId)
    {
    }

    public function handle(Pipeline $pipeline): void
    {
        $owner = WorkerId::own();
        $taken = StoreFull::waiting(fn (): int => Export::where('id', $this->exportId)->where('status', 'queued')->update(['status' => 'running', 'owner' => $owner, 'started_at' => microtime(true)]));
        $export = Export::find($this->exportId);
        if ($taken !== 1 || $export === null) {
            return;
        }
        try {
            $this->write($export, $owner, $pipeline);
            $this->end($owner, 'done');
        } catch (BakeStopped) {
            // Its row says so already.
        } catch (Refusal $error) {
            $this->end($owner, 'failed', $error->getMessage());
        } catch (Throwable $error) {
            // PHP warns of what could not be written, and the framework throws its warnings.
            if (StoreFull::isBehind($error)) {
                $this->end($owner, 'failed', StoreFull::whileKeeping('The file')->getMessage());

                return;
            }
            $this->end($owner, 'failed', 'The file could not be written for an error of ours; the newest log in storage/logs says more.');
            throw $error;
        } finally {
            @unlink("{$export->path()}.{$this->part($owner)}");
        }
    }

    private function part(string $owner): string
    {
        return substr(hash('sha256', $owner), 0, 12) . '.part';
    }

    private function write(Export $export, string $owner, Pipeline $pipeline): void
    {
        $folder = dirname($export->path());
        if (! is_dir($folder)) {
            @mkdir($folder, 0o775, true);
        }
        $part = "{$export->path()}.{$this->part($owner)}";
        $out = fopen($part, 'wb') ?: throw new RuntimeException('No export can be written.');
        $bake = $export->bake;
        $last = 0.0;
        $progress = function (int $done, int $of) use ($owner, &$last): void {
            $now = microtime(true);
            if ($now - $last >= self::BEAT) {
                $last = $now;
                if (Export::where('id', $this->exportId)->where('status', 'running')->where('owner', $owner)->update(['done' => $done, 'total' => $of]) !== 1) {
                    throw new BakeStopped();
                }
            }
        };
        $name = ShotModel::withTrashed()->findOrFail($bake->shot_id)->name;
        Exporters::of($export->format, $pipeline)->write(Shot::read(($export->revision ?? $bake->revision)->document), BakeReader::open($bake->framesPath()), $out, $name, ['frame' => $export->frame], $progress);
        if (! fclose($out) || ! rename($part, $export->path())) {
            throw new RuntimeException('The export could not be kept.');
        }
    }

    private function end(string $owner, string $status, ?string $error = null): void
    {
        StoreFull::waiting(fn (): int => Export::where('id', $this->exportId)->where('owner', $owner)->where('status', 'running')->update(['status' => $status, 'error' => $error, 'owner' => null]));
    }
}
