<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Support\Problem;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Document\Force;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Stage\ForcePicture;
use YardBreak\Core\Stage\Pipeline;

/** What a force of the shot does where one looks. */
final class ForceController
{
    public function __construct(private readonly Pipeline $pipeline)
    {
    }

    /** Which way and how hard it acts all over the shot. */
    public function field(Request $request, Shot $shot, string $force): JsonResponse
    {
        $document = ShotDocument::read($shot->head->document ?? []);

        return new JsonResponse(ForcePicture::of($document, self::find($document, $force), $this->pipeline, self::frame($request, $document)));
    }

    /** The same at one place. */
    public function probe(Request $request, Shot $shot, string $force): JsonResponse
    {
        $document = ShotDocument::read($shot->head->document ?? []);
        $place = array_map(static fn (string $axis): float => $request->float($axis), ['x', 'y', 'z']);

        return new JsonResponse(['way' => ForcePicture::at($document, self::find($document, $force), $this->pipeline, self::frame($request, $document), [$place[0], $place[1], $place[2]])]);
    }

    private static function frame(Request $request, ShotDocument $document): float
    {
        return max(1.0, min((float) $document->frames, $request->float('frame', 1.0)));
    }

    private static function find(ShotDocument $document, string $id): Force
    {
        foreach ($document->forces as $force) {
            if ($force->id === $id) {
                return $force;
            }
        }
        throw new Problem(404, 'No such force', 'The force is not part of the shot any more, or it is switched off.');
    }
}
