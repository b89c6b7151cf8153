<?php

declare(strict_types=1);

namespace App\Http\Controllers;

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
use YardBreak\Core\Stage\Assets;

/** Shots as files, from one machine to another. */
final class PackageController
{
    public function show(Shot $shot, Assets $assets): BinaryFileResponse
    {
        // It goes once it is sent; if it is not, the store is tidied of parts.
        $path = config()->string('yard.store') . '/exports/' . bin2hex(random_bytes(6)) . '.part';
        ShotPackage::write($shot, $assets, $path);
        $name = trim((string) preg_replace('/[^A-Za-z0-9._-]+/', '-', $shot->name), '-.') ?: 'shot';

        return (new BinaryFileResponse($path, 200, ['Content-Type' => 'application/zip', 'Content-Disposition' => "attachment; filename=\"{$name}.zip\""]))->deleteFileAfterSend();
    }

    public function store(Request $request, Assets $assets, ShotBook $book, ShotView $view): JsonResponse
    {
        $file = $request->file('file');
        if (! $file instanceof UploadedFile || ! $file->isValid() || ! $assets instanceof FileAssets) {
            throw new Problem(422, 'No file arrived', 'Choose a package (a ZIP of at most 256 MB) and try again.');
        }
        $otherwise = pathinfo($file->getClientOriginalName(), PATHINFO_FILENAME);

        return new JsonResponse($view->full((new ShotPackage($assets))->open($file->getPathname(), $otherwise === '' ? 'Shot' : mb_scrub($otherwise), $book)), 201);
    }
}
