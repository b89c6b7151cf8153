<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Wavefront's published OBJ text format: v, vt, vn and f (triangles, quads and convex polygons, negative numbers count from
 * the end). Groups, smoothing and materials are passed over, but for files that say that their materials are looks; nothing outside the file is opened.
 */
final class ObjReader
{
    /** @throws BadFile */
    public static function read(string $data): TriangleMesh
    {
        $x = $y = $z = $u = $v = $nx = $ny = $nz = [];
        $triangles = $uvs = $normals = $looks = [];
        $look = str_starts_with($data, ObjWriter::FROZEN) ? TriangleMesh::LOOK_OUTER : null;
        $hasUvs = $hasNormals = true;
        $line = 0;
        $offset = 0;
        $length = strlen($data);
        while ($offset < $length) {
            $end = strpos($data, "\n", $offset);
            $end = $end === false ? $length : $end;
            $text = trim(substr($data, $offset, $end - $offset));
            $offset = $end + 1;
            $line++;
            while (str_ends_with($text, '\\') && $offset < $length) {
                $end = strpos($data, "\n", $offset);
                $end = $end === false ? $length : $end;
                $text = substr($text, 0, -1) . ' ' . trim(substr($data, $offset, $end - $offset));
                $offset = $end + 1;
                $line++;
            }
            if ($text === '' || $text[0] === '#') {
                continue;
            }
            $words = preg_split('/\s+/', $text) ?: [];
            switch ($words[0]) {
                case 'v':
                    $x[] = self::number($words[1] ?? '', $line);
                    $y[] = self::number($words[2] ?? '', $line);
                    $z[] = self::number($words[3] ?? '', $line);
                    Limits::vertices(count($x));
                    break;
                case 'vt':
                    $u[] = self::number($words[1] ?? '', $line);
                    $v[] = self::number($words[2] ?? '0', $line);
                    break;
                case 'vn':
                    $nx[] = self::number($words[1] ?? '', $line);
                    $ny[] = self::number($words[2] ?? '', $line);
                    $nz[] = self::number($words[3] ?? '', $line);
                    break;
                case 'f':
                    $corners = [];
                    foreach (array_slice($words, 1) as $word) {
                        $corners[] = self::corner($word, $line, count($x), count($u), count($nx));
                    }
                    if (count($corners) < 3) {
                        throw BadFile::atLine($line, 'a face needs at least three corners.');
                    }
                    for ($k = 2, $n = count($corners); $k < $n; $k++) {
                        if ($look !== null) {
                            $looks[] = $look;
                        }
                        foreach ([$corners[0], $corners[$k - 1], $corners[$k]] as [$p, $t, $m]) {
                            $triangles[] = $p;
                            if ($t >= 0 && $hasUvs) {
                                array_push($uvs, $u[$t], $v[$t]);
                            } else {
                                $hasUvs = false;
                            }
                            if ($m >= 0 && $hasNormals) {
                                array_push($normals, $nx[$m], $ny[$m], $nz[$m]);
                            } else {
                                $hasNormals = false;
                            }
                        }
                    }
                    Limits::triangles(intdiv(count($triangles), 3));
                    break;
                case 'usemtl':
                    $look = $look === null ? null : ObjWriter::look($words[1] ?? '') ?? $look;
                    break;
                case 'vp': case 'g': case 'o': case 's': case 'mtllib': case 'l': case 'p': case 'usemap': case 'lod':
                    break;
                default:
                    if (preg_match('/^[a-z_]+$/i', $words[0]) !== 1 || $x === []) {
                        throw BadFile::atLine($line, 'this is not OBJ text: “' . substr(preg_replace('/[^\x20-\x7e]/', '?', $text) ?? '', 0, 40) . '”.');
                    }
            }
        }

        return new TriangleMesh($x, $y, $z, $triangles, $hasNormals && $normals !== [] ? $normals : null, $hasUvs && $uvs !== [] ? $uvs : null, $looks === [] ? null : $looks);
    }

    private static function number(string $word, int $line): float
    {
        if (! is_numeric($word) || ! Limits::isCoordinate((float) $word)) {
            throw BadFile::atLine($line, '“' . substr($word, 0, 20) . '” is not a usable coordinate. Export the mesh again.');
        }

        return (float) $word;
    }

    /** @return array{int, int, int} vertex, texture coordinate, normal; -1 where absent */
    private static function corner(string $word, int $line, int $vertices, int $uvs, int $normals): array
    {
        $parts = explode('/', $word);
        $numbers = [];
        foreach ([$vertices, $uvs, $normals] as $k => $count) {
            $part = $parts[$k] ?? '';
            if ($part === '') {
                $numbers[] = -1;
                continue;
            }
            $number = filter_var($part, FILTER_VALIDATE_INT);
            $index = $number === false ? -1 : ($number > 0 ? $number - 1 : $count + $number);
            if ($number === false || $number === 0 || $index < 0 || $index >= $count) {
                throw BadFile::atLine($line, "the face refers to “{$part}”, but there are only {$count} of these so far.");
            }
            $numbers[] = $index;
        }
        if ($numbers[0] < 0) {
            throw BadFile::atLine($line, 'a face corner has no vertex.');
        }

        return [$numbers[0], $numbers[1], $numbers[2]];
    }
}
