<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Format\GlbReader;
use YardBreak\Core\Format\GlbWriter;
use YardBreak\Core\Format\ObjReader;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Format\PlyReader;
use YardBreak\Core\Format\StlReader;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Tests\Fixture\Node;

/** Files as programs write them, read by us and by the loaders of npm three: the same triangles in the same places. */
final class LoadersTest extends TestCase
{
    /** Every triangle's corners, of all meshes of a scene, in place. */
    private const CORNERS = <<<'JS'
        const { Vector3 } = await import('three');
        const corners = (geometry, matrix) => {
            const [at, index, out] = [geometry.attributes.position, geometry.index, []];
            for (let k = 0; k < (index ? index.count : at.count); k++) {
                const v = new Vector3().fromBufferAttribute(at, index ? index.getX(k) : k);
                if (matrix) v.applyMatrix4(matrix);
                out.push(v.x, v.y, v.z);
            }
            return out;
        };
        const scene = (root) => { root.updateMatrixWorld(true); const out = []; root.traverse((o) => { if (o.isMesh) out.push(...corners(o.geometry, o.matrixWorld)); }); return out; };
        const bytes = Uint8Array.from(Buffer.from(input, 'base64')).buffer;
        const text = Buffer.from(input, 'base64').toString();

        JS;

    private const OBJ = 'const {OBJLoader}=await import("three/examples/jsm/loaders/OBJLoader.js");return scene(new OBJLoader().parse(text))';

    private const STL = 'const {STLLoader}=await import("three/examples/jsm/loaders/STLLoader.js");return corners(new STLLoader().parse(bytes))';

    private const PLY = 'const {PLYLoader}=await import("three/examples/jsm/loaders/PLYLoader.js");return corners(new PLYLoader().parse(bytes))';

    private const GLB = 'globalThis.self=globalThis;const {GLTFLoader}=await import("three/examples/jsm/loaders/GLTFLoader.js");return scene((await new GLTFLoader().parseAsync(bytes,"")).scene)';

