<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\GlbReader;
use YardBreak\Core\Format\GlbScene;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Tests\Fixture\MovingGlb;
use YardBreak\Core\Tests\Fixture\Node;

/** Moving files as npm three plays them: nodes, splines, skins, targets. */
final class GlbMotionTest extends TestCase
{
    private const THREE = <<<'JS'
        globalThis.self = globalThis;
        const THREE = await import('three');
        const { GLTFLoader } = await import('three/examples/jsm/loaders/GLTFLoader.js');
        const gltf = await new GLTFLoader().parseAsync(Uint8Array.from(Buffer.from(input.file, 'base64')).buffer, '');
        const mixer = new THREE.AnimationMixer(gltf.scene);
        gltf.animations.filter((_, k) => input.clip === null || k === input.clip).forEach((clip) => { const action = mixer.clipAction(clip); action.setLoop(THREE.LoopOnce, 1); action.clampWhenFinished = true; action.play(); });
        const places = () => {
            gltf.scene.updateMatrixWorld(true);
            const out = [];
            gltf.scene.traverse((mesh) => {
                if (!mesh.isMesh) return;
                for (let v = 0; v < mesh.geometry.attributes.position.count; v++) {
                    const at = mesh.getVertexPosition(v, new THREE.Vector3()).applyMatrix4(mesh.matrixWorld);
                    out.push(at.x, at.y, at.z);
                }
            });
            return out;
        };
        return [places(), ...input.seconds.map((seconds) => { mixer.setTime(seconds); return places(); })];
        JS;

    /** @return list<float> */
    private static function places(GlbScene $scene, ?float $seconds): array
    {
        $nodes = $scene->nodes->places($seconds);

        return array_merge(...array_map(static fn (int $part): array => $scene->placed($part, $nodes, $seconds)[0], array_keys($scene->parts)));
    }

    #[Group('thorough')]
    public function testItMovesAsThreeHasIt(): void
    {
        foreach ([[MovingGlb::creature(), null], [MovingGlb::creature(), 0], [MovingGlb::creature(), 1], [MovingGlb::drive(), null]] as [$file, $clip]) {
            $scene = GlbScene::open($file, $clip === null ? '' : 'animation ' . ($clip + 1));
            $seconds = array_map(static fn (int $k): float => 0.083 * $k, range(0, (int) ($scene->nodes->ends() / 0.083)));
            $theirs = Node::run('three', self::THREE, ['file' => base64_encode($file), 'seconds' => $seconds, 'clip' => $clip]);
            self::assertCount(count($seconds) + 1, $theirs);
            foreach ($theirs as $k => $places) {
                self::assertEqualsWithDelta($places, self::places($scene, $k === 0 ? null : $seconds[$k - 1]), 3e-6, "moment {$k}");
            }
            self::assertTrue($scene->moves());
        }
    }

