<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Bake;
use App\Support\BakeLease;
use App\Support\Baking;
use App\Support\FileCheckpoints;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Stage\Pipeline;

/**
 * Computes a bake frame by frame into its file. Only the holder of the bake's lease writes; a worker that dies loses the
 * lease, and the next one goes on from the last checkpoint, with the same bytes as result.
 */
final class RunBake implements ShouldQueue
{
    use Queueable;

    /** A bake may be handed out any number of times; its lease decides. */
    public int $tries = 0;

    public int $timeout = 0;

    /** Queue of trials: workers look into it when the other one is empty. */
    public const LATER = 'trials';

    public function __construct(private readonly string $bakeId)
    {
    }

    /** To workers elsewhere yard:collect hands it out: nobody who asks waits for their Redis and their depot. */
    public static function handOut(Bake $bake): void
    {
        if (! config()->boolean('yard.remote')) {
            self::dispatch($bake->id)->onQueue($bake->aside ? self::LATER : null);
        }
    }

    public function handle(Pipeline $pipeline): void
    {
        $bake = Bake::find($this->bakeId);
        if ($bake === null || ! $bake->isLive()) {
            return;
        }
        $lease = BakeLease::take($bake);
        if ($lease === null) {
            // Another worker is at it; if it dies, BakeRescue queues the bake again.
            return;
        }
        Baking::under($lease, fn () => $this->compute($bake, $lease, $pipeline));
    }

    private function compute(Bake $bake, BakeLease $lease, Pipeline $pipeline): void
    {
        $shot = Shot::read($bake->revision->document);
        $path = $bake->framesPath();
        if (! is_dir(dirname($path))) {
            @mkdir(dirname($path), 0o775, true);
        }
        Baker::bake(
            $pipeline,
            $shot,
            $path,
            static fn (Manifest $manifest, int $kept, int $at) => $lease->started($manifest->pieces(), $kept, $at),
            static function (Frame $frame) use ($lease): void {
                $lease->progress($frame->number);
                $lease->check();
            },
            $lease->check(...),
            new FileCheckpoints(config()->string('yard.store') . '/checkpoints'),
        );
    }

    public function failed(?Throwable $error): void
    {
        Bake::where('id', $this->bakeId)->whereIn('status', ['queued', 'running'])
            ->update(['status' => 'failed', 'error' => Baking::FAULT]);
    }
}
