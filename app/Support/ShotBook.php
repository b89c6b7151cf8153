<?php

declare(strict_types=1);

namespace App\Support;

use App\Models\Revision;
use App\Models\Shot;
use Illuminate\Support\Facades\DB;
use YardBreak\Core\Document\Difference;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Stage\Consistency;
use YardBreak\Core\Stage\CueFrames;
use YardBreak\Core\Stage\Pipeline;

/** Shots and their revisions: every edit is a new revision, undo and redo move the head. */
final class ShotBook
{
    public function __construct(private readonly Pipeline $pipeline, private readonly SeenBake $seen)
    {
    }

    /** @param array<mixed> $document */
    public function create(string $name, array $document, string $summary): Shot
    {
        $complete = $this->checked($document);

        return DB::transaction(function () use ($name, $complete, $summary): Shot {
            $shot = Shot::create(['name' => $name, 'owner_id' => People::me()?->id]);
            $revision = $shot->revisions()->create(['number' => 1, 'document' => $complete, 'summary' => $summary]);
            $shot->update(['head_id' => $revision->id]);

            return $shot->refresh();
        });
    }

    /**
     * @param string $basedOn id of the revision that was edited
     *
     * @throws Problem 412 if the shot stands at another revision by now
     */
    public function save(Shot $shot, mixed $document, string $basedOn): Shot
    {
        $complete = $this->checked($document, $shot);

        return DB::transaction(function () use ($shot, $complete, $basedOn): Shot {
            $head = $this->headAt($shot, $basedOn);
            $changes = Difference::between($head->document, $complete);
            if ($changes === []) {
                return $shot->refresh();
            }
            $revision = $this->revise($shot, $head, $complete, $changes);
            $shot->update(['head_id' => $revision->id]);

            return $shot->refresh();
        });
    }

    /**
     * A state of the shot that it does not go to: nothing leads to it by undo or redo.
     *
     * @param array<mixed> $document
     */
    public function aside(Shot $shot, array $document): Revision
    {
        $complete = $this->checked($document, $shot);

        return $this->revise($shot, null, $complete, Difference::between($shot->head->document ?? [], $complete));
    }

    public function undo(Shot $shot, string $basedOn): Shot
    {
        return DB::transaction(function () use ($shot, $basedOn): Shot {
            $parent = $this->headAt($shot, $basedOn)->parent_id;
            if ($parent === null) {
                throw new Problem(409, 'Nothing to undo', 'This is the first revision.');
            }
            $shot->update(['head_id' => $parent]);

            return $shot->refresh();
        });
    }

    public function redo(Shot $shot, string $basedOn): Shot
    {
        return DB::transaction(function () use ($shot, $basedOn): Shot {
            $next = $this->redoTarget($this->headAt($shot, $basedOn));
            if ($next === null) {
                throw new Problem(409, 'Nothing to redo', 'Nothing has been undone since the last change.');
            }
            $shot->update(['head_id' => $next->id]);

            return $shot->refresh();
        });
    }

    /** The change made last from here. */
    public function redoTarget(Revision $head): ?Revision
    {
        return Revision::where('parent_id', $head->id)->orderByDesc('number')->first();
    }

    /**
     * @param array<mixed> $complete
     * @param list<array{pointer: string, text: string}> $changes
     */
    private function revise(Shot $shot, ?Revision $parent, array $complete, array $changes): Revision
    {
        $summary = ($changes[0]['text'] ?? 'The same') . (count($changes) > 1 ? ' and ' . (count($changes) - 1) . ' more' : '');
        $number = Revision::where('shot_id', $shot->id)->max('number');

        return $shot->revisions()->create([
            'parent_id' => $parent?->id,
            'number' => (is_numeric($number) ? (int) $number : 0) + 1,
            'document' => $complete,
            'summary' => mb_substr($summary, 0, 400),
        ]);
    }

    private function headAt(Shot $shot, string $basedOn): Revision
    {
        $head = Shot::findOrFail($shot->id)->head;
        if ($head === null || $head->id !== $basedOn) {
            throw new Problem(412, 'The shot has changed meanwhile', 'Someone (or another tab) has changed this shot since you loaded it. Your change was not stored, and nothing was lost: load the newest state and make it again.', [
                'current' => $head?->id,
            ]);
        }

        return $head;
    }

    /**
     * Complete and sound, with the cues that are found where they are.
     *
     * @param Shot|null $shot whose bakes are there to find cues in
     *
     * @return array<mixed>
     */
    public function checked(mixed $document, ?Shot $shot = null): array
    {
        $complete = Schema::load()->complete($document);
        $read = ShotDocument::read($complete);
        Consistency::check($read);

        $seen = $shot !== null && CueFrames::goByMotion($read) ? $this->seen->along($shot, $read) : null;

        return CueFrames::found($complete, $read, $seen ?? $this->pipeline->surfaces);
    }
}
