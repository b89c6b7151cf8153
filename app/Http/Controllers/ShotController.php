<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Support\Ask;
use App\Support\AtomicFile;
use App\Support\BasedOn;
use App\Support\People;
use App\Support\Problem;
use App\Support\ShotBook;
use App\Support\ShotView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Stage\Pipeline;

final class ShotController
{
    public function __construct(private readonly ShotBook $book, private readonly ShotView $view)
    {
    }

    public function schema(): JsonResponse
    {
        return new JsonResponse(Schema::load()->json(), headers: ['Cache-Control' => 'no-cache']);
    }

    public function index(): JsonResponse
    {
        /** @var \Illuminate\Database\Eloquent\Collection<int, Shot> $shots */
        $shots = People::shots()->with(['head', 'owner', 'people'])->orderByDesc('updated_at')->get();

        return new JsonResponse(['shots' => $shots->map(fn (Shot $shot): array => $this->view->card($shot))->all()]);
    }

    public function store(Request $request): JsonResponse
    {
        $name = self::name($request);
        $shot = $this->book->create($name, ['version' => 2, 'props' => [[
            'id' => 'prop-1', 'name' => 'Box', 'position' => ['y' => 1.5], 'motion' => ['rigid' => ['before' => 'falls']],
        ]]], 'New shot');

        return new JsonResponse($this->view->full($shot), 201);
    }

    public function show(Shot $shot): JsonResponse
    {
        return $this->answer($shot);
    }

    public function rename(Request $request, Shot $shot): JsonResponse
    {
        $shot->update(['name' => self::name($request)]);

        return $this->answer($shot);
    }

    public function destroy(Shot $shot): Response
    {
        self::onlyTheOwner($shot);
        $shot->delete();

        return new Response('', 204);
    }

    public function restore(string $id): JsonResponse
    {
        $shot = Shot::onlyTrashed()->findOrFail($id);
        self::onlyTheOwner($shot);
        $shot->restore();

        return $this->answer($shot);
    }

    public function duplicate(Shot $shot): JsonResponse
    {
        $copy = $this->book->create(mb_substr("{$shot->name} copy", 0, 80), $shot->head->document ?? [], "Copy of {$shot->name}");
        $picture = $this->picturePath($shot);
        if (is_file($picture)) {
            AtomicFile::write($this->picturePath($copy), (string) file_get_contents($picture));
        }

        return new JsonResponse($this->view->full($copy), 201);
    }

    public function save(Request $request, Shot $shot): JsonResponse
    {
        return $this->answer($this->book->save($shot, $request->json('document'), BasedOn::of($request)));
    }

    public function undo(Request $request, Shot $shot): JsonResponse
    {
        return $this->answer($this->book->undo($shot, BasedOn::of($request)));
    }

    public function redo(Request $request, Shot $shot): JsonResponse
    {
        return $this->answer($this->book->redo($shot, BasedOn::of($request)));
    }

    public function checks(Shot $shot, Pipeline $pipeline): JsonResponse
    {
        $findings = Checks::of(ShotDocument::read($shot->head->document ?? []), $pipeline);

        return new JsonResponse(['findings' => array_map(get_object_vars(...), $findings)]);
    }

    /** Every keyed number of the document at each frame, by its JSON Pointer. */
    public function numbers(Shot $shot): JsonResponse
    {
        return new JsonResponse((object) ShotDocument::read($shot->head->document ?? [])->numbers());
    }

    /** Where each prop stands at each frame before it lets go, its turn and its size: ten numbers, once if they never change; then place and turn of its path there, if it has one. */
    public function tracks(Shot $shot): JsonResponse
    {
        $document = ShotDocument::read($shot->head->document ?? []);
        $tracks = [];
        foreach ($document->props as $prop) {
            for ($f = 1; $f <= ($prop->transform->isKeyed() ? $document->frames : 1); $f++) {
                $path = $prop->transform->path;
                $tracks[$prop->id][] = [...$prop->transform->positionAt($f), ...$prop->transform->rotationAt($f), ...$prop->transform->scaleAt($f), ...$path === null ? [] : [...$path->positionAt($f), ...$path->rotationAt($f)]];
            }
        }

        return new JsonResponse((object) $tracks);
    }

    /** Places along the path of each prop that has one, and its length, m. */
    public function paths(Shot $shot): JsonResponse
    {
        $paths = [];
        foreach (ShotDocument::read($shot->head->document ?? [])->props as $prop) {
            if ($prop->transform->path !== null) {
                $paths[$prop->id] = ['length' => $prop->transform->path->length(), 'places' => $prop->transform->path->drawn()];
            }
        }

        return new JsonResponse((object) $paths);
    }

    public function picture(Shot $shot): BinaryFileResponse
    {
        $path = $this->picturePath($shot);
        if (! is_file($path)) {
            throw new Problem(404, 'No picture yet', 'The shot gets its picture when it is opened.');
        }

        return new BinaryFileResponse($path, headers: ['Content-Type' => 'image/jpeg', 'Cache-Control' => 'no-cache']);
    }

    public function storePicture(Request $request, Shot $shot): Response
    {
        $bytes = (string) $request->getContent();
        $info = strlen($bytes) > 400_000 ? false : @getimagesizefromstring($bytes);
        if ($info === false || $info[2] !== IMAGETYPE_JPEG || $info[0] > 1024 || $info[1] > 1024) {
            throw new Problem(422, 'Not a usable picture', 'Send a JPEG of at most 1024 pixels a side and 400 kB.');
        }
        AtomicFile::write($this->picturePath($shot), $bytes);

        return new Response('', 204);
    }

    private static function onlyTheOwner(Shot $shot): void
    {
        if (! People::owns($shot)) {
            throw new Problem(403, 'Not your shot', 'Only its owner can delete a shot, or bring it back. You can make a copy of it.');
        }
    }

    private function picturePath(Shot $shot): string
    {
        return config()->string('yard.store') . "/pictures/{$shot->id}.jpg";
    }

    private function answer(Shot $shot): JsonResponse
    {
        return new JsonResponse($this->view->full($shot), headers: ['ETag' => "\"{$shot->head_id}\""]);
    }

    private static function name(Request $request): string
    {
        $name = trim(Ask::text($request, 'name'));
        if ($name === '' || mb_strlen($name) > 80) {
            throw new Problem(422, 'A shot needs a name', 'Give it a name of 1 to 80 characters.', ['errors' => [['pointer' => '/name', 'detail' => 'From 1 to 80 characters.']]]);
        }

        return $name;
    }
}
