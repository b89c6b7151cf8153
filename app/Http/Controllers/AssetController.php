<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Asset;
use App\Support\Ask;
use App\Support\FileAssets;
use App\Support\People;
use App\Support\Problem;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Http\UploadedFile;
use YardBreak\Core\Art\Art;
use YardBreak\Core\Art\Lettering;
use YardBreak\Core\Art\Picture;
use YardBreak\Core\Art\PngOutline;
use YardBreak\Core\Art\Slab;
use YardBreak\Core\Art\SvgReader;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Stage\Assets;

/** Uploads: meshes, flat art, pictures, fonts. A file is read once in full before it is kept, so nothing unusable gets in. */
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
                'font' => 'Choose a TTF, OTF or WOFF of at most 8 MB and try again.',
                default => 'Choose a mesh file (OBJ, STL, PLY or GLB) of at most 256 MB and try again.',
            });
        }
        // Whatever bytes it has, it is shown and stored as text; of a long one the end, which says what kind of file it is.
        $name = mb_substr((string) preg_replace('/[\x00-\x1f\x7f]/', '?', mb_scrub(basename($file->getClientOriginalName()))), -200);
        $facts = match ($kind) {
            'art' => self::art((string) file_get_contents($file->getPathname())),
            'picture' => self::picture((string) file_get_contents($file->getPathname())),
            'font' => self::font($file->getPathname()),
            default => self::mesh($file->getPathname(), $name),
        };
        $sha = $assets->keep((string) file_get_contents($file->getPathname()));
        People::hasBrought($sha);
        Asset::firstOrCreate(['sha256' => $sha], ['name' => $name, 'bytes' => (int) $file->getSize()]);

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

    /** @return array<string, mixed> */
    private static function mesh(string $path, string $name): array
    {
        $mesh = MeshReader::read($path, $name);

        return ['size' => $mesh->size(), 'triangles' => $mesh->triangleCount()];
    }

    /** @return array<string, mixed> */
    private static function art(string $bytes): array
    {
        $art = Art::isPicture($bytes) ? PngOutline::of(Picture::read($bytes)) : SvgReader::read($bytes);
        // As a slab once, so that what cannot become one is refused now.
        $mesh = Slab::of($art, 1.0, 0.1, 0.0);

        return ['size' => $mesh->size(), 'triangles' => $mesh->triangleCount()];
    }

    /** @return array<string, mixed> */
    private static function font(string $path): array
    {
        Lettering::check($path);

        return [];
    }

    /** @return array<string, mixed> */
    private static function picture(string $bytes): array
    {
        $picture = Picture::read($bytes);

        return ['width' => $picture->width, 'height' => $picture->height];
    }
}
