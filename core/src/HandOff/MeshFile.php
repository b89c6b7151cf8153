<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Mesh\TriangleMesh;

/** A format that holds meshes as they stand at one moment, in metres, y up. */
interface MeshFile
{
    public static function extension(): string;

    public static function type(): string;

    /**
     * @param iterable<array{string, TriangleMesh}> $objects names and meshes, in the world
     *
     * @return iterable<string> the file, part by part
     */
    public static function parts(iterable $objects): iterable;
}