    /** Of several animations one may be chosen: by its name, or by its number where names are the same or missing. */
    public function testOneOfItsAnimationsPlays(): void
    {
        $rise = static function (MovingGlb $glb, float $seconds, float ...$heights): array {
            $times = array_map(static fn (int $k): float => 1.0 + $seconds * $k, array_keys($heights));

            return ['samplers' => [['input' => $glb->accessor($times, 1), 'output' => $glb->accessor(array_merge(...array_map(static fn (float $y): array => [0.0, $y, 0.0], $heights)), 3)]], 'channels' => [['sampler' => 0, 'target' => ['node' => 0, 'path' => 'translation']]]];
        };
        $glb = new MovingGlb();
        $box = Solids::box(1.0, 1.0, 1.0, 1);
        $file = $glb->file([
            'scenes' => [['nodes' => [0, 1]]],
            'nodes' => [['mesh' => 0], ['name' => 'beside']],
            'meshes' => [['primitives' => [['attributes' => $glb->attributes($box), 'indices' => $glb->accessor($box->triangles, 1, 'V')]]]],
            'animations' => [
                ['name' => 'hop', ...$rise($glb, 0.5, 0.0, 1.0, 0.0)],
                ['name' => ' hop ', ...$rise($glb, 2.0, 0.0, 3.0)],
                $rise($glb, 1.0, 0.0, -1.0),
                ['name' => 'elsewhere', 'samplers' => [['input' => $glb->accessor([0.0, 1.0], 1), 'output' => $glb->accessor([0, 0, 0, 1, 0, 0], 3)]], 'channels' => [['sampler' => 0, 'target' => ['node' => 1, 'path' => 'translation']]]],
            ],
        ]);
        self::assertSame(['hop', 'hop (2)', 'animation 3', 'elsewhere'], GlbScene::open($file)->nodes->clips());
        foreach (['' => [0.0, 2.0, 1.0], 'hop' => [1.0, 2.0, 1.0], 'hop (2)' => [1.0, 3.0, 0.75], 'animation 3' => [1.0, 2.0, -0.5]] as $clip => [$begins, $ends, $height]) {
            $scene = GlbScene::open($file, $clip);
            self::assertTrue($scene->moves());
            self::assertSame($begins, $scene->nodes->begins(), $clip);
            self::assertEqualsWithDelta($ends, $scene->nodes->ends(), 1e-6, $clip);
            self::assertEqualsWithDelta($height, $scene->nodes->places(1.5)[0][13], 1e-6, $clip);
        }
        self::assertFalse(GlbScene::open($file, 'elsewhere')->moves());
        $this->expectExceptionObject(new BadFile('The file has no animation “skip”. It has “hop”, “hop (2)”, “animation 3”, “elsewhere”.'));
        GlbScene::open($file, 'skip')->moves();
    }

    public function testASkinIsAtRestWhereItsBonesHaveIt(): void
    {
        $mesh = GlbReader::read(MovingGlb::creature());
        [$low, $high] = $mesh->bounds();
        // Not seven metres beside it, where its node stands, and not a hundred times too small.
        self::assertEqualsWithDelta([-0.25, -1.0], [$low[0], $low[1]], 1e-6);
        self::assertEqualsWithDelta(1.0 + 0.25 * 0.3, $high[1], 1e-6);
    }

    /** @return iterable<string, array{callable(MovingGlb): array<string, mixed>}> an animation that is wrong */
    public static function wrong(): iterable
    {
        yield 'keys that go back' => [static fn (MovingGlb $glb): array => ['input' => $glb->accessor([0.0, 2.0, 1.0], 1), 'output' => $glb->accessor(array_fill(0, 9, 0.0), 3)]];
        yield 'fewer values than keys' => [static fn (MovingGlb $glb): array => ['input' => $glb->accessor([0.0, 1.0, 2.0], 1), 'output' => $glb->accessor(array_fill(0, 6, 0.0), 3)]];
        yield 'no keys' => [static fn (MovingGlb $glb): array => ['input' => 99, 'output' => $glb->accessor(array_fill(0, 6, 0.0), 3)]];
        yield 'a value that is no number' => [static fn (MovingGlb $glb): array => ['input' => $glb->accessor([0.0, 1.0], 1), 'output' => $glb->accessor([0.0, 0.0, NAN, 0.0, 0.0, 0.0], 3)]];
    }

    /** @param callable(MovingGlb): array<string, mixed> $sampler */
    #[DataProvider('wrong')]
    public function testWhatIsWrongIsSaidToWhoAsksHowItMoves(callable $sampler): void
    {
        $glb = new MovingGlb();
        $scene = GlbScene::open($glb->file([
            'animations' => [['samplers' => [$sampler($glb)], 'channels' => [['sampler' => 0, 'target' => ['node' => 0, 'path' => 'translation']]]]],
            'scenes' => [['nodes' => [0]]], 'nodes' => [['mesh' => 0]],
            'meshes' => [['primitives' => [['attributes' => ['POSITION' => $glb->accessor([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0], 3)]]]]],
        ]));
        self::assertSame(1, GlbReader::mesh($scene)->triangleCount(), 'at rest it can be had');
        $this->expectException(BadFile::class);
        $scene->nodes->places(0.5);
    }
}
