<?php

declare(strict_types=1);

namespace App\Support;

use App\Models\Asset;
use YardBreak\Core\Art\Art;
use YardBreak\Core\Art\Lettering;
use YardBreak\Core\Art\Picture;
use YardBreak\Core\Art\PngOutline;
use YardBreak\Core\Art\Slab;
use YardBreak\Core\Art\SvgReader;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\GlbScene;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Stage\FileMotion;

/** Files that are brought in: meshes, flat art, pictures, fonts, cameras. Each is read once in full before it is kept, so nothing unusable gets in. */
final readonly class Brought
{
    public function __construct(private FileAssets $assets)
    {
    }

    /**
     * @param string $as what it is to be: mesh, art, picture, font or camera
     * @param string $name by whose ending meshes are told apart
     *
     * @return array<string, mixed> what one is told of it
     *
     * @throws BadFile if it cannot be that
     */
    public static function read(string $as, string $path, string $name): array
    {
        return match ($as) {
            'art' => self::art((string) file_get_contents($path)),
            'picture' => self::picture((string) file_get_contents($path)),
            'font' => self::font($path),
            'camera' => self::camera($path, $name),
            default => self::mesh($path, $name),
        };
    }

    /** @return string what a file of such a name is most likely to be */
    public static function as(string $name): string
    {
        return match (strtolower(pathinfo($name, PATHINFO_EXTENSION))) {
            'obj', 'stl', 'ply', 'glb' => 'mesh',
            'ttf', 'otf', 'woff' => 'font',
            'svg' => 'art',
            default => 'picture',
        };
    }

    /** @return string by what it is known from now on: the SHA-256 of its content */
    public function keep(string $path, string $name): string
    {
        $sha = $this->assets->keep((string) file_get_contents($path));
        People::hasBrought($sha);
        Asset::firstOrCreate(['sha256' => $sha], ['name' => $name, 'bytes' => (int) filesize($path)]);

        return $sha;
    }

    /** Whatever bytes a name has, it is shown and stored as text; of a long one the end, which says what kind of file it is. */
    public static function name(string $given): string
    {
        return mb_substr((string) preg_replace('/[\x00-\x1f\x7f]/', '?', mb_scrub(basename($given))), -200);
    }

    /** @return array<string, mixed> */
    private static function mesh(string $path, string $name): array
    {
        $mesh = MeshReader::read($path, $name);

        return ['size' => $mesh->size(), 'triangles' => $mesh->triangleCount()];
    }

    /** @return array<string, mixed> */
    private static function camera(string $path, string $name): array
    {
        $cameras = (new FileMotion(GlbScene::open((string) file_get_contents($path))))->cameras();
        if ($cameras === []) {
            throw new BadFile("“{$name}” has no camera that sees in perspective. Export the scene with its camera.");
        }

        return ['cameras' => $cameras];
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
