<?php

declare(strict_types=1);

namespace Tests\Interface;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\BakeWriter;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\Piece;
use YardBreak\Core\Format\DisplayMesh;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;

/** What the server writes, as the picture reads it, and what is worked out from it there. */
#[Group('thorough')]
final class ViewportTest extends TestCase
{
    use Modules;

    /** Turns base64 into an ArrayBuffer. */
    /** A server that has so many records of a file by now. */
    private const SERVER = '
        const asked = [];
        const file = bytes(input.file);
        let serve = (file, done) => {
            globalThis.fetch = async (path, init) => {
                const range = init?.headers?.Range;
                asked.push([path, range]);
                if (path.includes("/index")) {
                    const rows = input.places.slice(Number(path.split("from=")[1]) - 1, done);
                    const view = new DataView(new ArrayBuffer(12 * rows.length));
                    rows.forEach(([at, length], k) => { view.setBigUint64(12 * k, BigInt(at), true); view.setUint32(12 * k + 8, length, true); });
                    return new Response(view.buffer);
                }
                const [from, to] = range.slice(6).split("-").map(Number);
                return new Response(file.slice(from, to + 1), { status: 206 });
            };
        };
    ';

    private const BYTES = 'const bytes=(text)=>{const b=Buffer.from(text,"base64");return b.buffer.slice(b.byteOffset,b.byteOffset+b.length)};';

