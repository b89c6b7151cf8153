<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Art\Art;
use YardBreak\Core\Art\Slab;
use YardBreak\Core\Art\SvgReader;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\Piece;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\GlbReader;
use YardBreak\Core\Format\GlbWriter;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Format\ObjReader;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Format\PlyReader;
use YardBreak\Core\Format\StlReader;
use YardBreak\Core\HandOff\AnimatedGlb;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Tests\Fixture\Node;
use YardBreak\Core\Tests\Fixture\WrittenPieces;

final class FormatTest extends TestCase
{
    /** @return iterable<string, array{TriangleMesh}> */
    public static function readBack(): iterable
    {
        $mesh = Solids::torus(1.0, 0.3, 12, 8);
        yield 'OBJ' => [ObjReader::read(ObjWriter::write([['ring', Normals::computed($mesh)]]))];
        yield 'STL, binary' => [StlReader::read(self::binaryStl($mesh))];
        yield 'STL, text' => [StlReader::read(self::textStl($mesh))];
        yield 'PLY, text' => [PlyReader::read(self::ply($mesh, 'ascii'))];
        yield 'PLY, little-endian' => [PlyReader::read(self::ply($mesh, 'binary_little_endian'))];
        yield 'PLY, big-endian' => [PlyReader::read(self::ply($mesh, 'binary_big_endian'))];
        yield 'GLB' => [GlbReader::read(self::glb($mesh))];
    }

    #[DataProvider('readBack')]
    public function testAMeshSurvivesTheFormat(TriangleMesh $read): void
    {
        $mesh = Solids::torus(1.0, 0.3, 12, 8);
        self::assertSame($mesh->vertexCount(), $read->vertexCount(), 'corners at one place are one vertex');
        self::assertSame($mesh->triangleCount(), $read->triangleCount());
        self::assertTrue(Topology::of($read)->isWatertight());
        // Single precision: seven digits.
        self::assertEqualsWithDelta(MassProperties::of($mesh)->volume, MassProperties::of($read)->volume, 1e-6);
        self::assertEqualsWithDelta($mesh->bounds(), $read->bounds(), 1e-6);
    }

    public function testObjKeepsNormalsAndTextureCoordinates(): void
    {
        $mesh = Normals::computed(Solids::ball(1, 6));
        $read = ObjReader::read(ObjWriter::write([['ball', $mesh]]));
        self::assertEqualsWithDelta($mesh->normals, $read->normals, 1e-5);
        self::assertEqualsWithDelta($mesh->uvs, $read->uvs, 1e-5);
    }

    public function testObjTakesQuadsNegativeNumbersAndContinuedLines(): void
    {
        $read = ObjReader::read("# a square\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 \\\n0\nf -4 -3 -2 -1\n");
        self::assertSame([0, 1, 2, 0, 2, 3], $read->triangles);
    }

    public function testGlbNodesAreReadInPlace(): void
    {
        $box = Normals::computed(Solids::box(1, 1, 1));
        $bytes = GlbWriter::write([['a', [1.0, 0.0, 0.0], 0.5, null], ['b', [0.0, 1.0, 0.0], 0.5, null]], [
            ['name' => 'one', 'mesh' => $box, 'looks' => [0, 1, 0], 'centre' => [0.0, 0.0, 0.0], 'track' => [[5.0, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0]]],
            ['name' => 'two', 'mesh' => $box, 'looks' => [0, 1, 0], 'centre' => [0.0, 0.0, 0.0], 'track' => [[0.0, 2.0, 0.0, 0.0, 0.0, sqrt(0.5), sqrt(0.5)]]],
        ], 24.0, 'scene');
        $read = GlbReader::read($bytes);
        self::assertEqualsWithDelta([[-0.5, -0.5, -0.5], [5.5, 2.5, 0.5]], $read->bounds(), 1e-6);
        self::assertEqualsWithDelta(2.0, MassProperties::of($read)->volume, 1e-6);
    }