    /** @return iterable<string, array{string, string, callable(string): TriangleMesh}> */
    public static function files(): iterable
    {
        $obj = ObjReader::read(...);
        yield 'OBJ with quads, five corners and groups' => [self::OBJ, "mtllib a.mtl\no first\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 0.5 1.5 0.25\ng side\nusemtl red\ns 1\nf 1 2 3 4\ns off\no second\nf 4 3 5\nf 1 2 3 5 4\n", $obj];
        yield 'OBJ counting from the end' => [self::OBJ, "v 0 0 0\nv 1 0 0\nv 0 1 0\nf -3 -2 -1\nv 0 0 2\nv 1 0 2\nv 0 1 2\nf -3 -2 -1\nf 1 -2 3\n", $obj];
        yield 'OBJ with texture coordinates and normals in every way' => [self::OBJ, "v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nvn 0 0 1\nf 1/1 2/2 3/3\nf 1//1 2//1 3//1\nf 1/1/1 2/2/1 3/3/1\nf 3 2 1\n", $obj];
        yield 'OBJ with Windows line ends, blanks and exponents' => [self::OBJ, "# made by hand\r\nv   -1.5e-1\t2E+1  .5 \r\nv 1 0 0\r\nv 0  1 0\r\n\r\nf  1   2\t3 \r\n", $obj];
        yield 'OBJ with colours after the places' => [self::OBJ, "v 0 0 0 1 0 0\nv 1 0 0 0 1 0\nv 0 1 0 0 0 1\nf 1 2 3\n", $obj];
        yield 'OBJ, our own' => [self::OBJ, ObjWriter::write([['a', Normals::computed(Solids::cone(0.5, 1.0, 12, 3))], ['b', Normals::computed(Solids::box(1, 2, 3, 2))]]), $obj];

        $stl = StlReader::read(...);
        yield 'STL text with blanks as programs put them' => [self::STL, "solid part one\n  facet normal 0.0 0.0 1.0\n    outer loop\n      vertex  0.0e+00 0 0\n      vertex 1.25E+00 0 0\n      vertex 0 -1.5e-1 0\n    endloop\n  endfacet\n  facet normal 0 1 0\n    outer loop\n      vertex 0 0 0\n      vertex 0 0 1\n      vertex 1 0 0\n    endloop\n  endfacet\nendsolid part one\n", $stl];
        $record = pack('g3', 0, 0, 1) . pack('g9', 0, 0, 0, 1.5, 0, 0, 0, 2.5, -0.125) . pack('v', 0);
        yield 'STL binary whose header begins with “solid”' => [self::STL, str_pad('solid but binary', 80, "\0") . pack('V', 2) . $record . $record, $stl];
        yield 'STL binary with attribute bytes' => [self::STL, str_pad('', 80, "\0") . pack('V', 1) . substr($record, 0, 48) . "\x1F\x7C", $stl];

        $ply = PlyReader::read(...);
        $head = static fn (string $format, string $more = ''): string => "ply\nformat {$format} 1.0\ncomment made by a test\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\n{$more}element face 2\nproperty list uchar int vertex_indices\nend_header\n";
        yield 'PLY text with four corners' => [self::PLY, $head('ascii') . "0 0 0\n1 0 0\n1 1 0.5\n0 1 0\n4 0 1 2 3\n3 0 2 1\n", $ply];
        yield 'PLY text with normals and colours' => [self::PLY, $head('ascii', "property float nx\nproperty float ny\nproperty float nz\nproperty uchar red\nproperty uchar green\nproperty uchar blue\n") . "0 0 0 0 0 1 255 0 0\n1 0 0 0 0 1 0 255 0\n1 1 0 0 0 1 0 0 255\n0 1 0 0 0 1 9 9 9\n3 0 1 2\n3 0 2 3\n", $ply];
        $vertices = [[0.0, 0.0, 0.0], [1.0, 0.0, 0.25], [1.0, 1.0, 0.0], [0.0, 1.0, -3.5]];
        foreach (['little' => ['g', 'V', 'e'], 'big' => ['G', 'N', 'E']] as $order => [$float, $int, $double]) {
            $body = implode('', array_map(static fn (array $v): string => pack("{$float}3", ...$v), $vertices)) . pack("C{$int}3", 3, 0, 1, 2) . pack("C{$int}4", 4, 3, 2, 1, 0);
            yield "PLY binary, {$order}-endian" => [self::PLY, $head("binary_{$order}_endian") . $body, $ply];
            $header = "ply\nformat binary_{$order}_endian 1.0\nelement vertex 4\nproperty double x\nproperty double y\nproperty double z\nproperty uchar alpha\nelement face 1\nproperty uchar flags\nproperty list uchar uint vertex_index\nend_header\n";
            $body = implode('', array_map(static fn (array $v): string => pack("{$double}3C", ...[...$v, 9]), $vertices)) . pack("CC{$int}3", 5, 3, 1, 3, 2);
            yield "PLY binary, {$order}-endian, doubles and more properties" => [self::PLY, $header . $body, $ply];
        }

        $glb = GlbReader::read(...);
        $turn = Quaternion::fromDegrees(20.0, -50.0, 80.0);
        yield 'GLB, our own, with moved and turned nodes' => [self::GLB, GlbWriter::write([['a', [1.0, 1.0, 1.0], 0.5, null]], [
            ['name' => 'x', 'mesh' => Normals::computed(Solids::box(1, 2, 3)), 'looks' => [0, 0, 0], 'centre' => [0.5, 0.0, 0.0], 'track' => [[1.0, 2.0, 3.0, ...$turn]]],
            ['name' => 'y', 'mesh' => Normals::computed(Solids::ball(0.5, 4)), 'looks' => [0, 0, 0], 'centre' => [0.0, 0.0, 0.0], 'track' => [[-4.0, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0]]],
        ], 24.0, 'scene'), $glb];
        yield 'GLB with short indices, a scaled parent and a strided buffer' => [self::GLB, self::strided(), $glb];
        yield 'GLB with a matrix, a strip and a fan' => [self::GLB, self::strips(), $glb];
    }

