<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\RunBake;
use App\Models\Asset;
use App\Models\Bake;
use App\Models\Shot;
use App\Support\Ask;
use App\Support\BasedOn;
use App\Support\FileAssets;
use App\Support\HandedOff;
use App\Support\Problem;
use App\Support\ShotBook;
use App\Support\ShotView;
use App\Support\StoreKeeper;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Symfony\Component\HttpFoundation\StreamedResponse;
use YardBreak\Core\Bake\BadBake;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\HandOff\Exporters;
use YardBreak\Core\HandOff\Frozen;
use YardBreak\Core\Stage\Pipeline;

final class BakeController
{
    public function __construct(private readonly ShotView $view, private readonly ShotBook $book, private readonly Pipeline $pipeline, private readonly HandedOff $handedOff)
    {
    }

    public function store(Shot $shot): JsonResponse
    {
        $head = $shot->head ?? throw new Problem(409, 'Nothing to bake', 'The shot is empty.');
        $document = ShotDocument::read($head->document);
        foreach (Checks::of($document, $this->pipeline) as $finding) {
            if ($finding->severity === 'stop') {
                throw new Problem(422, 'This cannot be baked yet', $finding->text, ['errors' => [['pointer' => $finding->pointer, 'detail' => $finding->text]]]);
            }
        }
        $hash = $this->pipeline->motionHash($document);
        // The same frames, baked or being baked already: no need to do it again.
        /** @var Bake|null $bake */
        $bake = $shot->bakes()->where('motion_hash', $hash)->where('cancel', false)->whereIn('status', ['queued', 'running', 'done'])->latest('id')->first();
        if ($bake === null) {
            $shot->bakes()->where('aside', false)->whereIn('status', ['queued', 'running'])->update(['cancel' => true]);
            $shot->bakes()->where('aside', false)->where('status', 'queued')->update(['status' => 'cancelled']);
            /** @var Bake $bake */
            $bake = $shot->bakes()->create([
                'revision_id' => $head->id, 'motion_hash' => $hash, 'status' => 'queued', 'frames' => $document->frames, 'frames_done' => -$document->preRoll,
            ]);
            RunBake::handOut($bake);
        } else {
            // Shown as the newest again.
            $bake->update(['aside' => false]);
            $bake->touch();
        }

        return new JsonResponse($this->view->bake($bake->refresh(), $head->document), 201);
    }

    /** All bakes of a shot that are there, the one shown last first. */
    public function index(Shot $shot): JsonResponse
    {
        return new JsonResponse(['bakes' => $this->view->bakes($shot)]);
    }

    /** Whether it is to be kept, whatever comes after it. */
    public function pin(Request $request, Bake $bake): JsonResponse
    {
        $pinned = $request->json('pinned');
        if (! is_bool($pinned)) {
            throw new Problem(422, 'Keep it or not?', '“pinned” must be true or false.', ['errors' => [['pointer' => '/pinned', 'detail' => 'It must be true or false.']]]);
        }
        // Not shown as a newer one for that.
        Bake::withoutTimestamps(static fn () => $bake->update(['pinned' => $pinned]));

        return new JsonResponse($this->view->listed($bake->refresh()));
    }

    /** Shows an older bake instead of the one that is shown. */
    public function bringUp(Bake $bake): JsonResponse
    {
        if ($bake->status !== 'done') {
            throw new Problem(409, 'There is nothing to show', 'Only a finished bake can be shown again.');
        }
        $bake->showFirst();

        return new JsonResponse($this->view->bake($bake->refresh(), Shot::findOrFail($bake->shot_id)->head->document ?? []));
    }

    /** What this was baked from has otherwise than what another bake of the shot was. */
    public function differences(Request $request, Bake $bake): JsonResponse
    {
        /** @var Bake|null $from */
        $from = Bake::where('shot_id', $bake->shot_id)->find(Ask::text($request, 'from'));
        if ($from === null) {
            throw new Problem(404, 'There is no such bake', 'Say in “from” which other bake of this shot to compare with.');
        }

        return new JsonResponse(['differences' => $this->view->between($from, $bake)]);
    }

    /** Makes the shot what it was when this was baked, as an edit that can be undone, and shows it. */
    public function goBack(Request $request, Bake $bake): JsonResponse
    {
        $shot = $this->book->save(Shot::findOrFail($bake->shot_id), $bake->revision->document, BasedOn::of($request));
        if ($bake->status === 'done') {
            $bake->showFirst();
        }

        return new JsonResponse($this->view->full($shot));
    }

    /** A prop as it is at a frame, as a mesh in the store of which a new prop can be made. */
    public function freeze(Request $request, Bake $bake, FileAssets $assets): JsonResponse
    {
        $shot = ShotDocument::read($this->handedOff->revision($bake)->document);
        $id = $request->json('prop');
        $frame = $request->json('frame');
        $prop = array_column($shot->props, null, 'id')[is_string($id) ? $id : ''] ?? null;
        if ($prop === null || ! is_int($frame)) {
            throw new Problem(422, 'Freeze what, and when?', 'Say a prop of the shot and a whole frame.', ['errors' => [['pointer' => $prop === null ? '/prop' : '/frame', 'detail' => $prop === null ? 'It must be the id of a prop in the shot.' : 'It must be a whole number.']]]);
        }
        $frozen = Frozen::of($this->pipeline, $prop, BakeReader::open($bake->framesPath()), $frame);
        $bytes = $frozen->file($prop->name);
        $name = (string) preg_replace('/[^\w .-]+/u', '-', $prop->name) . " at {$frame}.obj";
        $sha = $assets->keep($bytes);
        Asset::firstOrCreate(['sha256' => $sha], ['name' => $name, 'bytes' => strlen($bytes)]);
        [$x, $y, $z] = $frozen->middle;

        return new JsonResponse(['asset' => $sha, 'name' => $name, 'middle' => ['x' => $x, 'y' => $y, 'z' => $z], 'triangles' => $frozen->mesh->triangleCount()], 201);
    }

