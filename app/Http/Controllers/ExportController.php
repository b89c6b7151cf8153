<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\WriteExport;
use App\Models\Bake;
use App\Models\Export;
use App\Models\Shot;
use App\Support\Ask;
use App\Support\HandedOff;
use App\Support\Problem;
use App\Support\WorkerId;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\HandOff\Exporters;
use YardBreak\Core\Stage\Pipeline;

/** Files of a bake: what is quick is sent at once, what takes more than a second is written in the queue. */
final class ExportController
{
    /** Written files are kept so long, s. */
    private const KEPT = 86_400;

    public function __construct(private readonly Pipeline $pipeline, private readonly HandedOff $handedOff)
    {
    }

    public function store(Request $request, Bake $bake): JsonResponse
    {
        if ($bake->status !== 'done') {
            throw new Problem(409, 'The bake is not finished', 'Wait until all frames are baked, then export.');
        }
        $format = Ask::text($request, 'format', 'glb');
        $frame = $request->integer('frame', 1);
        $exporter = Exporters::of($format, $this->pipeline);
        if ($frame < 1 || $frame > $bake->frames) {
            throw new Problem(422, 'No such frame', "Choose a frame from 1 to {$bake->frames}.");
        }
        if ($exporter->isQuick(BakeReader::open($bake->framesPath())->manifest)) {
            return new JsonResponse(['status' => 'done', 'href' => "/api/bakes/{$bake->id}/pieces.{$format}?frame={$frame}"]);
        }
        $this->forgetOld();
        $same = ['bake_id' => $bake->id, 'revision_id' => $this->handedOff->revision($bake)->id, 'format' => $format, 'frame' => $frame];
        /** @var Export|null $export */
        $export = Export::where($same)->whereIn('status', ['queued', 'running', 'done'])->latest('id')->first();
        if ($export === null || ($export->status === 'done' && ! is_file($export->path()))) {
            $export = Export::create([...$same, 'status' => 'queued']);
            WriteExport::dispatch($export->id);
        }

        return new JsonResponse($this->state($export->refresh()), 201);
    }

    public function show(Export $export): JsonResponse
    {
        if ($export->status === 'running' && $export->owner !== null && WorkerId::lives($export->owner) === false) {
            // Its worker died: another one writes it from the beginning.
            if (Export::where('id', $export->id)->where('owner', $export->owner)->update(['status' => 'queued', 'owner' => null, 'done' => 0]) === 1) {
                WriteExport::dispatch($export->id);
            }
        }

        return new JsonResponse($this->state($export->refresh()));
    }

    public function cancel(Export $export): JsonResponse
    {
        Export::where('id', $export->id)->whereIn('status', ['queued', 'running'])->update(['status' => 'cancelled']);

        return new JsonResponse($this->state($export->refresh()));
    }

    public function file(Export $export): BinaryFileResponse
    {
        if ($export->status !== 'done' || ! is_file($export->path())) {
            throw new Problem(404, 'No such file', 'It has not been written, or was removed after a day. Save it again in Hand-off.');
        }
        $format = Exporters::of($export->format, $this->pipeline)->format();
        $shot = ShotDocument::read(($export->revision ?? $export->bake->revision)->document);
        $file = HandedOff::fileName($shot, Shot::withTrashed()->findOrFail($export->bake->shot_id)->name, $format, $export->frame);

        return new BinaryFileResponse($export->path(), 200, ['Content-Type' => $format['type'], 'Content-Disposition' => "attachment; filename=\"{$file}\""]);
    }

    /** @return array<string, mixed> */
    private function state(Export $export): array
    {
        $elapsed = $export->started_at === null ? 0.0 : microtime(true) - $export->started_at;

        return [
            'id' => $export->id,
            'status' => $export->status,
            'done' => $export->done,
            'total' => $export->total,
            'error' => $export->error,
            'remaining' => $export->status === 'running' && $export->done > 0 ? $elapsed / $export->done * ($export->total - $export->done) : null,
            'href' => $export->status === 'done' ? "/api/exports/{$export->id}/file" : null,
        ];
    }

    private function forgetOld(): void
    {
        foreach (Export::where('updated_at', '<', now()->subSeconds(self::KEPT))->get() as $old) {
            @unlink($old->path());
            $old->delete();
        }
    }
}