    /** A million metres off: OBJ gives back each volume to 1e-9, GLB as well as singles of the size can, and neighbours still meet. */
    #[Group('slow')]
    public function testWhatLiesFarAwayKeepsItsShape(): void
    {
        $ball = Normals::computed(Solids::ball(0.5, 8));
        foreach ([[0.0, 0.0, 0.0], [1e6, -2e6, 5e5]] as $move) {
            $mesh = $ball->transformed(1.0, [0.0, 0.0, 0.0, 1.0], $move);
            $broken = BrokenProp::of('far', (new Breaker())->break($mesh, new CellularPattern(12, 1, 0.3)), $mesh->bounds());
            $pieces = iterator_to_array($broken->pieces);
            $glb = GlbReader::read(AnimatedGlb::atRest($broken, 'far'));
            $written = new WrittenPieces(ObjWriter::write(array_map(static fn (TriangleMesh $piece, int $k): array => ["p{$k}", new TriangleMesh($piece->x, $piece->y, $piece->z, $piece->triangles)], $pieces, array_keys($pieces))));
            self::assertEqualsWithDelta($glb->bounds(), $mesh->bounds(), 1e-6);
            self::assertEqualsWithDelta(MassProperties::of($mesh)->volume, MassProperties::of($glb)->volume, 1e-6);
            foreach ($pieces as $k => $piece) {
                self::assertEqualsWithDelta($broken->mass[$k]->volume, $written->volumes["p{$k}"], 1e-9 * $broken->mass[$k]->volume);
            }
            // The first vertex of the first piece is a vertex of the ball: in the file it lies within a single's step of the size.
            $nearest = INF;
            foreach ($glb->x as $v => $x) {
                $nearest = min($nearest, hypot(hypot($x - $pieces[0]->x[0], $glb->y[$v] - $pieces[0]->y[0]), $glb->z[$v] - $pieces[0]->z[0]));
            }
            self::assertLessThan(2e-7, $nearest);
        }
    }

    /** Programs write -0 as often as 0; it is the same place, in loops that the JIT has compiled too. */
    public function testMinusZeroIsZero(): void
    {
        $x = $y = $z = $corners = [];
        for ($k = 0; $k < 4000; $k++) {
            $zero = $k % 2 === 0 ? 0.0 : -0.0;
            array_push($x, $zero, 1.0, (float) $k);
            array_push($y, $zero, 0.0, 1.0);
            array_push($z, -$zero, $zero, $zero);
            array_push($corners, 3 * $k, 3 * $k + 1, 3 * $k + 2);
        }
        $welded = (new TriangleMesh($x, $y, $z, $corners))->joined();
        self::assertSame(4002, $welded->vertexCount());
        self::assertStringNotContainsString(pack('e', -0.0), pack('e*', ...$welded->x, ...$welded->y, ...$welded->z), 'nor is any left');
    }

    /** Some programs leave out the last line, or say more between the facets; corners that are missing are no such thing. */
    public function testATextStlIsReadFacetByFacet(): void
    {
        $text = self::textStl(Solids::box(1, 1, 1));
        $bare = (string) preg_replace('/\s*endsolid.*$/s', '', $text);
        self::assertStringNotContainsString('endsolid', $bare);
        self::assertSame(12, StlReader::read($bare)->triangleCount());
        self::assertSame(12, StlReader::read((string) preg_replace('/endfacet/', "endfacet\ncolor 0.5 0.5 0.5", $text, 3))->triangleCount());
        foreach ([
            'one corner less' => (string) preg_replace('/\n\s*vertex[^\n]*/', '', $text, 1),
            'one corner more' => (string) preg_replace('/(\n\s*vertex[^\n]*)/', '$1$1', $text, 1),
            'three corners less' => (string) preg_replace('/endfacet\s*facet/', 'facet', $text, 1),
            'a word that is none' => (string) preg_replace('/vertex/', 'vrtex', $text, 1),
            'a corner outside' => (string) preg_replace('/endfacet/', "endfacet\nvertex 0 0 0", $text, 1),
        ] as $what => $damaged) {
            try {
                StlReader::read($damaged);
                self::fail("{$what} is read as nothing");
            } catch (BadFile $error) {
                self::assertStringStartsWith('Line ', $error->getMessage(), $what);
            }
        }
    }

