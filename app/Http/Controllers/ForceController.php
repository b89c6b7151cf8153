<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Support\Ask;
use App\Support\Problem;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Document\Force;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Stage\ForcePicture;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\ShotForces;

/** What a force of the shot does where one looks. */
final class ForceController
{
    public function __construct(private readonly Pipeline $pipeline)
    {
    }

    /** All forces that act on a prop, in place of one; no force has such an id. */
    private const ALL = '_all';

    /** Which way and how hard it acts all over the shot. */
    public function field(Request $request, Shot $shot, string $force): JsonResponse
    {
        $document = ShotDocument::read($shot->head->document ?? []);
        $fields = array_column($this->fields($request, $document, $force), 1);

        return new JsonResponse(ForcePicture::of($document, $fields, $this->pipeline, self::frame($request, $document)));
    }

    /** The same at one place, and what each has of it. */
    public function probe(Request $request, Shot $shot, string $force): JsonResponse
    {
        $document = ShotDocument::read($shot->head->document ?? []);
        [$x, $y, $z] = array_map(static fn (string $axis): float => $request->float($axis), ['x', 'y', 'z']);
        $frame = self::frame($request, $document);
        $fields = $this->fields($request, $document, $force);
        $at = static fn (ForceField ...$of): array => ForcePicture::at($document, array_values($of), $frame, [$x, $y, $z]);

        return new JsonResponse([
            'way' => $at(...array_column($fields, 1)),
            'each' => array_map(static fn (array $one): array => ['name' => $one[0], 'way' => $at($one[1]), 'air' => $one[1]->movesAir()], $fields),
        ]);
    }

    private static function frame(Request $request, ShotDocument $document): float
    {
        return max(1.0, min((float) $document->frames, $request->float('frame', 1.0)));
    }

    /** @return list<array{string, ForceField}> names, and what they do */
    private function fields(Request $request, ShotDocument $document, string $id): array
    {
        $prop = $document->prop(Ask::text($request, 'prop'));
        $found = array_filter($document->forces, static fn (Force $force): bool => $id === self::ALL ? $prop === null || $force->actsOn($prop) : $force->id === $id);
        if ($found === [] && $id !== self::ALL) {
            throw new Problem(404, 'No such force', 'The force is not part of the shot any more, or it is switched off.');
        }

        return array_map(fn (Force $force): array => [$force->name, ShotForces::field($force, $document, $this->pipeline->surfaces)], array_values($found));
    }
}
