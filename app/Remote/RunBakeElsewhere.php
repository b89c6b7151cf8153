<?php

declare(strict_types=1);

namespace App\Remote;

use App\Support\Baking;
use App\Support\FileCheckpoints;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Pipeline;

/** Computes a bake for a yard on another machine, of which it sees the board and the depot only. */
final class RunBakeElsewhere implements ShouldQueue
{
    use Queueable;

    public const QUEUE = 'bakes';

    /** Of trials, while the other one is empty. */
    public const LATER = 'trials';

    /** A bake may be handed out any number of times; who has it decides. */
    public int $tries = 0;

    public int $timeout = 0;

    /** @param array<mixed> $document of the shot */
    public function __construct(private readonly string $bake, private readonly string $motionHash, private readonly array $document)
    {
    }

    public function handle(Pipeline $pipeline, Board $board, Depot $depot): void
    {
        $lease = RemoteLease::take($board, $this->bake);
        if ($lease === null) {
            return;
        }
        Baking::under($lease, fn () => $this->compute($pipeline, $board, $depot, $lease));
    }

    /** @throws Refusal */
    private function compute(Pipeline $pipeline, Board $board, Depot $depot, RemoteLease $lease): void
    {
        $shot = Shot::read($this->document);
        if ($pipeline->motionHash($shot) !== $this->motionHash) {
            throw new OtherVersion('A worker elsewhere is of another version than the yard, and would give other frames. Bring both to the same version, then bake again.');
        }
        $store = config()->string('yard.store');
        $path = "{$store}/bakes/{$this->bake}.frames";
        if (! is_dir(dirname($path))) {
            @mkdir(dirname($path), 0o775, true);
        }
        $sizes = Shipment::sizes($board->seen($this->bake));
        Shipment::fetch($depot, $this->bake, $path, $sizes);
        $shipment = new Shipment($depot, $this->bake, $path, $sizes);
        $send = static function () use ($shipment, $lease): void {
            $shipment->send();
            $lease->say($shipment->sent());
        };
        $checkpoints = new DepotCheckpoints(new FileCheckpoints("{$store}/checkpoints"), $depot, $this->bake, $shot->playing->isPlain() ? $path : "{$path}.happened", $send);
        Baker::bake(
            $pipeline,
            $shot,
            $path,
            static function (Manifest $manifest, int $kept, int $at) use ($lease, $send): void {
                $send();
                $lease->started($manifest->pieces(), $kept, $at);
            },
            static function (Frame $frame) use ($lease, $shipment): void {
                if ($shipment->nowAndThen()) {
                    $lease->say($shipment->sent() + ['frames_done' => $frame->number]);
                }
                $lease->check();
            },
            $lease->check(...),
            $checkpoints,
        );
        $send();
        $lease->progress($shot->frames);
    }
}
