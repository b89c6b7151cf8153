<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Asset;
use App\Support\FileAssets;
use App\Support\Problem;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\UploadedFile;
use YardBreak\Core\Bake\Assets;
use YardBreak\Core\Format\MeshReader;

/** Uploads. A file is read once in full before it is kept, so nothing unusable gets in. */
final class AssetController
{
    public function store(Request $request, Assets $assets): JsonResponse
    {
        $file = $request->file('file');
        if (! $file instanceof UploadedFile || ! $file->isValid() || ! $assets instanceof FileAssets) {
            throw new Problem(422, 'No file arrived', 'Choose a mesh file (OBJ, STL, PLY or GLB) of at most 256 MB and try again.');
        }
        $name = mb_substr(basename($file->getClientOriginalName()), 0, 200);
        $mesh = MeshReader::read($file->getPathname(), $name);
        $sha = $assets->keep((string) file_get_contents($file->getPathname()));
        Asset::firstOrCreate(['sha256' => $sha], ['name' => $name, 'bytes' => (int) $file->getSize()]);

        return new JsonResponse(['asset' => $sha, 'name' => $name, 'size' => $mesh->size(), 'triangles' => $mesh->triangleCount()], 201);
    }
}
