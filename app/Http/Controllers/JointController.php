<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Support\Problem;
use Illuminate\Http\JsonResponse;
use YardBreak\Core\Document\Joint;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Stage\Fastenings;
use YardBreak\Core\Stage\Pipeline;

/** What a joint of the shot holds. */
final class JointController
{
    public function __construct(private readonly Pipeline $pipeline)
    {
    }

    /** Where a fastening holds at the first frame, as far as a picture shows it, and at how many places in all. */
    public function places(Shot $shot, string $joint): JsonResponse
    {
        $document = ShotDocument::read($shot->head->document ?? []);
        $found = array_values(array_filter($document->joints, static fn (Joint $one): bool => $one->id === $joint));
        if ($found === []) {
            throw new Problem(404, 'No such joint', 'The joint is not part of the shot any more, or it is switched off.');
        }

        return new JsonResponse((new Fastenings($document, $this->pipeline->surfaces))->seen($found[0]));
    }
}
