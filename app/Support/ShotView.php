<?php

declare(strict_types=1);

namespace App\Support;

use App\Models\Bake;
use App\Models\Shot;
use Throwable;
use YardBreak\Core\Document\Difference;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Stage\Pipeline;

/** Shots and bakes as the browser sees them. */
final class ShotView
{
    public function __construct(private readonly ShotBook $book, private readonly Pipeline $pipeline)
    {
    }

    /** @return array<string, mixed> */
    public function card(Shot $shot): array
    {
        $props = $shot->head->document['props'] ?? [];
        $picture = config()->string('yard.store') . "/pictures/{$shot->id}.jpg";

        return [
            'id' => $shot->id,
            'name' => $shot->name,
            'updated' => $shot->updated_at?->toIso8601String(),
            'revision' => $shot->head?->number,
            'props' => array_values(array_filter(array_column(is_array($props) ? $props : [], 'name'), 'is_string')),
            'frames' => $shot->head->document['frames'] ?? 0,
            'fps' => $shot->head->document['fps'] ?? 24,
            'owner' => $shot->owner?->name,
            'mine' => People::owns($shot),
            'people' => $shot->owner_id === null ? [] : $shot->people->pluck('name')->all(),
            'picture' => is_file($picture) ? "/api/shots/{$shot->id}/picture?" . filemtime($picture) : null,
        ];
    }

    /** @return list<array<string, mixed>> all bakes of a shot that are there, the one that is shown first */
    public function bakes(Shot $shot): array
    {
        $listed = [];
        /** @var Bake $bake */
        foreach ($shot->bakes()->with('revision')->whereNot('status', 'cancelled')->orderByDesc('updated_at')->orderByDesc('id')->get() as $bake) {
            $listed[] = $this->listed($bake);
        }

        return $listed;
    }

    /** @return array<string, mixed> a bake among the others of its shot */
    public function listed(Bake $bake): array
    {
        return [
            'id' => $bake->id,
            'status' => $bake->status,
            'error' => $bake->error,
            'trial' => $bake->trial,
            'aside' => $bake->aside,
            'pinned' => $bake->pinned,
            'frames' => $bake->frames,
            'done' => max(0, $bake->frames_done),
            'revision' => $bake->revision->number,
            'summary' => $bake->revision->summary,
            'made' => $bake->created_at?->toIso8601String(),
            'bytes' => StoreKeeper::sizeOf($bake),
        ];
    }

    /** @return array<string, mixed> */
    public function full(Shot $shot): array
    {
        $shot->load('head');
        $head = $shot->head;
        // Documents from before a setting existed get its default.
        $document = Schema::load()->complete($head->document ?? []);
        /** @var Bake|null $bake */
        $bake = $shot->bakes()->with('revision')->where('aside', false)->whereNot('status', 'cancelled')->orderByDesc('updated_at')->orderByDesc('id')->first();

        return $this->card($shot) + [
            'document' => $document,
            'head' => ['id' => $head?->id, 'number' => $head?->number, 'summary' => $head?->summary],
            'canUndo' => $head?->parent_id !== null,
            'canRedo' => $head !== null && $this->book->redoTarget($head) !== null,
            'bake' => $bake === null ? null : $this->bake($bake, $document),
        ];
    }

    /**
     * @param array<mixed> $current the document to compare with
     *
     * @return array<string, mixed>
     */
    public function bake(Bake $bake, array $current): array
    {
        $stale = $bake->motion_hash !== $this->motionHash($current);
        $done = max(0, $bake->frames_done);
        $running = $bake->status === 'running' && $bake->started_at !== null;
        $elapsed = $bake->started_at === null ? 0.0 : ($bake->finished_at ?? microtime(true)) - $bake->started_at;
        $preRoll = $bake->preRoll();
        // What was taken over took no time; a pre-roll takes as long as what is shown.
        $computed = $bake->frames_done - $bake->kept + ($bake->kept === 0 ? $preRoll : 0);

        return [
            'id' => $bake->id,
            'status' => $bake->status,
            'error' => $bake->error,
            'trial' => $bake->trial,
            'waiting' => Waiting::why($bake),
            'pinned' => $bake->pinned,
            'frames' => $bake->frames,
            'done' => $done,
            'preRoll' => $preRoll,
            'rolled' => $bake->frames_done < 1 ? max(0, $bake->frames_done + $preRoll) : $preRoll,
            'pieces' => $bake->pieces,
            'kept' => $bake->kept,
            'elapsed' => round($elapsed, 2),
            'remaining' => $running && $computed > 1 ? round($elapsed / $computed * ($bake->frames - $bake->frames_done), 1) : null,
            'revision' => $bake->revision->number,
            'made' => $bake->created_at?->toIso8601String(),
            'props' => self::inTheShot($bake->revision->document),
            'stale' => $stale,
            'differences' => $stale ? self::differences($bake->revision->document, $current) : [],
        ];
    }

    /** @return list<string> what was changed from one bake to another, in words */
    public function between(Bake $from, Bake $to): array
    {
        return $from->motion_hash === $to->motion_hash ? [] : self::differences($from->revision->document, $to->revision->document);
    }

    /**
     * @param array<mixed> $document
     *
     * @return list<mixed> ids of the props that are not switched off
     */
    private static function inTheShot(array $document): array
    {
        $props = is_array($document['props'] ?? null) ? $document['props'] : [];

        return array_column(array_filter($props, static fn (mixed $prop): bool => is_array($prop) && ($prop['on'] ?? true) !== false), 'id');
    }

    /**
     * @param array<mixed> $baked
     * @param array<mixed> $current
     *
     * @return list<string>
     */
    private static function differences(array $baked, array $current): array
    {
        $texts = array_column(Difference::between($baked, $current), 'text');

        return $texts === [] ? ['Yard Break itself has changed since'] : $texts;
    }

    /** @param array<mixed> $document */
    private function motionHash(array $document): string
    {
        try {
            return $this->pipeline->motionHash(ShotDocument::read($document));
        } catch (Throwable) {
            return '';
        }
    }
}
