<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Format;

use ErrorException;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Art\Artwork;
use YardBreak\Core\Art\Slab;
use YardBreak\Core\Art\SvgReader;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\GlbReader;
use YardBreak\Core\Format\GlbWriter;
use YardBreak\Core\Format\ObjReader;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Format\PlyReader;
use YardBreak\Core\Format\StlReader;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;

/** Files damaged at random: read as something usable, or refused in words; never a warning, a fault of ours or nonsense numbers. */
final class DamageTest extends TestCase
{
    private const TRIES = 400;

    /** @return iterable<string, array{string, callable(string): (TriangleMesh|Artwork)}> */
    public static function files(): iterable
    {
        $mesh = Normals::computed(Solids::ball(1, 3));
        yield 'OBJ' => [ObjWriter::write([['ball', $mesh]]), ObjReader::read(...)];
        $text = "solid a\n";
        $binary = str_pad('made by a test', 80) . pack('V', $mesh->triangleCount());
        foreach (array_chunk($mesh->triangles, 3) as $corners) {
            $text .= "facet normal 0 0 1\nouter loop\n";
            $binary .= pack('g3', 0, 0, 1);
            foreach ($corners as $v) {
                $text .= "vertex {$mesh->x[$v]} {$mesh->y[$v]} {$mesh->z[$v]}\n";
                $binary .= pack('g3', $mesh->x[$v], $mesh->y[$v], $mesh->z[$v]);
            }
            $text .= "endloop\nendfacet\n";
            $binary .= "\0\0";
        }
        yield 'STL, text' => ["{$text}endsolid a\n", StlReader::read(...)];
        yield 'STL, binary' => [$binary, StlReader::read(...)];
        foreach (['ascii', 'binary_little_endian', 'binary_big_endian'] as $format) {
            $ply = "ply\nformat {$format} 1.0\nelement vertex {$mesh->vertexCount()}\nproperty float x\nproperty float y\nproperty double z\nelement face {$mesh->triangleCount()}\nproperty list uchar int vertex_indices\nend_header\n";
            [$f, $d, $i] = $format === 'binary_big_endian' ? ['G', 'E', 'N'] : ['g', 'e', 'V'];
            foreach ($mesh->x as $v => $x) {
                $ply .= $format === 'ascii' ? "{$x} {$mesh->y[$v]} {$mesh->z[$v]}\n" : pack("{$f}2{$d}", $x, $mesh->y[$v], $mesh->z[$v]);
            }
            foreach (array_chunk($mesh->triangles, 3) as [$a, $b, $c]) {
                $ply .= $format === 'ascii' ? "3 {$a} {$b} {$c}\n" : pack("C{$i}3", 3, $a, $b, $c);
            }
            yield "PLY, {$format}" => [$ply, PlyReader::read(...)];
        }
        yield 'GLB' => [GlbWriter::write([['a', [1.0, 1.0, 1.0], 0.5, null]], [
            ['name' => 'x', 'mesh' => $mesh, 'looks' => [0, 0, 0], 'centre' => [0.5, 0.0, 0.0], 'track' => [[1.0, 2.0, 3.0, 0.0, 0.0, 0.0, 1.0]]],
        ], 24.0, 'scene'), GlbReader::read(...)];
        yield 'SVG' => ['<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100"><g transform="translate(10 5) rotate(30)"><path d="M10 10h80v30a10 20 30 0 1-40 5q-5-5-20 0z" fill="#204060"/><circle cx="5" cy="7" r="3"/></g><rect x="1" y="2" width="30" height="20" rx="4" style="fill:rgb(10,20,30)"/><polygon points="0,0 9,0 9,9"/></svg>', SvgReader::read(...)];
    }

