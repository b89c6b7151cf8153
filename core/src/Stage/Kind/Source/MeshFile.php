<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Source;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\GlbReader;
use YardBreak\Core\Format\GlbScene;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Format\Units;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\Repair;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\FileMotion;
use YardBreak\Core\Stage\Kind\HasMotion;
use YardBreak\Core\Stage\Kind\SourceKind;
use YardBreak\Core\Stage\MovingMesh;
use YardBreak\Core\Stage\SourceMesh;

/** A mesh brought in. */
final class MeshFile implements SourceKind, HasMotion
{
    public static function mesh(Settings $settings, Assets $assets): SourceMesh
    {
        $mesh = MeshReader::read(...self::file($settings, $assets));
        $repairs = null;
        if ($settings->bool('repair')) {
            $repair = Repair::of($mesh);
            $mesh = $repair->mesh;
            $repairs = $repair->done;
        }
        $mesh = self::upright($mesh, $settings);
        $at = self::origin($mesh, $settings);

        return new SourceMesh($at === [0.0, 0.0, 0.0] ? $mesh : $mesh->transformed(1.0, Quaternion::IDENTITY, [-$at[0], -$at[1], -$at[2]]), $repairs);
    }

    public static function clips(Settings $settings, Assets $assets): array
    {
        return self::glb($settings, $assets)?->nodes->clips() ?? [];
    }

    public static function lasts(Settings $settings, Assets $assets, string $clip): float
    {
        $scene = self::glb($settings, $assets, $clip);

        return $scene?->moves() === true ? $scene->nodes->ends() - $scene->nodes->begins() : 0.0;
    }

    public static function moving(Settings $settings, Assets $assets, string $clip, float $size): MovingMesh
    {
        [$scene, $turn, $unit, $origin] = self::scene($settings, $assets, $clip, $size);

        return new MovingMesh($scene, $turn, $unit, $origin);
    }

    public static function motion(Settings $settings, Assets $assets, string $clip, float $size, float $fps): array
    {
        [$scene, $turn, $unit, $origin] = self::scene($settings, $assets, $clip, $size);

        return (new FileMotion($scene))->thing($fps, $turn, $unit, $origin);
    }

    /**
     * @return GlbScene|null null: it is no GLB, or no file has been brought in
     *
     * @throws BadFile
     */
    private static function glb(Settings $settings, Assets $assets, string $clip = ''): ?GlbScene
    {
        if ($settings->string('asset') === '') {
            return null;
        }
        [$path, $name] = self::file($settings, $assets);

        return self::isGlb($name) ? GlbScene::open((string) file_get_contents($path), $clip) : null;
    }

    /**
     * @return array{GlbScene, array{float, float, float, float}, float, array{float, float, float}} what is in the file, its way into the prop's axes, its unit in m, and the prop's origin in m
     *
     * @throws BadFile
     */
    private static function scene(Settings $settings, Assets $assets, string $clip, float $size): array
    {
        $scene = self::glb($settings, $assets, $clip);
        if ($scene === null) {
            throw new BadFile("Nothing moves in “{$settings->string('fileName')}”: of the files that can be brought in, only a GLB has motion.");
        }
        $mesh = self::upright(GlbReader::mesh($scene), $settings);
        $times = $size > 0.0 ? $size / max(1e-12, $mesh->size()) : 1.0;
        [$x, $y, $z] = self::origin($mesh, $settings);

        return [$scene, self::turn($settings), $times * self::unit($settings), [$times * $x, $times * $y, $times * $z]];
    }

    /**
     * @return array{string, string} path and name
     *
     * @throws BadFile
     */
    private static function file(Settings $settings, Assets $assets): array
    {
        $name = $settings->string('fileName');
        $asset = $settings->string('asset');
        if ($asset === '') {
            throw new BadFile('No file has been brought in yet. Upload a mesh, or choose a shape.');
        }

        return [$assets->path($asset) ?? throw new BadFile("The file “{$name}” is missing from the store. Upload it again."), $name === '' ? 'mesh.obj' : $name];
    }

    private static function isGlb(string $name): bool
    {
        return strtolower(pathinfo($name, PATHINFO_EXTENSION)) === 'glb';
    }

    private static function unit(Settings $settings): float
    {
        return Units::metres($settings->string('units'));
    }

    /** @return array{float, float, float, float} from the file's axes to ours */
    private static function turn(Settings $settings): array
    {
        return $settings->string('up') === 'z' ? Quaternion::fromDegrees(-90.0, 0.0, 0.0) : Quaternion::IDENTITY;
    }

    /** In metres, y up. */
    private static function upright(TriangleMesh $mesh, Settings $settings): TriangleMesh
    {
        [$unit, $turn] = [self::unit($settings), self::turn($settings)];

        return $unit === 1.0 && $turn === Quaternion::IDENTITY ? $mesh : $mesh->transformed($unit, $turn, [0.0, 0.0, 0.0]);
    }

    /** @return array{float, float, float} where its origin is wanted, m */
    private static function origin(TriangleMesh $mesh, Settings $settings): array
    {
        $origin = $settings->string('origin');
        if ($origin === 'file' || $mesh->isEmpty()) {
            return [0.0, 0.0, 0.0];
        }
        [$low, $high] = $mesh->bounds();

        return [0.5 * ($low[0] + $high[0]), $origin === 'base' ? $low[1] : 0.5 * ($low[1] + $high[1]), 0.5 * ($low[2] + $high[2])];
    }
}
