<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\RunBake;
use App\Models\Bake;
use App\Models\Shot;
use App\Support\Ask;
use App\Support\BasedOn;
use App\Support\Problem;
use App\Support\ShotBook;
use App\Support\ShotView;
use App\Support\StoreKeeper;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Document\Trials;
use YardBreak\Core\Stage\Pipeline;

/** One setting over several values, each baked beside the shot as it stands; that stays as it is. */
final class TrialController
{
    public function __construct(private readonly ShotView $view, private readonly ShotBook $book, private readonly Pipeline $pipeline)
    {
    }

    /** All of them, or none: a value that cannot be baked is said before anything is stored. */
    public function store(Request $request, Shot $shot): JsonResponse
    {
        $head = $shot->head ?? throw new Problem(409, 'Nothing to bake', 'The shot is empty.');
        $values = $request->json('values');
        if (! is_array($values) || ! array_is_list($values)) {
            throw new Problem(422, 'Which values?', 'Send a list of numbers as “values”.', ['errors' => [['pointer' => '/values', 'detail' => 'It must be a list of numbers.']]]);
        }
        $trials = [];
        $pointer = Ask::text($request, 'pointer');
        $asked = Trials::of(Schema::load()->complete($head->document), $pointer, $values);
        foreach ($asked as ['label' => $label, 'document' => $document]) {
            $trials[$this->baked($shot, $label, $document)] ??= [$label, $document];
        }
        if (count($asked) > 1 && count($trials) === 1) {
            throw new Problem(422, 'There is nothing to compare', 'None of these values changes what moves.', ['errors' => [['pointer' => '/values', 'detail' => 'They all come to the same.']]]);
        }
        /** @var list<Bake> $bakes */
        $bakes = DB::transaction(function () use ($shot, $trials, $pointer): array {
            $bakes = [];
            foreach ($trials as $hash => [$label, $document]) {
                /** @var Bake|null $bake the same frames, baked or being baked already */
                $bake = $shot->bakes()->where('motion_hash', $hash)->where('cancel', false)->whereIn('status', ['queued', 'running', 'done'])->latest('id')->first();
                $bakes[] = $bake ?? $shot->bakes()->create([
                    'revision_id' => $this->book->aside($shot, $document)->id, 'motion_hash' => $hash, 'status' => 'queued', 'aside' => true,
                    'frames' => $document['frames'] ?? 1, 'frames_done' => -(int) ($document['preRoll'] ?? 0),
                ]);
                Bake::withoutTimestamps(static fn () => end($bakes)->update(['trial' => $label, 'tries' => $pointer]));
            }

            return $bakes;
        });
        foreach ($bakes as $bake) {
            if ($bake->wasRecentlyCreated) {
                RunBake::handOut($bake);
            }
        }

        return new JsonResponse(['bakes' => array_map(fn (Bake $bake): array => $this->view->listed($bake->refresh()), $bakes)], 201);
    }

    /** Gives the shot, as it stands, the value that was tried; where nothing else was changed since, the trial is what is shown. */
    public function take(Request $request, Bake $bake): JsonResponse
    {
        if ($bake->tries === null) {
            throw new Problem(409, 'There is nothing to take', 'That bake tries nothing.');
        }
        $shot = Shot::findOrFail($bake->shot_id);
        $shot = $this->book->save($shot, Trials::taken($shot->head->document ?? [], $bake->revision->document, $bake->tries), BasedOn::of($request));
        if ($bake->status === 'done' && $this->pipeline->motionHash(ShotDocument::read($shot->head->document ?? [])) === $bake->motion_hash) {
            $bake->showFirst();
        }

        return new JsonResponse($this->view->full($shot));
    }

    /** Stops those under way, and takes out those that nobody has shown, gone back to or pinned. */
    public function destroy(Shot $shot): JsonResponse
    {
        $freed = 0;
        foreach ($shot->bakes()->where('aside', true)->where('pinned', false)->get() as $bake) {
            if ($bake->status === 'running') {
                $bake->update(['cancel' => true]);
            } else {
                $freed += StoreKeeper::ofTheYard()->dropBake($bake);
            }
        }

        return new JsonResponse(['freed' => $freed]);
    }

    /**
     * @param array<mixed> $document
     *
     * @return string under which its frames are known
     */
    private function baked(Shot $shot, string $label, array $document): string
    {
        try {
            $read = ShotDocument::read($this->book->checked($document, $shot));
        } catch (BadDocument $bad) {
            throw new Problem(422, "{$label} cannot be baked", $bad->errors[0]['detail'] ?? '', ['errors' => [['pointer' => '/values', 'detail' => $bad->errors[0]['detail'] ?? '']]]);
        }
        foreach (Checks::of($read, $this->pipeline) as $finding) {
            if ($finding->severity === 'stop') {
                throw new Problem(422, "{$label} cannot be baked", $finding->text, ['errors' => [['pointer' => '/values', 'detail' => $finding->text]]]);
            }
        }

        return $this->pipeline->motionHash($read);
    }
}
