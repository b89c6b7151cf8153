<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Support\Ask;
use App\Support\BreakWatch;
use App\Support\Problem;
use App\Support\SeenBake;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use YardBreak\Core\Break\Line;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Break\StarterWeb;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Format\DisplayMesh;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\Outlines;
use YardBreak\Core\Stage\PatternBench;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\StageRunner;
use YardBreak\Core\Stage\StageStore;
use YardBreak\Core\Stage\WeightTrack;

/** What the picture and the readout need of one prop. Every answer depends on the stage's hash only and is cached by it. */
final class PropController
{
    public function __construct(private readonly Pipeline $pipeline, private readonly StageStore $store, private readonly SeenBake $seen)
    {
    }

    public function mesh(Request $request, Shot $shot, string $prop): Response
    {
        $wanted = $this->prop($shot, $prop, Ask::text($request, 'bake'));
        $whole = $request->query('stage') === 'prop';
        $key = $whole ? $this->pipeline->preparedHash($wanted) : $this->pipeline->brokenHash($wanted);
        $response = new Response('', 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'private, no-cache']);
        $response->setEtag(hash('sha256', $key));
        if ($response->isNotModified($request)) {
            return $response;
        }
        $name = hash('sha256', 'display ' . DisplayMesh::VERSION . " {$key}");
        $bytes = $this->store->get($name);
        if ($bytes === null) {
            $painted = $wanted->source->has('painted');
            if ($whole) {
                $mesh = $this->pipeline->prepared($wanted);
                $mass = MassProperties::of($mesh);
                $bytes = DisplayMesh::encode([$mesh], [$mass->centre], [$mass->volume], $painted);
            } else {
                $broken = $this->pipeline->broken($wanted, BreakWatch::of($shot));
                $bytes = DisplayMesh::encode(
                    $broken->pieces,
                    array_map(static fn (MassProperties $mass): array => $mass->centre, $broken->mass),
                    array_map(static fn (MassProperties $mass): float => $mass->volume, $broken->mass),
                    $painted,
                );
            }
            $this->store->put($name, $bytes);
            BreakWatch::done($shot);
        }

