<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Bake;
use App\Models\Shot;
use App\Support\FileAssets;
use App\Support\Problem;
use App\Support\ShotBook;
use App\Support\ShotPackage;
use App\Support\ShotView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\UploadedFile;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Pipeline;

/** Shots as files, from one machine to another. */
final class PackageController
{
    public function show(Request $request, Shot $shot, Assets $assets, Pipeline $pipeline): BinaryFileResponse
    {
        $bake = $request->boolean('bake') ? self::bakeOf($shot, $pipeline) : null;
        // It goes once it is sent; if it is not, the store is tidied of parts.
        $path = config()->string('yard.store') . '/exports/' . bin2hex(random_bytes(6)) . '.part';
        ShotPackage::write($shot, $assets, $path, $bake);
        $name = trim((string) preg_replace('/[^A-Za-z0-9._-]+/', '-', $shot->name), '-.') ?: 'shot';

        return (new BinaryFileResponse($path, 200, ['Content-Type' => 'application/zip', 'Content-Disposition' => "attachment; filename=\"{$name}.zip\""]))->deleteFileAfterSend();
    }

    /** The bake of the shot as it stands. */
    private static function bakeOf(Shot $shot, Pipeline $pipeline): Bake
    {
        /** @var Bake|null $bake */
        $bake = $shot->head === null ? null : $shot->bakes()->where('status', 'done')->where('motion_hash', $pipeline->motionHash(ShotDocument::read($shot->head->document)))->latest('id')->first();

        return $bake !== null && is_file($bake->framesPath()) ? $bake : throw new Problem(409, 'There is no bake to pack', 'Bake the shot as it stands, or pack it without its bake.');
    }

    public function store(Request $request, Assets $assets, Pipeline $pipeline, ShotBook $book, ShotView $view): JsonResponse
    {
        $file = $request->file('file');
        if (! $file instanceof UploadedFile || ! $file->isValid() || ! $assets instanceof FileAssets) {
            throw new Problem(422, 'No file arrived', 'Choose a package (a ZIP of at most 256 MB) and try again.');
        }
        $otherwise = pathinfo($file->getClientOriginalName(), PATHINFO_FILENAME);

        return new JsonResponse($view->full((new ShotPackage($assets, $pipeline))->open($file->getPathname(), $otherwise === '' ? 'Shot' : mb_scrub($otherwise), $book)), 201);
    }
}
