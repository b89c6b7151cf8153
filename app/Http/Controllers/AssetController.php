<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Support\Ask;
use App\Support\Brought;
use App\Support\FileAssets;
use App\Support\Problem;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Http\UploadedFile;
use YardBreak\Core\Art\Art;
use YardBreak\Core\Stage\Assets;

/** Uploads: meshes, flat art, pictures, fonts, cameras. */
final class AssetController
{
    public function store(Request $request, Assets $assets): JsonResponse
    {
        $file = $request->file('file');
        $kind = Ask::text($request, 'as', 'mesh');
        if (! $file instanceof UploadedFile || ! $file->isValid() || ! $assets instanceof FileAssets) {
            throw new Problem(422, 'No file arrived', match ($kind) {
                'art' => 'Choose an SVG (at most 8 MB) or a PNG (at most 64 MB) and try again.',
                'picture' => 'Choose a PNG or JPEG of at most 64 MB and try again.',
                'camera' => 'Choose a GLB of at most 256 MB that has a camera and try again.',
                'font' => 'Choose a TTF, OTF or WOFF of at most 8 MB and try again.',
                default => 'Choose a mesh file (OBJ, STL, PLY or GLB) of at most 256 MB and try again.',
            });
        }
        $name = Brought::name($file->getClientOriginalName());
        $facts = Brought::read($kind, $file->getPathname(), $name);
        $sha = (new Brought($assets))->keep($file->getPathname(), $name);

        return new JsonResponse(['asset' => $sha, 'name' => $name] + $facts, 201);
    }

    /** A picture that was uploaded, and nothing else: a drawing could hold more than it shows. */
    public function show(string $sha, Assets $assets): Response
    {
        $path = $assets->path($sha);
        $bytes = $path === null ? '' : (string) file_get_contents($path);
        if (! Art::isPicture($bytes)) {
            throw new Problem(404, 'No such picture', 'The picture is not in the store. Bring it in again.');
        }

        return new Response($bytes, 200, [
            'Content-Type' => str_starts_with($bytes, "\x89PNG") ? 'image/png' : 'image/jpeg',
            'Cache-Control' => 'private, max-age=31536000, immutable',
            'X-Content-Type-Options' => 'nosniff',
        ]);
    }
}
