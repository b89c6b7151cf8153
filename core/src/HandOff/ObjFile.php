<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use Generator;
use YardBreak\Core\Format\ObjWriter;

/** OBJ: an object a piece, with normals and texture coordinates, a material a look. */
final class ObjFile implements MeshFile
{
    public static function extension(): string
    {
        return 'obj';
    }

    public static function type(): string
    {
        return 'model/obj';
    }

    public static function parts(iterable $objects): Generator
    {
        yield ObjWriter::HEAD;
        $writer = new ObjWriter();
        foreach ($objects as [$name, $mesh]) {
            yield $writer->object($name, $mesh);
        }
    }
}