    public function destroy(Bake $bake): JsonResponse
    {
        if ($bake->isLive()) {
            throw new Problem(409, 'The bake is under way', 'Cancel it first.');
        }

        return new JsonResponse(['freed' => StoreKeeper::ofTheYard()->dropBake($bake)]);
    }

    public function show(Request $request, Bake $bake): JsonResponse
    {
        $shot = Shot::withTrashed()->findOrFail($bake->shot_id);
        $from = max(1, $request->integer('from', 1));
        $readout = [];
        if (is_file($bake->framesPath()) && $from <= $bake->frames_done) {
            try {
                $reader = BakeReader::open($bake->framesPath());
            } catch (BadBake) {
                // How far it got is known all the same; why its frames cannot be read is said where they are asked for.
                $reader = null;
            }
            for ($f = $from; $reader !== null && $f <= min($bake->frames_done, $reader->frames()); $f++) {
                $row = $reader->readout($f);
                if ($row !== null) {
                    $readout[] = [$f, ...array_values($row)];
                }
            }
        }

        return new JsonResponse($this->view->bake($bake, $shot->head->document ?? []) + ['readout' => $readout]);
    }

    public function cancel(Bake $bake): JsonResponse
    {
        Bake::where('id', $bake->id)->whereIn('status', ['queued', 'running'])->update(['cancel' => true]);
        Bake::where('id', $bake->id)->where('status', 'queued')->update(['status' => 'cancelled']);

        return $this->show(new Request(['from' => PHP_INT_MAX]), $bake->refresh());
    }

    /** Place and length of every record stored so far, from a frame on; layout in docs/frames.md. */
    public function places(Request $request, Bake $bake): Response
    {
        $bytes = '';
        // What plays in another time is not shown before all of it has happened.
        $reader = is_file($bake->framesPath()) || $bake->frames_done < 1 ? $this->reader($bake) : null;
        for ($f = max(1, $request->integer('from', 1)); $reader !== null && $f <= min($bake->frames_done, $reader->frames()); $f++) {
            [$end] = $reader->endOf($f);
            [$begin] = $reader->endOf($f - 1);
            $bytes .= pack('PV', $begin, $end - $begin);
        }

        return new Response($bytes, 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'no-store']);
    }

    /** The frames stored so far, whole records only; ranges as in RFC 9110. */
    public function frames(Request $request, Bake $bake): Response|StreamedResponse
    {
        $reader = $this->reader($bake);
        [$length] = $reader->endOf(min($bake->frames_done, $reader->frames()));
        $first = 0;
        $last = $length - 1;
        $headers = ['Content-Type' => 'application/octet-stream', 'Accept-Ranges' => 'bytes', 'Cache-Control' => 'no-store'];
        if (preg_match('/^bytes=(\d+)-(\d*)$/', (string) $request->headers->get('Range'), $m) === 1) {
            $first = (int) $m[1];
            $last = $m[2] === '' ? $last : min($last, (int) $m[2]);
            if ($first > $last) {
                return new Response('', 416, $headers + ['Content-Range' => "bytes */{$length}"]);
            }
            $headers['Content-Range'] = "bytes {$first}-{$last}/{$length}";
        }

        $path = $bake->framesPath();
        $headers['Content-Length'] = (string) ($last - $first + 1);

        return new StreamedResponse(static function () use ($path, $first, $last): void {
            $file = fopen($path, 'rb');
            $out = fopen('php://output', 'wb');
            if ($file !== false && $out !== false) {
                stream_copy_to_stream($file, $out, $last - $first + 1, $first);
            }
        }, isset($headers['Content-Range']) ? 206 : 200, $headers);
    }

    private function reader(Bake $bake): BakeReader
    {
        if ($bake->frames_done < 1 || ! is_file($bake->framesPath())) {
            throw new Problem(404, 'No frames yet', 'The bake has not stored its first frame.');
        }

        return BakeReader::open($bake->framesPath());
    }

    /** A finished bake in an open format, sent as it is written. */
    public function export(Request $request, Bake $bake, string $format): StreamedResponse
    {
        [$document, $name] = $this->finished($bake);
        $exporter = Exporters::of($format, $this->pipeline);
        $frame = $request->integer('frame', 1);
        if ($frame < 1 || $frame > $document->frames) {
            throw new Problem(422, 'No such frame', "Choose a frame from 1 to {$document->frames}.");
        }
        $reader = $this->reader($bake);
        // Pieces may have to be broken anew; what goes wrong then is still an answer, not half a file.
        foreach ($document->props as $prop) {
            $this->pipeline->broken($prop);
        }
        $format = $exporter->format();
        $file = HandedOff::fileName($document, $name, $format, $frame);

        return new StreamedResponse(static function () use ($exporter, $document, $reader, $name, $frame): void {
            $out = fopen('php://output', 'wb');
            if ($out !== false) {
                $exporter->write($document, $reader, $out, $name, ['frame' => $frame], static fn (int $done, int $of): null => null);
            }
        }, 200, ['Content-Type' => $format['type'], 'Content-Disposition' => "attachment; filename=\"{$file}\""]);
    }

    /** @return array{ShotDocument, string} */
    private function finished(Bake $bake): array
    {
        if ($bake->status !== 'done') {
            throw new Problem(409, 'The bake is not finished', 'Wait until all frames are baked, then export.');
        }

        return [ShotDocument::read($this->handedOff->revision($bake)->document), Shot::withTrashed()->findOrFail($bake->shot_id)->name];
    }
}