        return $response->setContent($bytes);
    }

    /** What the face of a slab of flat art shows. */
    public function face(Request $request, Shot $shot, string $prop): Response
    {
        $wanted = $this->prop($shot, $prop);
        $key = hash('sha256', 'face ' . ($wanted->source->settings->has('asset') ? $wanted->source->settings->string('asset') : ''));
        $response = new Response('', 200, ['Content-Type' => 'image/png', 'Cache-Control' => 'private, no-cache']);
        $response->setEtag($key);
        if ($response->isNotModified($request)) {
            return $response;
        }
        $png = $this->store->get($key);
        if ($png === null) {
            $png = $this->pipeline->facePicture($wanted) ?? throw new Problem(404, 'No picture', 'The prop shows no art on its face.');
            $this->store->put($key, $png);
        }

        return $response->setContent($png);
    }

    /** Lines to begin a drawing with. */
    public function starter(Request $request, Shot $shot, string $prop): JsonResponse
    {
        $wanted = $this->prop($shot, $prop);
        $settings = $wanted->pattern->settings;
        $lines = StarterWeb::lines(
            $this->pipeline->prepared($wanted),
            PatternBench::axis($settings->has('facing') ? $settings->string('facing') : 'z'),
            max(3, min(40, $request->integer('rays', 9))),
            max(0, min(20, $request->integer('rings', 3))),
            $wanted->break->at('finish')->int('seed'),
        );

        return new JsonResponse(['lines' => array_map(static fn (Line $line): array => ['points' => $line->points, 'closed' => $line->closed], $lines)]);
    }

    public function readout(Shot $shot, string $prop): JsonResponse
    {
        $wanted = $this->prop($shot, $prop);
        // As large as it is at first.
        $scale = $wanted->transform->scaleAt(1.0);
        ['health' => $health, 'repairs' => $repairs] = $this->pipeline->health($wanted, $scale);
        $broken = $wanted->isWhole() || (! $health['watertight'] && ! $wanted->isSkin()) ? null : $this->pipeline->broken($wanted, BreakWatch::of($shot));

        return new JsonResponse([
            'health' => $health + ['mass' => $health['volume'] * self::density($wanted), 'repairs' => $repairs],
            'pieces' => $broken === null ? null : self::pieces($broken, self::density($wanted), $scale),
        ]);
    }

    /** In kg/m3; what moves without a weight of its own has none. */
    private static function density(Prop $prop): float
    {
        return $prop->mover->settings->has('density') ? $prop->mover->settings->float('density') : 0.0;
    }

    /**
     * @param array{float, float, float} $scale
     *
     * @return array<string, mixed>
     */
    private static function pieces(BrokenProp $broken, float $density, array $scale): array
    {
        $more = $scale[0] * $scale[1] * $scale[2];
        $volumes = array_map(static fn (MassProperties $mass): float => $more * $mass->volume, $broken->mass);
        if ($volumes === []) {
            return ['count' => 0];
        }
        // The core under a skin is no measure for the flakes.
        $counted = $broken->hasCore && count($volumes) > 1 ? array_slice($volumes, 1, null, true) : $volumes;
        $smallest = (int) array_search(min($counted), $counted, true);
        $largest = (int) array_search(max($counted), $counted, true);

        return [
            'count' => count($volumes),
            'volumes' => $volumes,
            'smallest' => ['index' => $smallest, 'volume' => $volumes[$smallest], 'mass' => $volumes[$smallest] * $density],
            'largest' => ['index' => $largest, 'volume' => $volumes[$largest], 'mass' => $volumes[$largest] * $density],
            'mean' => array_sum($counted) / count($counted),
            'middles' => array_map(static fn (MassProperties $mass): array => $mass->centre, $broken->mass),
            // As it is broken; what stands in the shot is so many times as large.
            'sizes' => $broken->sizes,
            'scale' => $scale,
            'touching' => $broken->touching,
            'joined' => $broken->joined,
            'discarded' => $more * $broken->discarded,
            'notes' => $broken->notes,
            'core' => $broken->hasCore,
        ];
    }

    public function progress(Shot $shot): JsonResponse
    {
        return new JsonResponse(['break' => BreakWatch::state($shot)]);
    }

    public function stop(Shot $shot): Response
    {
        BreakWatch::stop($shot);

        return new Response('', 204);
    }

    /**
     * Weight of every vertex of its pieces, one byte each (0 to 255): at a frame ("frame=12"), or at the frames of a block
     * ("block=0": 1 to 16), one after the other, which are kept. "of=hold": how far it is held while it has not let go, "of=…": a further weight;
     * "layer=1": the second source alone.
     */
    public function weights(Request $request, Shot $shot, string $prop): Response
    {
        $wanted = $this->prop($shot, $prop);
        [$of, $layer] = self::which($request, $wanted);
        $seen = $this->seen->for($shot, ShotDocument::read($shot->head->document ?? []), $wanted);
        $response = new Response('', 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'private, no-cache']);
        if ($request->query('block') === null) {
            $frame = max(-100000, min(100000, $request->integer('frame', 1)));

            return $response->setContent($this->pipeline->weightTrack($wanted, $of, $layer, $frame, 1, $seen)->run(new Progress())->bytes);
        }
        $block = max(0, min(10000, $request->integer('block')));
        $track = $this->pipeline->weightTrack($wanted, $of, $layer, WeightTrack::BLOCK * $block + 1, WeightTrack::BLOCK, $seen);
        $response->setEtag(StageRunner::hash($track));

        return $response->isNotModified($request) ? $response : $response->setContent($this->pipeline->runner->result($track, BreakWatch::aside($shot))->bytes);
    }

    /**
     * The same at one frame with a document that is not stored, for as long as something is dragged; nothing where the pieces would
     * be others.
     */
    public function draft(Request $request, Shot $shot, string $prop): Response
    {
        $document = ShotDocument::read($request->input('document'));
        $wanted = $document->prop($prop) ?? throw new Problem(404, 'No such prop', 'The prop is not part of the document.');
        [$of, $layer] = self::which($request, $wanted);
        $frame = max(1, min(100000, $request->integer('frame', 1)));
        $track = $this->pipeline->weightTrack($wanted, $of, $layer, $frame, 1, $this->seen->for($shot, $document, $wanted));
        if (! $track->isAtHand() && $this->pipeline->brokenHash($wanted) !== $this->pipeline->brokenHash($this->prop($shot, $prop))) {
            return new Response('', 204);
        }

        return new Response($track->glimpse(), 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'no-store']);
    }

    /** @return array{string, int|null} which weight, and which of its sources alone */
    private static function which(Request $request, Prop $prop): array
    {
        $of = Ask::text($request, 'of', 'release');
        if (! in_array($of, ['release', 'hold'], true) && ! isset($prop->weights[$of])) {
            throw new Problem(404, 'No such weight', "{$prop->name} has no such weight any more.");
        }

        return [$of, $request->query('layer') === null ? null : max(0, $request->integer('layer'))];
    }

    /** Where the sources of one of its weights are at each frame, as they can be drawn. */
    public function outlines(Request $request, Shot $shot, string $prop): JsonResponse
    {
        $wanted = $this->prop($shot, $prop);
        $of = Ask::text($request, 'of', 'release');
        $mix = $of === 'hold' ? $wanted->held() : ($wanted->weights[$of] ?? $wanted->weight);

        return new JsonResponse($mix->isEmpty() ? [] : Outlines::of($mix, $wanted, PropShape::of($this->pipeline->prepared($wanted), $this->pipeline->surfaces)));
    }

    /** How many of its pieces let go at each frame, as far as that is known before a bake. */
    public function releases(Shot $shot, string $prop): JsonResponse
    {
        $document = ShotDocument::read($shot->head->document ?? []);
        $wanted = $this->prop($shot, $prop);

        return new JsonResponse(['counts' => $this->pipeline->runner->result($this->pipeline->releases($wanted, $document->frames, $this->seen->for($shot, $document, $wanted)), BreakWatch::aside($shot))]);
    }

    /** @param string $bake the bake whose revision is meant; empty: the shot as it stands */
    private function prop(Shot $shot, string $id, string $bake = ''): Prop
    {
        $document = $bake === '' ? ($shot->head->document ?? []) : $shot->bakes()->findOrFail($bake)->revision->document;

        return ShotDocument::read($document)->prop($id)
            ?? throw new Problem(404, 'No such prop', 'The prop is not part of the shot any more.');
    }
}