    public function testAByteOrderMarkIsPassedOver(): void
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'yard');
        foreach (['a.obj' => "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n", 'a.stl' => self::textStl(Solids::box(1, 1, 1)), 'a.ply' => self::ply(Solids::box(1, 1, 1), 'ascii')] as $name => $text) {
            file_put_contents($path, "\xEF\xBB\xBF{$text}");
            self::assertGreaterThan(0, MeshReader::read($path, $name)->triangleCount(), $name);
        }
        unlink($path);
    }

    /** @return iterable<string, array{string, string, string}> */
    public static function badFiles(): iterable
    {
        $mesh = Solids::box(1, 1, 1);
        yield 'web page named .obj' => ['mesh.obj', '<!DOCTYPE html><html></html>', 'web page'];
        yield 'picture named .stl' => ['mesh.stl', "\x89PNG\r\n\x1a\n0000", 'PNG'];
        yield 'unknown ending' => ['mesh.fbx', 'Kaydara', 'not a mesh file'];
        yield 'empty' => ['mesh.obj', '', 'empty'];
        yield 'prose' => ['mesh.obj', "Dear all,\nthe mesh is attached.", 'Line 1'];
        yield 'OBJ with NaN' => ['mesh.obj', "v 0 0 0\nv nan 0 0\nv 0 1 0\nf 1 2 3\n", 'Line 2'];
        yield 'OBJ with a corner too many' => ['mesh.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 4\n", 'Line 4.*only 3'];
        yield 'OBJ without faces' => ['mesh.obj', "v 0 0 0\n", 'no faces'];
        yield 'truncated binary STL' => ['mesh.stl', substr(self::binaryStl($mesh), 0, 300), 'cut off'];
        yield 'STL that claims four thousand million triangles' => ['mesh.stl', str_repeat(' ', 80) . "\xFF\xFF\xFF\xFF" . str_repeat('x', 100), 'at most'];
        yield 'binary STL with infinite coordinates' => ['mesh.stl', self::binaryStl(new TriangleMesh([0.0, INF, 0.0], [0.0, 0.0, 1.0], [0.0, 0.0, 0.0], [0, 1, 2])), 'Byte \d+'];
        yield 'truncated text STL' => ['mesh.stl', substr(self::textStl($mesh), 0, 400), 'cut off|Line 26'];
        yield 'truncated PLY' => ['mesh.ply', substr(self::ply($mesh, 'binary_little_endian'), 0, -20), 'cut off'];
        yield 'PLY that claims absurd counts' => ['mesh.ply', "ply\nformat ascii 1.0\nelement vertex 99999999999\nproperty float x\nend_header\n", 'at most'];
        yield 'PLY with NaN' => ['mesh.ply', "ply\nformat binary_little_endian 1.0\nelement vertex 1\nproperty float x\nproperty float y\nproperty float z\nend_header\n" . pack('g3', NAN, 0, 0), 'no usable x'];
        yield 'truncated GLB' => ['mesh.glb', substr(self::glb($mesh), 0, -50), 'cut off'];
        $triangle = ['asset' => ['version' => '2.0'], 'scenes' => [['nodes' => [0]]], 'nodes' => [['mesh' => 0]], 'meshes' => [['primitives' => [['attributes' => ['POSITION' => 0]]]]], 'accessors' => [['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3']], 'bufferViews' => [['buffer' => 0, 'byteLength' => 36]]];
        yield 'GLB with an accessor beyond the end' => ['mesh.glb', self::glbFrom($triangle), 'beyond the end'];
        yield 'GLB that claims absurd counts' => ['mesh.glb', self::glbFrom(array_replace_recursive($triangle, ['accessors' => [['count' => 999999999]]])), 'at most'];
        yield 'GLB that keeps its data elsewhere' => ['mesh.glb', self::glbFrom($triangle + ['buffers' => [['byteLength' => 36, 'uri' => 'file:///etc/passwd']]]), 'outside the file'];
        yield 'GLB whose nodes contain each other' => ['mesh.glb', self::glbFrom(['asset' => ['version' => '2.0'], 'scenes' => [['nodes' => [0]]], 'nodes' => [['children' => [0]]]]), 'placed twice'];
    }

    #[DataProvider('badFiles')]
    public function testBadFilesAreRefusedWithTheReason(string $name, string $bytes, string $reason): void
    {
        $path = tempnam(sys_get_temp_dir(), 'yard');
        self::assertIsString($path);
        file_put_contents($path, $bytes);
        try {
            MeshReader::read($path, $name);
            self::fail('It was read.');
        } catch (BadFile $error) {
            self::assertMatchesRegularExpression("/{$reason}/", $error->getMessage());
        } finally {
            unlink($path);
        }
    }

    private static function binaryStl(TriangleMesh $mesh): string
    {
        $out = str_pad('made by a test', 80) . pack('V', $mesh->triangleCount());
        foreach (array_chunk($mesh->triangles, 3) as $corners) {
            $out .= pack('g3', 0, 0, 0);
            foreach ($corners as $v) {
                $out .= pack('g3', $mesh->x[$v], $mesh->y[$v], $mesh->z[$v]);
            }
            $out .= pack('v', 0);
        }

        return $out;
    }

    private static function textStl(TriangleMesh $mesh): string
    {
        $out = "solid test\n";
        foreach (array_chunk($mesh->triangles, 3) as $corners) {
            $out .= "facet normal 0 0 0\nouter loop\n";
            foreach ($corners as $v) {
                $out .= sprintf("vertex %.9g %.9g %.9g\n", $mesh->x[$v], $mesh->y[$v], $mesh->z[$v]);
            }
            $out .= "endloop\nendfacet\n";
        }

        return $out . "endsolid test\n";
    }

    private static function ply(TriangleMesh $mesh, string $format): string
    {
        $out = "ply\nformat {$format} 1.0\ncomment test\nelement vertex {$mesh->vertexCount()}\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\n"
            . "element face {$mesh->triangleCount()}\nproperty list uchar int vertex_indices\nend_header\n";
        $float = ['binary_little_endian' => 'g', 'binary_big_endian' => 'G'][$format] ?? '';
        $int = ['binary_little_endian' => 'V', 'binary_big_endian' => 'N'][$format] ?? '';
        foreach ($mesh->x as $i => $x) {
            $out .= $float === '' ? sprintf("%.9g %.9g %.9g 7\n", $x, $mesh->y[$i], $mesh->z[$i]) : pack("{$float}3C", $x, $mesh->y[$i], $mesh->z[$i], 7);
        }
        foreach (array_chunk($mesh->triangles, 3) as [$a, $b, $c]) {
            $out .= $int === '' ? "3 {$a} {$b} {$c}\n" : pack("C{$int}3", 3, $a, $b, $c);
        }

        return $out;
    }

    /** npm gltf-validator on pieces of a slab that shows its art: no error, one picture, a material for each look that is there. */
    #[Group('slow')]
    public function testGlbCarriesTheArt(): void
    {
        $svg = "<svg xmlns='http://www.w3.org/2000/svg'><rect width='200' height='100' fill='#204060'/></svg>";
        $slab = Normals::computed(Slab::of(SvgReader::read($svg), 0.5, 0.05, 0.004));
        $broken = (new Breaker())->break($slab, new CellularPattern(6, 1, 0.5));
        $looks = [['face', [1.0, 1.0, 1.0], 0.9, Art::face($svg)], ['fresh', [0.8, 0.3, 0.2], 0.9, null], ['sides', [0.5, 0.4, 0.3], 0.9, null]];
        $nodes = array_map(static fn (Piece $piece): array => ['name' => 'p', 'mesh' => $piece->mesh, 'looks' => [0, 1, 2], 'centre' => $piece->mass->centre, 'track' => [[0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0]]], $broken->pieces);
        $bytes = GlbWriter::write($looks, $nodes, 24.0, 'art');
        $report = Node::run('gltf-validator', 'const v=require("gltf-validator");const r=await v.validateBytes(Uint8Array.from(Buffer.from(input,"base64")));return {errors:r.issues.numErrors,warnings:r.issues.numWarnings,materials:r.info.materialCount,image:r.info.resources.find(x=>x.image)?.image}', base64_encode($bytes));
        self::assertSame([0, 0, 3], [$report['errors'], $report['warnings'], $report['materials']]);
        self::assertIsArray($report['image']);
        self::assertSame([1024, 512], [$report['image']['width'], $report['image']['height']]);
        // Read back, the picture's edges lie at the slab's.
        $read = GlbReader::read($bytes);
        self::assertEqualsWithDelta(MassProperties::of($slab)->volume, array_sum(array_map(static fn (Piece $p): float => $p->mass->volume, $broken->pieces)), 1e-12);
        self::assertNotNull($read->uvs);
        $outer = [];
        foreach ($slab->looks ?? [] as $f => $look) {
            if ($look === TriangleMesh::LOOK_OUTER) {
                array_push($outer, ...array_slice($slab->uvs ?? [], 6 * $f, 6));
            }
        }
        self::assertGreaterThan(0.0, min($outer));
        self::assertLessThan(1.0, max($outer));
    }

    public function testObjNamesTheLooks(): void
    {
        $slab = Slab::of(SvgReader::read("<svg xmlns='http://www.w3.org/2000/svg'><circle r='9'/></svg>"), 0.5, 0.05, 0.0);
        $obj = ObjWriter::write([['slab', $slab]]);
        self::assertStringContainsString('usemtl outer', $obj);
        self::assertStringContainsString('usemtl side', $obj);
        self::assertStringNotContainsString('usemtl layer', $obj);
        self::assertSame($slab->triangleCount(), ObjReader::read($obj)->triangleCount());
    }

    private static function glb(TriangleMesh $mesh): string
    {
        return GlbWriter::write([['a', [1.0, 1.0, 1.0], 0.5, null]], [
            ['name' => 'x', 'mesh' => Normals::computed($mesh), 'looks' => [0, 0, 0], 'centre' => [0.0, 0.0, 0.0], 'track' => [[0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0]]],
        ], 24.0, 'scene');
    }

    /** @param array<mixed> $json */
    private static function glbFrom(array $json): string
    {
        $text = (string) json_encode($json);
        $text .= str_repeat(' ', (4 - strlen($text) % 4) % 4);

        return 'glTF' . pack('VV', 2, 20 + strlen($text)) . pack('VV', strlen($text), 0x4E4F534A) . $text;
    }
}
