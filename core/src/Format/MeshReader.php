<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Mesh\TriangleMesh;

/** Reads a mesh file of any supported format: by its name's ending and by what its first bytes really are. */
final class MeshReader
{
    public const ENDINGS = ['obj', 'stl', 'ply', 'glb'];

    /** @throws BadFile */
    public static function read(string $path, string $name): TriangleMesh
    {
        $size = @filesize($path);
        if ($size === false || ! is_readable($path)) {
            throw new BadFile("“{$name}” cannot be opened. Check the path and its permissions.");
        }
        if ($size === 0) {
            throw new BadFile("“{$name}” is empty.");
        }
        if ($size > Limits::BYTES) {
            throw new BadFile(sprintf('“%s” is %d MB; at most %d MB can be read.', $name, intdiv($size, 1048576), intdiv(Limits::BYTES, 1048576)));
        }
        $ending = strtolower(pathinfo($name, PATHINFO_EXTENSION));
        $data = (string) file_get_contents($path);
        // A byte order mark, as some programs put before text.
        $data = str_starts_with($data, "\xEF\xBB\xBF") ? substr($data, 3) : $data;
        self::refuseOtherKinds($data, $name);
        $mesh = match ($ending) {
            'obj' => ObjReader::read($data),
            'stl' => StlReader::read($data),
            'ply' => PlyReader::read($data),
            'glb' => GlbReader::read($data),
            default => throw new BadFile("“{$name}” is not a mesh file we can read. Use one of: " . strtoupper(implode(', ', self::ENDINGS)) . '.'),
        };
        if ($mesh->isEmpty()) {
            throw new BadFile("“{$name}” has no faces.");
        }

        return $mesh;
    }

    private static function refuseOtherKinds(string $data, string $name): void
    {
        $start = ltrim(substr($data, 0, 512));
        if (preg_match('/^(<!doctype|<html|<\?xml|<svg|<head|<body|<script)/i', $start) === 1) {
            throw new BadFile("“{$name}” is a web page or XML, not a mesh. Download the mesh file itself.");
        }
        foreach (["\x89PNG" => 'a PNG picture', "\xFF\xD8\xFF" => 'a JPEG picture', "PK\x03\x04" => 'a ZIP archive (unpack it first)', '%PDF' => 'a PDF'] as $magic => $kind) {
            if (str_starts_with($data, (string) $magic)) {
                throw new BadFile("“{$name}” is {$kind}, not a mesh.");
            }
        }
    }
}
