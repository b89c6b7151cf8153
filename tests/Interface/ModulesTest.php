<?php

declare(strict_types=1);

namespace Tests\Interface;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Format\DisplayMesh;
use YardBreak\Core\Mesh\TriangleMesh;

/** The parts of the interface that only compute, run in node as they are. */
#[Group('thorough')]
final class ModulesTest extends TestCase
{
    use Modules;

    /** Whatever side one draws on, up is up and to the right is to the right as one looks at that side. */
    public function testTheBoardIsSeenFromTheSideItIsDrawnOn(): void
    {
        $seen = self::module('board/plane.ts', '
            const at = (facing, p) => { const a = m.axesOf(facing); return m.toBoard(facing, [p[a.first], p[a.second]]); };
            return { z: [at("z",[1,0,0]), at("z",[0,1,0])], x: [at("x",[0,0,-1]), at("x",[0,1,0])], y: [at("y",[1,0,0]), at("y",[0,0,-1])],
                back: ["x","y","z"].map((f) => m.fromBoard(f, m.toBoard(f, [0.3, -0.7]))) }');
        foreach (['z', 'x', 'y'] as $side) {
            self::assertEquals([[1, 0], [0, 1]], $seen[$side], $side);
        }
        self::assertEquals([[0.3, -0.7], [0.3, -0.7], [0.3, -0.7]], $seen['back']);
    }

    /** The first look: nearly all pieces at all moments, at their size, without what is gone or has strayed. */
    public function testTheFirstLookHoldsTheWholeMotion(): void
    {
        $seen = self::module('viewport/framing.ts', '
            // Place, state, turn, size of each piece.
            const sample = (pieces) => ({ poses: new Float32Array(pieces.flatMap(([x, y, z, state, size]) => [x, y, z, state, 0, 0, 0, 1, size, size, size, 0])), radii: new Float32Array(pieces.map(() => 0.5)) });
            const few = m.boundsOf([sample([[0, 0, 0, 0, 1], [2, 1, 0, 1, 0.5]]), sample([[0, 3, 0, 0, 1], [90, 90, 90, 4, 1]])]);
            const many = Array.from({ length: 300 }, (_, k) => [k / 300, 0, 0, 0, 1]);
            const stray = m.boundsOf([sample([...many, [500, 0, 0, 0, 1]])]);
            return { few, stray, none: m.boundsOf([sample([[1, 1, 1, 4, 1]])]), moments: m.moments(97), short: m.moments(2),
                both: m.around([m.boundsOf([sample(many)]), null, m.boundsOf([sample([[9, 0, -2, 0, 1]])])]), nothing: m.around([null]) }');
        self::assertEqualsWithDelta(['low' => [-0.4, -0.4, -0.4], 'high' => [2.2, 3.4, 0.4]], $seen['few'], 1e-6);
        self::assertLessThan(1.41, $seen['stray']['high'][0], 'one that rolls far away does not make the others small');
        self::assertNull($seen['none']);
        // However many pieces another prop has, one of a single piece is in the picture too.
        self::assertEqualsWithDelta(['low' => -2.4, 'high' => 9.4], ['low' => $seen['both']['low'][2], 'high' => $seen['both']['high'][0]], 1e-6);
        self::assertNull($seen['nothing']);
        self::assertSame([1, 13, 25, 37, 49, 61, 73, 85, 97], $seen['moments']);
        self::assertSame([1, 2], array_values(array_unique($seen['short'])));
    }

    /** By three's own camera: every corner of the box is in the picture, and one is near its edge. */
    public function testTheCameraStandsJustFarEnough(): void
    {
        $seen = self::module('viewport/framing.ts', '
            const THREE = await import("three");
            const way = new THREE.Vector3(0.62, 0.32, 1).normalize();
            const up = [0, 1, 0];
            return [[[-1, 0, -1], [1, 3, 1], 2, up], [[-4, 0, -0.1], [4, 0.2, 0.1], 0.7, up], [[9, 9, 9], [9.1, 9.4, 12], 1.2, up], [[-4, 0, -0.1], [4, 0.2, 0.1], 0.7, [0.6, 0, -0.8]]].map(([low, high, aspect, up]) => {
                const camera = new THREE.PerspectiveCamera(40, aspect, 0.01, 1000);
                camera.up.set(...up);
                const middle = new THREE.Vector3(...low).add(new THREE.Vector3(...high)).multiplyScalar(0.5);
                camera.position.copy(middle).addScaledVector(way, m.distanceFor({ low, high }, way.toArray(), up, 40, aspect));
                camera.lookAt(middle);
                camera.updateMatrixWorld();
                const at = [];
                for (let c = 0; c < 8; c++) at.push(new THREE.Vector3(...[0, 1, 2].map((a) => (c >> a) & 1 ? high[a] : low[a])).project(camera));
                return Math.max(...at.map((p) => Math.max(Math.abs(p.x), Math.abs(p.y))));
            })');
        foreach ($seen as $farthest) {
            self::assertEqualsWithDelta(0.92, $farthest, 1e-6);
        }
    }

    /** What one types is read in its unit; what measures something else is refused, not taken for the field's own. */
    public function testNumbersAreReadInTheUnitThatIsTyped(): void
    {
        $cases = [
            ['5 mm', 'm', 0.005], ['5mm', 'm', 0.005], ['2.5', 'm', 2.5], ['2,5', 'm', 2.5], ['.5', 'm', 0.5], ['-3 cm', 'm', -0.03], ['1e3 mm', 'm', 1.0], ['12 in', 'm', 0.3048],
            ['1 ft', 'm', 0.3048], ['90', '°', 90.0], ['0.25 turns', '°', 90.0], ['36 km/h', 'm/s', 10.0], ['7.85 g/cm³', 'kg/m³', 7850.0], ['24 frames', 'f', 24.0], ['1 km', 'm', 1000.0],
            ['9.81 m/s2', 'm/s²', 9.81], ['3', null, 3.0], [' 4 ', 'kg', 4.0],
            ['5 kg', 'm', null], ['5 parsec', 'm', null], ['m', 'm', null], ['', 'm', null], ['1 2', 'm', null], ['5 mm', null, null], ['2 s', 'f', null], ['1e999', 'm', null], ['NaN', 'm', null],
        ];
        $read = self::module('fields/quantity.ts', 'return input.map(([text, unit]) => m.quantity(text, unit ?? undefined))', $cases);
        foreach ($cases as $k => [$text, $unit, $expected]) {
            self::assertSame($expected, $read[$k] === null ? null : (float) $read[$k], "{$text} in a field of {$unit}");
        }
        // Radians as the definition has them.
        self::assertEqualsWithDelta(180.0, self::module('fields/quantity.ts', 'return [m.quantity(`${Math.PI} rad`, "°")]')[0], 1e-9);
    }

    /** A number typed over a keyed one changes the key that stands there, whatever it hangs on, or puts one; never two at a frame. */
    public function testAKeyedNumberIsChangedWhereOneStands(): void
    {
        $seen = self::module('state/keys.ts', '
            const cues = [{ id: "go", frame: 20 }];
            const value = { keys: [{ frame: 40, value: 4, ease: "in" }, { cue: "go", offset: 2, value: 2, ease: "hold" }, { frame: 1, value: 1, ease: "out" }] };
            const at = (frame) => m.withValueAt(value, frame, 9, cues).keys;
            return { cue: at(22), own: at(40), between: at(30), before: at(0), plain: m.withValueAt(3, 5, 9, cues),
                order: m.sortedKeys(value, cues).map((key) => key.value), near: [0, 1, 21, 22, 39, 99].map((f) => m.valueNear(value, f, cues)), same: value.keys.length }');
        self::assertEquals(['cue' => 'go', 'offset' => 2, 'value' => 9, 'ease' => 'hold'], $seen['cue'][1], 'it stays with its cue and keeps its ease');
        self::assertCount(3, $seen['cue']);
        self::assertEquals(['frame' => 40, 'value' => 9, 'ease' => 'in'], $seen['own'][0]);
        self::assertCount(4, $seen['between']);
        self::assertEquals(['frame' => 30, 'value' => 9, 'ease' => 'hold'], $seen['between'][3], 'it goes on as the key before it does');
        self::assertEquals(['frame' => 0, 'value' => 9, 'ease' => 'smooth'], $seen['before'][3]);
        self::assertSame(9, $seen['plain']);
        self::assertSame([1, 2, 4], $seen['order']);
        self::assertSame([1, 1, 1, 2, 2, 4], $seen['near']);
        self::assertSame(3, $seen['same'], 'the document as it was is left alone');
    }

    public function testThePointerSnapsToPointsBeforeLines(): void
    {
        $snaps = self::module('board/plane.ts', '
            const lines = [{ points: [[0,0],[1,0],[1,1]], closed: false }, { points: [[2,2],[3,2],[3,3]], closed: true }];
            const s = (x, y) => m.snap([x, y], lines, 0.1);
            return [s(0.04, 0.05), s(0.5, 0.05), s(0.5, 0.3), s(2.5, 2.45), s(0.123456789, 0.9)]');
        self::assertEquals([
            ['at' => [0, 0], 'kind' => 'point'],
            ['at' => [0.5, 0], 'kind' => 'line'],
            ['at' => [0.5, 0.3], 'kind' => 'free'],
            // On the side that closes the loop.
            ['at' => [2.475, 2.475], 'kind' => 'line'],
            ['at' => [0.123457, 0.9], 'kind' => 'free'],
        ], $snaps);
    }

    public function testWhatMeetsIsDraggedTogether(): void
    {
        $moved = self::module('board/plane.ts', '
            const lines = [{ points: [[0,0],[1,0]], closed: false }, { points: [[1,0],[1,1]], closed: false }, { points: [[5,5],[6,6]], closed: false }];
            const next = m.moved(lines, [1,0], [2,0.5]);
            return { next, same: next[2] === lines[2] }');
        self::assertEquals([[[0, 0], [2, 0.5]], [[2, 0.5], [1, 1]], [[5, 5], [6, 6]]], array_column((array) $moved['next'], 'points'));
        self::assertTrue($moved['same'], 'a line that did not move stays the same object');
    }

    public function testTheLineUnderThePointerIsFound(): void
    {
        $found = self::module('board/plane.ts', '
            const lines = [{ points: [[0,0],[1,0],[1,1]], closed: true }];
            return [m.under([0.98,0.03], lines, 0.1), m.under([0.5,0.02], lines, 0.1), m.under([0.5,0.52], lines, 0.1), m.under([0.2,0.9], lines, 0.1)]');
        self::assertEquals([
            ['line' => 0, 'point' => 1, 'after' => 1],
            ['line' => 0, 'point' => null, 'after' => 0],
            ['line' => 0, 'point' => null, 'after' => 2],
            null,
        ], $found);
    }

    public function testNumbersAreShownInUnitsThatSuitThem(): void
    {
        $cases = [
            'volumeText' => [[0.25, '0.250 m³'], [0.0021, '2.10 l'], [1.03e-4, '103 cm³'], [9.999e-4, '1.00 l'], [3.2e-6, '3.20 cm³'], [4e-9, '4.00 mm³'], [0, '0 mm³'], [12345, '12345 m³'], [-0.25, '-0.250 m³']],
            'massText' => [[12345, '12.3 t'], [12.345, '12.3 kg'], [0.9999, '1.00 kg'], [0.0123, '12.3 g'], [2e-6, '2.00 mg']],
            'lengthText' => [[1.5, '1.50 m'], [2500, '2500 m'], [0.123, '12.3 cm'], [0.0042, '4.20 mm']],
            'areaText' => [[0.25, '0.250 m²'], [0.0123, '123 cm²'], [0.0031, '31.0 cm²'], [2e-6, '2.00 mm²']],
            // Counts are never cut short.
            'exact' => [[10089, 10089], [0, 0], [3.2659123, 3.266], [12345.678, 12350]],
        ];
        foreach ($cases as $measure => $pairs) {
            $shown = self::module('readout/units.ts', "return input.map((value) => m.{$measure}(value))", array_column($pairs, 0));
            self::assertSame(array_column($pairs, 1), $shown, $measure);
        }
        // Beside the largest of a plot: no 4e-8 J of what lies still.
        self::assertEquals([0.0001, 0, 2, 3, 0.144], self::module('readout/units.ts', 'return [m.exact(0.00008815, 0.144), m.exact(4e-8, 0.144), m.exact(2.34567, 5421.7), m.exact(3, 5421.7), m.exact(0.144, 0.144)]'));
    }

    public function testDocumentsAreChangedWithoutTouchingTheOldOne(): void
    {
        $result = self::module('state/document.ts', '
            const old = { props: [{ id: "a", break: { lines: [1, 2] } }, { id: "b" }] };
            const next = m.write(old, ["props", 0, "break", "lines"], [1, 2, 3]);
            return { next, old, shared: next.props[1] === old.props[1], read: m.read(next, ["props", 0, "break", "lines", 2]), none: m.read(old, ["props", 7, "break"]) ?? "nothing",
                merged: m.merge(old, ["props", 1], { break: { seed: 2 } }).props[1], path: m.fromPointer("/props/0/a~1b/c~0d"), ids: [m.newId("Clay jar", []), m.newId("Clay jar", ["clay-jar"]), m.newId("!!", [])] }');
        self::assertSame([1, 2, 3], $result['next']['props'][0]['break']['lines']);
        self::assertSame([1, 2], $result['old']['props'][0]['break']['lines']);
        self::assertTrue($result['shared']);
        self::assertSame([3, 'nothing'], [$result['read'], $result['none']]);
        self::assertSame(['id' => 'b', 'break' => ['seed' => 2]], $result['merged']);
        self::assertSame(['props', 0, 'a/b', 'c~d'], $result['path']);
        self::assertSame(['clay-jar', 'clay-jar-2', 'item'], $result['ids']);
    }

    /** What the graphics card does with the triangles around every normal (NormalsPass). */
    private const SUMS = '
        const sums = ({ runs, triangles }, places) => Array.from({ length: runs.length / 3 }, (_, k) => {
            const [first, count, own] = runs.slice(3 * k, 3 * k + 3);
            const at = (v) => places.slice(3 * v, 3 * v + 3);
            const sum = [0, 0, 0];
            for (let n = first; n < first + count; n++) {
                const [a, b, c] = [...triangles.slice(3 * n, 3 * n + 3)].map(at);
                if (a.some((value, axis) => value !== at(own)[axis])) continue;
                const [u, v] = [b, c].map((to) => to.map((value, axis) => value - a[axis]));
                [0, 1, 2].forEach((x) => { const [y, z] = [(x + 1) % 3, (x + 2) % 3]; sum[x] += u[y] * v[z] - u[z] * v[y]; });
            }
            return sum;
        }).flat();
    ';

    /** A square of two triangles with a crease between them, and its corners numbered by vertex as the server does. */
    public function testBentSurfacesHaveTheirNormalsCreasesAndPlaces(): void
    {
        $mesh = DisplayMesh::encode([new TriangleMesh([0.0, 1.0, 1.0, 0.0], [0.0, 0.0, 0.0, 0.0], [0.0, 0.0, 1.0, 1.0], [0, 2, 1, 0, 3, 2], [
            // The second triangle has another normal at rest: a crease.
            0.0, 1.0, 0.0, 0.0, 1.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 1.0, 0.0, 0.0, 1.0,
        ])], [[0.5, 0.0, 0.5]], [0.0], true);
        $seen = self::module('viewport/mesh.ts', self::SUMS . '
            const { load } = await import(input.load);
            const d = await load("viewport/deform.ts");
            const bytes = Uint8Array.from(atob(input.mesh), (c) => c.charCodeAt(0));
            const mesh = m.parsePieces(bytes.buffer, "");
            const shading = d.shadingOf(mesh);
            // Vertex 3 is lifted; the first triangle stays flat.
            const places = new Float32Array([0, 0, 0, 1, 0, 0, 1, 0, 1, 0, 1, 1]);
            const { fansOf } = await load("viewport/fans.ts");
            const normals = sums(fansOf(mesh, shading), places);
            const frames = { have: 2, at: (f) => Float32Array.from(places, (v) => v + Math.floor(f)) };
            const out = new Float32Array(12);
            const there = d.bakedPlaces(out, frames, "p", 1.25);
            return { vertices: [...mesh.vertices], uvs: mesh.uvs.length, count: mesh.vertexCount, shades: shading.count, flat: [...normals.slice(0, 3)], bent: [...normals.slice(3 * shading.shade[4], 3 * shading.shade[4] + 3)],
                hit: d.pickBent(mesh, places, [0.75, 5, 0.3], [0, -1, 0]), miss: d.pickBent(mesh, places, [3, 5, 3], [0, -1, 0]), there, place: out[3], none: d.bakedPlaces(out, { have: 0, at: () => undefined }, "p", 1) }
        ', ['mesh' => base64_encode($mesh), 'load' => 'file://' . __DIR__ . '/load.mjs']);
        self::assertSame([0, 2, 1, 0, 3, 2], $seen['vertices']);
        self::assertSame(12, $seen['uvs']);
        self::assertSame(4, $seen['count']);
        self::assertSame(6, $seen['shades'], 'two vertices lie on the crease');
        self::assertEqualsWithDelta([0.0, 1.0, 0.0], $seen['flat'], 1e-6);
        // (0, 1, 1) x (1, 0, 1): as long as twice the area.
        self::assertEqualsWithDelta([1.0, 1.0, -1.0], $seen['bent'], 1e-6);
        self::assertEqualsWithDelta(5.0, $seen['hit']['distance'], 1e-6);
        self::assertNull($seen['miss']);
        self::assertTrue($seen['there']);
        self::assertEqualsWithDelta(2.25, $seen['place'], 1e-6, 'vertex 1, a quarter of the way from frame 1 to 2');
        self::assertFalse($seen['none']);
    }

    /** Two squares side by side, each with its own vertices along the seam: sewn, they are shaded as one, until they part. */
    public function testSewnPatchesShareTheirNormals(): void
    {
        $square = static fn (float $x): TriangleMesh => new TriangleMesh([$x, $x + 1.0, $x + 1.0, $x], [0.0, 0.0, 0.0, 0.0], [0.0, 0.0, 1.0, 1.0], [0, 2, 1, 0, 3, 2], array_merge(...array_fill(0, 6, [0.0, 1.0, 0.0])));
        $mesh = DisplayMesh::encode([$square(0.0), $square(1.0)], [[0.5, 0.0, 0.5], [1.5, 0.0, 0.5]], [0.0, 0.0], true);
        $seen = self::module('viewport/mesh.ts', self::SUMS . '
            const { load } = await import(input.load);
            const d = await load("viewport/deform.ts");
            const bytes = Uint8Array.from(atob(input.mesh), (c) => c.charCodeAt(0));
            const mesh = m.parsePieces(bytes.buffer, "");
            const shading = d.shadingOf(mesh);
            const fans = (await load("viewport/fans.ts")).fansOf(mesh, shading);
            // The far side of the second is lifted: folded along the seam.
            const folded = [0, 0, 0, 1, 0, 0, 1, 0, 1, 0, 0, 1, 1, 0, 0, 2, 1, 0, 2, 1, 1, 1, 0, 1];
            const normalsOf = (places) => {
                const normals = sums(fans, new Float32Array(places));
                // Of vertex 1 of the first square and vertex 0 of the second, which lie at one place.
                return [1, 4].map((v) => { const c = mesh.vertices.indexOf(v); const [x, y, z] = normals.slice(3 * shading.shade[c], 3 * shading.shade[c] + 3); return [x, y, z].map((value) => value / Math.hypot(x, y, z)); });
            };
            const parted = folded.map((value, k) => (k >= 12 && k % 3 === 0 ? value + 0.1 : value));
            return { sewn: shading.sewn.length, folded: normalsOf(folded), parted: normalsOf(parted) };
        ', ['mesh' => base64_encode($mesh), 'load' => 'file://' . __DIR__ . '/load.mjs']);
        self::assertSame(2, $seen['sewn'], 'two places along the seam');
        self::assertEqualsWithDelta($seen['folded'][0], $seen['folded'][1], 1e-6);
        self::assertGreaterThan(0.1, abs($seen['folded'][0][0]), 'it lies between both sides');
        self::assertEqualsWithDelta([0.0, 1.0, 0.0], $seen['parted'][0], 1e-6);
        self::assertEqualsWithDelta([-sqrt(0.5), sqrt(0.5), 0.0], $seen['parted'][1], 1e-6);
    }
}
