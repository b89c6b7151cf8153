<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Source;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\Repair;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Kind\SourceKind;
use YardBreak\Core\Stage\SourceMesh;

/** A mesh brought in. */
final class MeshFile implements SourceKind
{
    private const UNITS = ['m' => 1.0, 'cm' => 0.01, 'mm' => 0.001, 'in' => 0.0254, 'ft' => 0.3048];

    public static function mesh(Settings $settings, Assets $assets): SourceMesh
    {
        $name = $settings->string('fileName');
        $asset = $settings->string('asset');
        if ($asset === '') {
            throw new BadFile('No file has been brought in yet. Upload a mesh, or choose a shape.');
        }
        $path = $assets->path($asset) ?? throw new BadFile("The file “{$name}” is missing from the store. Upload it again.");
        $mesh = MeshReader::read($path, $name === '' ? 'mesh.obj' : $name);
        $repairs = null;
        if ($settings->bool('repair')) {
            $repair = Repair::of($mesh);
            $mesh = $repair->mesh;
            $repairs = $repair->done;
        }
        $scale = self::UNITS[$settings->string('units')] ?? 1.0;
        $turn = $settings->string('up') === 'z' ? Quaternion::fromDegrees(-90.0, 0.0, 0.0) : Quaternion::IDENTITY;
        if ($scale !== 1.0 || $turn !== Quaternion::IDENTITY) {
            $mesh = $mesh->transformed($scale, $turn, [0.0, 0.0, 0.0]);
        }

        return new SourceMesh(self::about($mesh, $settings->string('origin')), $repairs);
    }

    /** With its origin where it is wanted. */
    private static function about(TriangleMesh $mesh, string $origin): TriangleMesh
    {
        if ($origin === 'file' || $mesh->isEmpty()) {
            return $mesh;
        }
        [$low, $high] = $mesh->bounds();
        $at = [0.5 * ($low[0] + $high[0]), $origin === 'base' ? $low[1] : 0.5 * ($low[1] + $high[1]), 0.5 * ($low[2] + $high[2])];

        return $mesh->transformed(1.0, Quaternion::IDENTITY, [-$at[0], -$at[1], -$at[2]]);
    }
}