    /** @param callable(string): TriangleMesh $read */
    #[DataProvider('files')]
    #[Group('thorough')]
    public function testTheSameTrianglesAsThree(string $loader, string $bytes, callable $read): void
    {
        $theirs = array_chunk(Node::run('three', self::CORNERS . $loader, base64_encode($bytes)), 9);
        $mesh = $read($bytes);
        $ours = [];
        foreach (array_chunk($mesh->triangles, 3) as $corners) {
            $ours[] = array_merge(...array_map(static fn (int $v): array => [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]], $corners));
        }
        self::assertSameSize($theirs, $ours);
        foreach ($theirs as $k => $corners) {
            self::assertEqualsWithDelta($corners, $ours[$k], 2e-6, "triangle {$k}");
        }
    }

    /** What we hand off is a named object a piece with its volume, for any reader. */
    public function testObjObjectsHaveTheirNamesAndVolumes(): void
    {
        $objects = [['jar_1', Normals::computed(Solids::box(1, 2, 3))], ['jar_2', Normals::computed(Solids::torus(1, 0.2, 20, 10))]];
        $theirs = Node::run('three', self::CORNERS . 'const {OBJLoader}=await import("three/examples/jsm/loaders/OBJLoader.js");return new OBJLoader().parse(text).children.map((o)=>[o.name,corners(o.geometry)])', base64_encode(ObjWriter::write($objects)));
        self::assertCount(2, $theirs);
        foreach ($objects as $k => [$name, $mesh]) {
            self::assertIsArray($theirs[$k]);
            /** @var list<float> $corners */
            [$theirName, $corners] = $theirs[$k];
            self::assertSame($name, $theirName);
            $volume = 0.0;
            foreach (array_chunk($corners, 9) as [$ax, $ay, $az, $bx, $by, $bz, $cx, $cy, $cz]) {
                $volume += ($ax * ($by * $cz - $bz * $cy) + $ay * ($bz * $cx - $bx * $cz) + $az * ($bx * $cy - $by * $cx)) / 6.0;
            }
            self::assertEqualsWithDelta(MassProperties::of($mesh)->volume, $volume, 1e-5);
        }
    }

    /** Places and normals in one buffer, in turns; the node under a parent that scales and turns. */
    private static function strided(): string
    {
        $data = '';
        foreach ([[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0.5]] as $v) {
            $data .= pack('g3', ...$v) . pack('g3', 0, 0, 1);
        }
        $data .= pack('v6', 0, 1, 2, 0, 2, 3);

        return self::glb([
            'scenes' => [['nodes' => [0]]],
            'nodes' => [['children' => [1], 'scale' => [2, 3, 0.5], 'rotation' => [0, 0, M_SQRT1_2, M_SQRT1_2]], ['mesh' => 0, 'translation' => [1, -1, 4]]],
            'meshes' => [['primitives' => [['attributes' => ['POSITION' => 0, 'NORMAL' => 1], 'indices' => 2]]]],
            'accessors' => [
                ['bufferView' => 0, 'componentType' => 5126, 'count' => 4, 'type' => 'VEC3', 'min' => [0, 0, 0], 'max' => [1, 1, 0.5]],
                ['bufferView' => 0, 'byteOffset' => 12, 'componentType' => 5126, 'count' => 4, 'type' => 'VEC3'],
                ['bufferView' => 1, 'componentType' => 5123, 'count' => 6, 'type' => 'SCALAR'],
            ],
            'bufferViews' => [['buffer' => 0, 'byteLength' => 96, 'byteStride' => 24], ['buffer' => 0, 'byteOffset' => 96, 'byteLength' => 12]],
        ], $data);
    }

    private static function strips(): string
    {
        $data = '';
        foreach ([[0, 0, 0], [1, 0, 0], [0, 1, 0], [1, 1, 0], [0, 2, 1]] as $v) {
            $data .= pack('g3', ...$v);
        }
        $data .= pack('C5', 4, 3, 2, 1, 0) . "\0\0\0";

        return self::glb([
            'scenes' => [['nodes' => [0]]],
            'nodes' => [['mesh' => 0, 'matrix' => [0, 1, 0, 0, -1, 0, 0, 0, 0, 0, 1, 0, 5, 6, 7, 1]]],
            'meshes' => [['primitives' => [['attributes' => ['POSITION' => 0], 'indices' => 1]]]],
            'accessors' => [
                ['bufferView' => 0, 'componentType' => 5126, 'count' => 5, 'type' => 'VEC3', 'min' => [0, 0, 0], 'max' => [1, 2, 1]],
                ['bufferView' => 1, 'componentType' => 5121, 'count' => 3, 'type' => 'SCALAR'],
            ],
            'bufferViews' => [['buffer' => 0, 'byteLength' => 60], ['buffer' => 0, 'byteOffset' => 60, 'byteLength' => 5]],
        ], $data);
    }

    /** @param array<mixed> $json */
    private static function glb(array $json, string $data): string
    {
        $text = (string) json_encode(['asset' => ['version' => '2.0'], 'scene' => 0, 'buffers' => [['byteLength' => strlen($data)]]] + $json);
        $text .= str_repeat(' ', (4 - strlen($text) % 4) % 4);

        return 'glTF' . pack('VV', 2, 28 + strlen($text) + strlen($data)) . pack('VV', strlen($text), 0x4E4F534A) . $text . pack('VV', strlen($data), 0x004E4942) . $data;
    }
}