    /** Found by core/bench/fuzz.php: texture coordinates of another mesh, and a drawing whose outlines only touch. */
    public function testDamageThatWasAFaultOnceIsRefused(): void
    {
        $files = iterator_to_array(self::files());
        // One texture coordinate less than places.
        [$glb] = $files['GLB'];
        preg_match('/"TEXCOORD_0":(\d+)/', $glb, $uv);
        $accessors = explode('},{', substr($glb, (int) strpos($glb, '"accessors"')));
        $own = $accessors[(int) ($uv[1] ?? -1)] ?? self::fail('no texture coordinates');
        preg_match('/"count":(\d+)/', $own, $count);
        $less = strtr($own, [$count[0] ?? '' => '"count":' . str_pad((string) ((int) ($count[1] ?? 0) - 1), strlen($count[1] ?? ''), ' ')]);
        $damaged = ['GLB' => [str_replace($own, $less, $glb), 'not as many texture coordinates'], 'SVG' => [self::damaged($files['SVG'][0], RandomStream::named(4416, 'fuzz')), 'only touch in a point']];
        foreach ($damaged as $format => [$bytes, $why]) {
            try {
                $art = $files[$format][1]($bytes);
                self::assertInstanceOf(Artwork::class, $art);
                Slab::of($art, 1.0, 0.1, 0.01);
                self::fail("{$format} is taken");
            } catch (BadFile $error) {
                self::assertStringContainsString($why, $error->getMessage());
            }
        }
    }

    /** @param callable(string): (TriangleMesh|Artwork) $read */
    #[DataProvider('files')]
    #[Group('slow')]
    public function testDamageIsReadOrRefused(string $bytes, callable $read): void
    {
        set_error_handler(static fn (int $level, string $what): never => throw new ErrorException($what, 0, $level));
        $refused = 0;
        try {
            for ($try = 0; $try < self::TRIES; $try++) {
                $damaged = self::damaged($bytes, RandomStream::named($try, 'damage'));
                try {
                    self::assertUsable($read($damaged));
                } catch (BadFile $error) {
                    $refused++;
                    self::assertGreaterThan(15, strlen($error->getMessage()));
                    self::assertTrue(mb_check_encoding($error->getMessage(), 'UTF-8'), 'the message can be shown');
                }
            }
        } finally {
            restore_error_handler();
        }
        self::assertGreaterThan(self::TRIES / 20, $refused, 'damage is noticed');
    }

    private static function assertUsable(TriangleMesh|Artwork $read): void
    {
        if ($read instanceof Artwork) {
            foreach ($read->shapes as $shape) {
                foreach ($shape->outlines as $outline) {
                    foreach ($outline as [$x, $y]) {
                        self::assertTrue(is_finite($x) && is_finite($y));
                    }
                }
            }

            return;
        }
        foreach ([$read->x, $read->y, $read->z] as $values) {
            foreach ($values as $value) {
                self::assertTrue(is_finite($value));
            }
        }
        if ($read->triangles !== []) {
            self::assertGreaterThanOrEqual(0, min($read->triangles));
            self::assertLessThan($read->vertexCount(), max($read->triangles));
        }
        self::assertSame(0, count($read->triangles) % 3);
        self::assertContains(count($read->normals ?? $read->triangles), [count($read->triangles), 3 * count($read->triangles)]);
    }

    /** One to four of: bytes changed, a part left out, doubled, or put elsewhere, a number made large, the end cut off. */
    public static function damaged(string $bytes, RandomStream $stream): string
    {
        for ($n = 1 + (int) (4.0 * $stream->float()); $n > 0; $n--) {
            $length = strlen($bytes);
            $at = (int) ($length * $stream->float());
            $part = (int) (40.0 * $stream->float());
            $bytes = match ((int) (6.0 * $stream->float())) {
                0 => substr_replace($bytes, chr((int) (256.0 * $stream->float())), $at, 1),
                1 => substr_replace($bytes, '', $at, $part),
                2 => substr_replace($bytes, substr($bytes, $at, $part), $at, 0),
                3 => substr_replace($bytes, substr($bytes, (int) ($length * $stream->float()), $part), $at, $part),
                4 => preg_replace('/\d+/', ['-1', '99999999999999999999', '1e400', '4294967295', 'nan'][(int) (5.0 * $stream->float())], $bytes, 1 + (int) (3.0 * $stream->float())) ?? $bytes,
                default => substr($bytes, 0, $at),
            };
        }

        return $bytes;
    }
}