    public function testPiecesArriveAsTheyWereSent(): void
    {
        $pieces = self::pieces();
        foreach ([false, true] as $withUvs) {
            $read = self::module('viewport/mesh.ts', self::BYTES . 'const p=m.parsePieces(bytes(input),"x");
                return {count:p.count,centres:[...p.centres],volumes:[...p.volumes],first:[...p.first],corners:[...p.corners],positions:[...p.positions],normals:[...p.normals],uvs:p.uvs?[...p.uvs]:null}', base64_encode(self::encoded($pieces, $withUvs)));
            self::assertSame(count($pieces), $read['count']);
            self::assertEqualsWithDelta(array_map(static fn (Piece $p): float => $p->mass->volume, $pieces), $read['volumes'], 1e-7);
            $first = 0;
            foreach ($pieces as $k => $piece) {
                $corners = count($piece->mesh->triangles);
                self::assertSame([$first, $corners], [$read['first'][$k], $read['corners'][$k]]);
                foreach ($piece->mesh->triangles as $c => $v) {
                    $at = 3 * ($first + $c);
                    self::assertEqualsWithDelta($piece->mesh->x[$v], $read['positions'][$at] + $read['centres'][3 * $k], 1e-6);
                    self::assertEqualsWithDelta($piece->mesh->y[$v], $read['positions'][$at + 1] + $read['centres'][3 * $k + 1], 1e-6);
                    $at = 4 * ($first + $c);
                    self::assertEqualsWithDelta($piece->mesh->normals[3 * $c] ?? 9.0, $read['normals'][$at] / 127.0, 0.5 / 127.0 + 1e-9);
                    self::assertEqualsWithDelta($piece->mesh->normals[3 * $c + 2] ?? 9.0, $read['normals'][$at + 2] / 127.0, 0.5 / 127.0 + 1e-9);
                    self::assertSame($piece->mesh->looks[intdiv($c, 3)] ?? TriangleMesh::LOOK_OUTER, $read['normals'][$at + 3]);
                    if ($withUvs) {
                        self::assertEqualsWithDelta($piece->mesh->uvs[2 * $c] ?? 9.0, $read['uvs'][2 * ($first + $c)], 1e-6);
                    }
                }
                $first += $corners;
            }
            self::assertSame($withUvs, $read['uvs'] !== null);
        }
    }

    /** Corners that are alike are drawn by one of them, those that are not each by its own, with what belongs to it. */
    public function testWhatIsAlikeIsDrawnOnce(): void
    {
        $pieces = self::pieces();
        foreach ([false, true] as $withUvs) {
            $read = self::module('viewport/corners.ts', 'const p=input; const mesh={count:p.first.length,first:Uint32Array.from(p.first),corners:Uint32Array.from(p.corners),vertices:Uint32Array.from(p.vertices),vertexCount:Math.max(...p.vertices)+1,
                positions:Float32Array.from(p.positions),normals:Int8Array.from(p.normals),uvs:p.uvs?Float32Array.from(p.uvs):null};
                const all=m.unlike(mesh); const drawn=m.cornersOf(mesh,all); const of=(name)=>[...drawn.getAttribute(name).array];
                return {corner:[...all.corner],index:[...drawn.getIndex().array],position:of("position"),normal:of("normal"),piece:of("aPiece"),look:of("aLook"),uv:of("aUv")}', $mesh = self::corners($pieces, $withUvs));
            $unlike = [];
            foreach ($read['index'] as $c => $drawn) {
                $at = 3 * $drawn;
                self::assertSame(array_slice($mesh['positions'], 3 * $c, 3), array_slice($read['position'], $at, 3));
                self::assertSame(array_slice($mesh['normals'], 4 * $c, 4), [...array_slice($read['normal'], $at, 3), $read['look'][$drawn]]);
                self::assertSame($withUvs ? array_slice($mesh['uvs'], 2 * $c, 2) : [0, 0], array_slice($read['uv'], 2 * $drawn, 2));
                self::assertTrue($c >= $mesh['first'][$read['piece'][$drawn]] && $c < $mesh['first'][$read['piece'][$drawn]] + $mesh['corners'][$read['piece'][$drawn]], 'of its piece');
                self::assertSame($mesh['vertices'][$c], $mesh['vertices'][$read['corner'][$drawn]]);
                $unlike[json_encode([$mesh['vertices'][$c], array_slice($mesh['normals'], 4 * $c, 4), array_slice($mesh['uvs'] ?? [], 2 * $c, $withUvs ? 2 : 0)])] = true;
            }
            self::assertCount(count($mesh['vertices']), $read['index']);
            self::assertCount(count($unlike), $read['corner'], 'none twice');
            self::assertLessThan(0.8 * count($mesh['vertices']), count($unlike), 'some are alike');
        }
    }

    /** The browser reads of a frames file what the server reads, by ranges, as it grows, and within a budget of bytes. */
    public function testFramesAreReadAsTheServerReadsThem(): void
    {
        [$path] = self::written();
        $reader = BakeReader::open($path);
        $places = [];
        for ($n = 1; $n <= $reader->frames(); $n++) {
            [$end] = $reader->endOf($n);
            [$begin] = $reader->endOf($n - 1);
            $places[] = [$begin, $end - $begin];
        }
        $seen = self::module('tracks/FrameStore.ts', self::BYTES . self::SERVER . '
            const store = new m.FrameStore("b1");
            const before = store.at(1, "a", "pose") ?? null;
            serve(file, 2);
            const first = await store.fetchTo(2);
            const have = store.have;
            const again = await store.fetchTo(2);
            serve(file, input.places.length);
            while (await store.fetchTo(input.places.length));
            const all = (frame) => Object.fromEntries(["pose", "weight", "flags", "vertices", "life", "scale"].map((kind) => [kind, [...(store.at(frame, kind === "vertices" || kind === "life" || kind === "scale" ? "b" : "a", kind) ?? [])]]));
            const read = Object.fromEntries([30, 1, 12, 25, 13, 3].map((f) => [f, all(f)]));
            const small = new m.FrameStore("b2", 4000);
            while (await small.fetchTo(input.places.length));
            const dropped = small.at(29, "a", "pose") ?? null;
            await new Promise((done) => setTimeout(done, 50));
            const back = [...(small.at(29, "a", "pose") ?? [])].slice(0, 3);
            return { before, first, have, again, all: store.have, read, asked, late: [...store.at(99, "a", "pose")].slice(0, 3), dropped, back, counts: [store.count("a", "pose"), store.count("b", "vertices"), store.count("x", "pose")] }', ['file' => base64_encode((string) file_get_contents($path)), 'places' => $places]);
        self::assertNull($seen['before']);
        self::assertSame([true, 2, false, 30], [$seen['first'], $seen['have'], $seen['again'], $seen['all']]);
        self::assertSame([4, 5, 0], $seen['counts']);
        foreach ($seen['read'] as $number => $kinds) {
            $frame = $reader->frame((int) $number);
            self::assertNotNull($frame);
            foreach ($kinds as $kind => $values) {
                self::assertEqualsWithDelta($frame->of(in_array($kind, ['vertices', 'life', 'scale'], true) ? 'b' : 'a', $kind), $values, 1e-6, "{$kind} of frame {$number}");
            }
        }
        self::assertEqualsWithDelta(array_slice($reader->frame(30)?->poses() ?? [], 0, 3), $seen['late'], 1e-6);
        self::assertNull($seen['dropped'], 'more than the budget is not kept');
        self::assertEqualsWithDelta(array_slice($reader->frame(29)?->poses() ?? [], 0, 3), $seen['back'], 1e-6, 'what is needed again is fetched again');
    }

    /** Whatever byte a file is cut or damaged at, no torn frame is shown. */
    public function testTornAndDamagedFramesAreNotShown(): void
    {
        [$path] = self::written(4);
        $reader = BakeReader::open($path);
        [$from] = $reader->endOf(3);
        [$to] = $reader->endOf(4);
        $seen = self::module('tracks/format.ts', self::BYTES . '
            const file = new Uint8Array(bytes(input.file));
            const record = file.slice(input.from, input.to);
            const shown = { whole: m.isSound(record, 4), other: m.isSound(record, 3), cut: 0, damaged: 0 };
            for (let n = 0; n < record.length; n++) if (m.isSound(record.slice(0, n), 4)) shown.cut++;
            for (let n = 0; n < record.length; n++) { const copy = record.slice(); copy[n] ^= 1; if (m.isSound(copy, 4)) shown.damaged++; }
            return { ...shown, crc: m.crc32(new TextEncoder().encode("123456789")) }', ['file' => base64_encode((string) file_get_contents($path)), 'from' => $from, 'to' => $to]);
        self::assertSame(['whole' => true, 'other' => false, 'cut' => 0, 'damaged' => 0], array_slice($seen, 0, 4));
        // The check value of this checksum as catalogued for CRC-32/ISO-HDLC, and PHP's.
        self::assertSame(0xCBF43926, $seen['crc']);
    }

    /** Between frames: places in a straight line; turns as npm three's slerp, which for small angles is the same. */
    public function testMotionBetweenFrames(): void
    {
        [$one, $two] = [self::frame(1), self::frame(2)];
        $seen = self::module('viewport/poses.ts', '
            const { Quaternion } = await import("three");
            const frames = input.map((poses) => new Float32Array(poses));
            // The same turn may be written with the opposite sign: it must not go the long way round.
            for (let p = 0; p < 3; p++) for (const c of [3, 4, 5, 6]) frames[1][7 * p + c] = -frames[1][7 * p + c];
            const flags = new Float32Array([0, 1, 2]);
            const scale = [new Float32Array([1, 1, 1, 1, 1, 1, 2, 2, 2]), new Float32Array([1, 1, 1, 3, 3, 3, 2, 2, 2])];
            const life = [new Float32Array([1, 1, 0]), new Float32Array([0, 1, 0])];
            const of = { pose: frames, scale, life };
            const store = { have: 2, at: (f, prop, kind) => kind === "flags" ? flags : of[kind]?.[Math.min(Math.max(1, Math.floor(f)), 2) - 1] };
            const out = new Float32Array(36);
            m.bakedPoses(out, store, "a", 1.25);
            const expected = [0, 1, 2].map((p) => new Quaternion().fromArray(frames[0], 7 * p + 3).slerp(new Quaternion().fromArray(frames[1], 7 * p + 3), 0.25).toArray());
            const whole = new Float32Array(36);
            m.bakedPoses(whole, store, "a", 2);
            return { out: [...out], expected, whole: [...whole] }', [$one->poses(), $two->poses()]);
        foreach ([0, 1, 2] as $piece) {
            foreach ([0, 1, 2] as $c) {
                self::assertEqualsWithDelta(0.75 * $one->poses()[7 * $piece + $c] + 0.25 * $two->poses()[7 * $piece + $c], $seen['out'][12 * $piece + $c], 1e-6);
                self::assertEqualsWithDelta($two->poses()[7 * $piece + $c], $seen['whole'][12 * $piece + $c], 1e-6);
            }
            $dot = 0.0;
            foreach ([0, 1, 2, 3] as $c) {
                $dot += $seen['out'][12 * $piece + 4 + $c] * $seen['expected'][$piece][$c];
            }
            self::assertEqualsWithDelta(1.0, abs($dot), 1e-5);
            self::assertEqualsWithDelta([0.0, 1.0, 4.0][$piece], $seen['out'][12 * $piece + 3], 1e-9, 'fresh faces of what has let go; what is gone is hidden');
            $size = [0.75, 1.5, 0.0][$piece];
            self::assertEqualsWithDelta([$size, $size, $size], array_slice($seen['out'], 12 * $piece + 8, 3), 1e-6, 'size times life, between the frames');
        }
    }

    public function testPullingApartGoesOutFromTheMiddle(): void
    {
        $pieces = self::pieces();
        $turn = Quaternion::fromDegrees(30.0, 40.0, -20.0);
        $seen = self::module('viewport/poses.ts', self::BYTES . '
            const { parsePieces } = await (await import(input.load)).load("viewport/mesh.ts");
            const mesh = parsePieces(bytes(input.mesh), "x");
            const at = (pull, chosen = [], hidden = []) => { const out = new Float32Array(12 * mesh.count); m.restPoses(out, mesh, input.pose, pull, chosen, hidden); return [...out]; };
            return { together: at(0), apart: at(0.5), marked: at(0, [1], [2, 999]) }', ['load' => 'file://' . __DIR__ . '/load.mjs', 'mesh' => base64_encode(self::encoded($pieces, false)), 'pose' => [1.0, 2.0, 3.0, ...$turn]]);
        $volume = 0.0;
        $middle = [0.0, 0.0, 0.0];
        foreach ($pieces as $piece) {
            $volume += $piece->mass->volume;
            foreach ([0, 1, 2] as $c) {
                $middle[$c] += $piece->mass->volume * $piece->mass->centre[$c];
            }
        }
        foreach ($pieces as $k => $piece) {
            $centre = $piece->mass->centre;
            $place = Quaternion::rotate($turn, $centre);
            $out = Quaternion::rotate($turn, array_map(static fn (int $c): float => 1.5 * $centre[$c] - 0.5 * $middle[$c] / $volume, [0, 1, 2]));
            foreach ([0, 1, 2] as $c) {
                self::assertEqualsWithDelta($place[$c] + $c + 1.0, $seen['together'][12 * $k + $c], 1e-5);
                self::assertEqualsWithDelta($out[$c] + $c + 1.0, $seen['apart'][12 * $k + $c], 1e-5);
            }
            self::assertSame([0, 1], [$seen['together'][12 * $k + 3], $seen['apart'][12 * $k + 3]], 'fresh faces are seen when it is apart');
            self::assertSame(1 + 2 * (int) ($k === 1) + 4 * (int) ($k === 2), $seen['marked'][12 * $k + 3]);
        }
    }

    /** npm three's raycaster on the same pieces: the same piece at the same distance. */
    public function testThePieceUnderThePointerIsThatOfThree(): void
    {
        $pieces = self::pieces();
        $stream = RandomStream::named(8, 'rays');
        $rays = [];
        for ($k = 0; $k < 300; $k++) {
            $from = array_map(static fn (float $d): float => 3.0 * $d, $stream->direction());
            $to = array_map(static fn (float $d): float => 0.5 * $d, $stream->direction());
            $way = [$to[0] - $from[0], $to[1] - $from[1], $to[2] - $from[2]];
            $length = sqrt($way[0] ** 2 + $way[1] ** 2 + $way[2] ** 2);
            $rays[] = [$from, array_map(static fn (float $w): float => $w / $length, $way)];
        }
        $seen = self::module('viewport/poses.ts', self::BYTES . '
            const THREE = await import("three");
            const { parsePieces } = await (await import(input.load)).load("viewport/mesh.ts");
            const mesh = parsePieces(bytes(input.mesh), "x");
            const poses = new Float32Array(12 * mesh.count);
            m.restPoses(poses, mesh, [0.1, -0.2, 0.3, ...input.turn], 0.3, [], [0]);
            for (let k = 0; k < mesh.count; k++) poses.fill(0.7 + 0.1 * k, 12 * k + 8, 12 * k + 11);
            const radii = new Float32Array(mesh.count);
            const objects = [];
            for (let k = 0; k < mesh.count; k++) {
                const from = 3 * mesh.first[k];
                const part = mesh.positions.slice(from, from + 3 * mesh.corners[k]);
                for (let i = 0; i < part.length; i += 3) radii[k] = Math.max(radii[k], Math.hypot(part[i], part[i + 1], part[i + 2]));
                const geometry = new THREE.BufferGeometry().setAttribute("position", new THREE.BufferAttribute(part, 3));
                const object = new THREE.Mesh(geometry, new THREE.MeshBasicMaterial({ side: THREE.DoubleSide }));
                object.position.fromArray(poses, 12 * k);
                object.quaternion.fromArray(poses, 12 * k + 4);
                object.scale.fromArray(poses, 12 * k + 8);
                object.updateMatrixWorld();
                if (k > 0) objects.push(Object.assign(object, { name: String(k) }));
            }
            return input.rays.map(([from, way]) => {
                const ours = m.pick(mesh, poses, radii, from, way);
                const theirs = new THREE.Raycaster(new THREE.Vector3(...from), new THREE.Vector3(...way)).intersectObjects(objects)[0];
                return [ours && [ours.piece, ours.distance, ...ours.normal], theirs ? [Number(theirs.object.name), theirs.distance] : null];
            })', ['load' => 'file://' . __DIR__ . '/load.mjs', 'mesh' => base64_encode(self::encoded($pieces, false)), 'turn' => Quaternion::fromDegrees(10.0, 20.0, 30.0), 'rays' => $rays]);
        $hits = 0;
        foreach ($seen as [$ours, $theirs]) {
            self::assertSame($theirs === null, $ours === null);
            if ($ours !== null) {
                $hits++;
                self::assertSame($theirs[0], $ours[0]);
                self::assertNotSame(0, $ours[0], 'what is hidden cannot be picked');
                self::assertEqualsWithDelta($theirs[1], $ours[1], 1e-4);
                self::assertEqualsWithDelta(1.0, $ours[2] ** 2 + $ours[3] ** 2 + $ours[4] ** 2, 1e-6);
            }
        }
        self::assertGreaterThan(100, $hits);
    }

    /** @return list<Piece> */
    private static function pieces(): array
    {
        return (new Breaker())->break(Normals::computed(Solids::box(1.0, 0.8, 0.6, 2)), new CellularPattern(7, 2, 0.3))->pieces;
    }

    /**
     * Pieces as the picture has them; a vertex's place is its number, so that none is taken for another.
     *
     * @param list<Piece> $pieces
     *
     * @return array{first: list<int>, corners: list<int>, vertices: list<int>, positions: list<int>, normals: list<int>, uvs: list<int>|null}
     */
    private static function corners(array $pieces, bool $withUvs): array
    {
        $mesh = ['first' => [], 'corners' => [], 'vertices' => [], 'positions' => [], 'normals' => [], 'uvs' => $withUvs ? [] : null];
        $vertices = 0;
        foreach ($pieces as $piece) {
            $mesh['first'][] = count($mesh['vertices']);
            $mesh['corners'][] = count($piece->mesh->triangles);
            foreach ($piece->mesh->triangles as $c => $v) {
                $v += $vertices;
                $mesh['vertices'][] = $v;
                array_push($mesh['positions'], $v, 2 * $v, -$v);
                array_push($mesh['normals'], ...array_map(static fn (float $n): int => (int) round(127.0 * $n), array_slice($piece->mesh->normals ?? [], 3 * $c, 3)), ...[$piece->mesh->looks[intdiv($c, 3)] ?? 0]);
                if ($withUvs) {
                    array_push($mesh['uvs'], intdiv($c, 12), $v % 3);
                }
            }
            $vertices += $piece->mesh->vertexCount();
        }

        return $mesh;
    }

    /** @param list<Piece> $pieces */
    private static function encoded(array $pieces, bool $withUvs): string
    {
        return DisplayMesh::encode(
            array_map(static fn (Piece $p): TriangleMesh => $p->mesh, $pieces),
            array_map(static fn (Piece $p): array => $p->mass->centre, $pieces),
            array_map(static fn (Piece $p): float => $p->mass->volume, $pieces),
            $withUvs,
        );
    }

    private static function frame(int $number): Frame
    {
        $poses = [];
        foreach ([0, 1, 2] as $piece) {
            array_push($poses, 0.1 * $number + $piece, $number * $number * 0.25, -1.5 * $piece, ...Quaternion::fromDegrees(4.0 * $number + 20.0 * $piece, 3.0 * $number, 0.0));
        }

        return new Frame($number, [new Track('a', Track::POSE, 3)], [$poses], []);
    }

    /** @return array{string, list<Frame>} a frames file with every kind of track */
    private static function written(int $count = 30): array
    {
        $tracks = [new Track('a', Track::POSE, 4), new Track('a', Track::WEIGHT, 4), new Track('a', Track::FLAGS, 4), new Track('b', Track::VERTICES, 5), new Track('b', Track::LIFE, 6), new Track('b', Track::SCALE, 6)];
        $path = sys_get_temp_dir() . '/yard-store-' . getmypid();
        $writer = BakeWriter::create($path, new Manifest(24.0, $count, hash('sha256', 'x'), $tracks));
        $frames = [];
        foreach (range(1, $count) as $number) {
            $poses = self::frame($number)->poses();
            // One rests, one moves only now and then.
            array_push($poses, 9.0, 8.0, 0.1 * intdiv($number, 7), 0.0, 0.0, 0.0, 1.0);
            $vertices = array_map(static fn (int $k): float => sin($k + 0.1 * $number), range(1, 15));
            $life = array_map(static fn (int $k): float => $k < $number ? 1.0 : 0.0, range(1, 6));
            $frames[] = $frame = new Frame($number, $tracks, [$poses, [0.0, 0.2, $number / 30, 1.0], [0, 1, 2, 3], $vertices, $life, array_fill(0, 18, 0.5 + $number)], ['released' => 1.0]);
            $writer->append($frame);
        }
        $writer->close();

        return [$path, $frames];
    }
}
