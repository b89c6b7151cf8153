<?php

declare(strict_types=1);

namespace Tests\Interface;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\FramesFile;
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

/** What the server writes, as the picture reads it, and what is worked out from it there. */
final class ViewportTest extends TestCase
{
    use Modules;

    /** Turns base64 into an ArrayBuffer. */
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

    /** Frames are fetched by ranges while they are being written; what was fetched is what was written. */
    public function testFramesAreFetchedAsTheyAreWritten(): void
    {
        $file = FramesFile::header(3, 24.0, 5, hash('sha256', 'x'));
        $frames = [];
        foreach (range(1, 5) as $number) {
            $frames[] = self::frame($number);
            $file .= FramesFile::record($frames[$number - 1]);
        }
        $seen = self::module('viewport/frames.ts', self::BYTES . '
            const file = bytes(input);
            const asked = [];
            globalThis.fetch = async (path, init) => {
                const range = init.headers.Range ?? init.headers.get?.("Range");
                asked.push([path, range]);
                const [from, to] = range.slice(6).split("-").map(Number);
                return new Response(file.slice(from, to + 1), { status: 206 });
            };
            const store = new m.FrameStore("b1", 3);
            const before = store.at(1) ?? null;
            const first = await store.fetchTo(2);
            const have = store.have;
            const again = await store.fetchTo(2);
            await store.fetchTo(5);
            return { before, first, have, again, all: store.have, asked, at: [1, 2, 3, 4, 5].map((f) => [...store.at(f)].slice(0, 27)),
                between: [...store.at(3.9)][0], late: [...store.at(99)][0], early: [...store.at(-3)][0],
                released: [1, 2, 3, 4, 5].map((f) => [0, 1, 2].map((p) => store.released(f, p))) }', base64_encode($file));
        self::assertNull($seen['before']);
        self::assertSame([true, 2, false, 5], [$seen['first'], $seen['have'], $seen['again'], $seen['all']]);
        $record = FramesFile::recordBytes(3);
        self::assertSame(['/api/bakes/b1/frames', 'bytes=64-' . (63 + 2 * $record)], $seen['asked'][0]);
        self::assertSame('bytes=' . (64 + 2 * $record) . '-' . (63 + 5 * $record), $seen['asked'][1][1]);
        self::assertCount(2, $seen['asked']);
        foreach ($frames as $k => $frame) {
            foreach ([0, 1, 2] as $piece) {
                foreach (range(0, 6) as $c) {
                    self::assertEqualsWithDelta($frame->poses[7 * $piece + $c], $seen['at'][$k][9 * $piece + $c], 1e-6);
                }
                self::assertEqualsWithDelta($frame->weights[$piece], $seen['at'][$k][9 * $piece + 7], 1e-6);
                self::assertSame(($frame->flags[$piece] & Frame::RELEASED) !== 0, $seen['released'][$k][$piece]);
            }
        }
        self::assertEqualsWithDelta($frames[2]->poses[0], $seen['between'], 1e-6, 'the frame that has begun');
        self::assertEqualsWithDelta($frames[4]->poses[0], $seen['late'], 1e-6);
        self::assertEqualsWithDelta($frames[0]->poses[0], $seen['early'], 1e-6);
    }

    /** Between frames: places in a straight line; turns as npm three's slerp, which for small angles is the same. */
    public function testMotionBetweenFrames(): void
    {
        $values = [];
        foreach ([self::frame(1), self::frame(2)] as $frame) {
            foreach ([0, 1, 2] as $piece) {
                array_push($values, ...array_slice($frame->poses, 7 * $piece, 7), ...[$frame->weights[$piece], 0.0]);
            }
        }
        $seen = self::module('viewport/poses.ts', '
            const { Quaternion } = await import("three");
            const frames = [new Float32Array(input.slice(0, 27)), new Float32Array(input.slice(27))];
            // The same turn may be written with the opposite sign: it must not go the long way round.
            for (const c of [3, 4, 5, 6]) frames[1][c] = -frames[1][c];
            const store = { have: 2, at: (f) => frames[Math.min(Math.max(1, Math.floor(f)), 2) - 1], released: (f, p) => p === 1 };
            const out = new Float32Array(24);
            m.bakedPoses(out, store, 0, 3, 1.25);
            const expected = [0, 1, 2].map((p) => new Quaternion().fromArray(frames[0], 9 * p + 3).slerp(new Quaternion().fromArray(frames[1], 9 * p + 3), 0.25).toArray());
            const whole = new Float32Array(8);
            m.bakedPoses(whole, store, 2, 1, 2);
            return { out: [...out], expected, whole: [...whole] }', $values);
        [$one, $two] = [self::frame(1), self::frame(2)];
        foreach ([0, 1, 2] as $piece) {
            foreach ([0, 1, 2] as $c) {
                self::assertEqualsWithDelta(0.75 * $one->poses[7 * $piece + $c] + 0.25 * $two->poses[7 * $piece + $c], $seen['out'][8 * $piece + $c], 1e-6);
            }
            $dot = 0.0;
            foreach ([0, 1, 2, 3] as $c) {
                $dot += $seen['out'][8 * $piece + 4 + $c] * $seen['expected'][$piece][$c];
            }
            self::assertEqualsWithDelta(1.0, abs($dot), 1e-5);
            self::assertEqualsWithDelta($piece === 1 ? 1.0 : 0.0, $seen['out'][8 * $piece + 3], 1e-9, 'fresh faces of what has let go');
        }
        foreach ([0, 1, 2] as $c) {
            self::assertEqualsWithDelta($two->poses[14 + $c], $seen['whole'][$c], 1e-6);
        }
    }

    public function testPullingApartGoesOutFromTheMiddle(): void
    {
        $pieces = self::pieces();
        $turn = Quaternion::fromDegrees(30.0, 40.0, -20.0);
        $seen = self::module('viewport/poses.ts', self::BYTES . '
            const { parsePieces } = await (await import(input.load)).load("viewport/mesh.ts");
            const mesh = parsePieces(bytes(input.mesh), "x");
            const at = (pull, chosen = [], hidden = []) => { const out = new Float32Array(8 * mesh.count); m.restPoses(out, mesh, input.pose, pull, chosen, hidden); return [...out]; };
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
                self::assertEqualsWithDelta($place[$c] + $c + 1.0, $seen['together'][8 * $k + $c], 1e-5);
                self::assertEqualsWithDelta($out[$c] + $c + 1.0, $seen['apart'][8 * $k + $c], 1e-5);
            }
            self::assertSame([0, 1], [$seen['together'][8 * $k + 3], $seen['apart'][8 * $k + 3]], 'fresh faces are seen when it is apart');
            self::assertSame(1 + 2 * (int) ($k === 1) + 4 * (int) ($k === 2), $seen['marked'][8 * $k + 3]);
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
            const poses = new Float32Array(8 * mesh.count);
            m.restPoses(poses, mesh, [0.1, -0.2, 0.3, ...input.turn], 0.3, [], [0]);
            const radii = new Float32Array(mesh.count);
            const objects = [];
            for (let k = 0; k < mesh.count; k++) {
                const from = 3 * mesh.first[k];
                const part = mesh.positions.slice(from, from + 3 * mesh.corners[k]);
                for (let i = 0; i < part.length; i += 3) radii[k] = Math.max(radii[k], Math.hypot(part[i], part[i + 1], part[i + 2]));
                const geometry = new THREE.BufferGeometry().setAttribute("position", new THREE.BufferAttribute(part, 3));
                const object = new THREE.Mesh(geometry, new THREE.MeshBasicMaterial({ side: THREE.DoubleSide }));
                object.position.fromArray(poses, 8 * k);
                object.quaternion.fromArray(poses, 8 * k + 4);
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

        return new Frame($number, $poses, [0.1 * $number, 0.5, 1.0], [$number > 2 ? Frame::RELEASED : 0, Frame::RELEASED | Frame::ASLEEP, Frame::ASLEEP], 1, 2, 3.5);
    }
}
