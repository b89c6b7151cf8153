<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Document\DemoShot;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\HandOff\AnimatedGlb;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\MeshCodec;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\PackedMeshes;
use YardBreak\Core\Stage\Pipeline;

final class BakeTest extends TestCase
{
    private string $path;

    protected function setUp(): void
    {
        $this->path = sys_get_temp_dir() . '/yard-frames-' . getmypid();
    }

    protected function tearDown(): void
    {
        @unlink($this->path);
        @unlink(BakeReader::indexOf($this->path));
    }

    /** @return array<mixed> */
    private static function smallShot(): array
    {
        return [
            'version' => 1, 'frames' => 30,
            'props' => [[
                'id' => 'block', 'name' => 'Block',
                'source' => ['kind' => 'box', 'width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 2],
                'place' => ['y' => 0.6], 'break' => ['pieces' => 8, 'seed' => 3],
                'timing' => ['release' => 'contact'], 'motion' => ['before' => 'falls'],
            ]],
        ];
    }

    /** Bytes of the frames file. */
    private function bake(Pipeline $pipeline, Shot $shot): string
    {
        Baker::bake($pipeline, $shot, $this->path);

        return (string) file_get_contents($this->path);
    }

    #[Group('slow')]
    public function testOnlyWhatDependsOnAChangeRunsAgain(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $document = self::smallShot();
        $first = $this->bake($pipeline, Shot::read($document));
        self::assertEquals(['prop' => 1, 'break' => 1, 'motion' => 1], $pipeline->runner->runs);
        $document['gravity'] = 3.7;
        $second = $this->bake($pipeline, Shot::read($document));
        self::assertEquals(['prop' => 1, 'break' => 1, 'motion' => 2], $pipeline->runner->runs, 'gravity concerns motion only');
        self::assertNotSame($first, $second);
        $document['props'][0]['break']['seed'] = 4;
        $this->bake($pipeline, Shot::read($document));
        self::assertEquals(['prop' => 1, 'break' => 2, 'motion' => 3], $pipeline->runner->runs);
        $document['props'][0]['source']['width'] = 0.4;
        $this->bake($pipeline, Shot::read($document));
        self::assertEquals(['prop' => 2, 'break' => 3, 'motion' => 4], $pipeline->runner->runs);
    }

    public function testHashesIgnoreWhatDoesNotMatter(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $hash = static fn (array $document): string => $pipeline->motionHash(Shot::read($document));
        $document = self::smallShot();
        $before = $hash($document);
        $document['props'][0]['name'] = 'Brick';
        $document['props'][0]['look'] = ['outer' => '#000000'];
        $document['props'][0]['timing']['from'] = 20;
        $document['cues'] = [['id' => 'x', 'name' => 'X', 'frame' => 9]];
        self::assertSame($before, $hash($document));
        $document['props'][0]['motion']['friction'] = 0.2;
        self::assertNotSame($before, $hash($document));
    }

    public function testSameDocumentSameBytes(): void
    {
        $shot = Shot::read(self::smallShot());
        $store = new MemoryStore();
        $cold = $this->bake(new Pipeline($store, new NoAssets()), $shot);
        $warm = $this->bake(new Pipeline($store, new NoAssets()), $shot);
        self::assertSame(hash('sha256', $cold), hash('sha256', $warm), 'stored stage results are exact');
    }

    #[Group('slow')]
    public function testTheDemoJarBreaksOnTheFloorAndComesToRest(): void
    {
        $shot = Shot::read(DemoShot::document());
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $pieces = iterator_to_array($pipeline->broken($shot->props[0])->pieces);
        $last = null;
        $released = [];
        foreach ($pipeline->frames($shot) as $number => $frame) {
            $released[$number] = $frame->released();
            $last = $frame;
        }
        self::assertInstanceOf(Frame::class, $last);
        $jar = count($pieces);
        self::assertSame(0, $released[15], 'it falls whole');
        self::assertSame($jar, $released[30], 'and breaks on the floor');
        $broken = $pipeline->broken($shot->props[0]);
        for ($k = 0; $k < $jar; $k++) {
            self::assertSame(Frame::RELEASED | Frame::ASLEEP, $last->flags()[$k], "piece {$k} lies still");
            [$cx, $cy, $cz] = $broken->centre($k);
            $pose = array_slice($last->poses(), 7 * $k, 7);
            $high = -INF;
            $low = INF;
            foreach ($pieces[$k]->x as $i => $x) {
                $y = $pose[1] + Quaternion::rotate([$pose[3], $pose[4], $pose[5], $pose[6]], [$x - $cx, $pieces[$k]->y[$i] - $cy, $pieces[$k]->z[$i] - $cz])[1];
                $high = max($high, $y);
                $low = min($low, $y);
            }
            self::assertGreaterThan(0.0, $high, "piece {$k} is not below the floor");
            // Collision shapes are hulls of at most 40 corners: what they leave out may reach into the floor a little.
            self::assertGreaterThan(-0.004, $low, "piece {$k}");
        }
        self::assertSame(0, $last->moving());
    }

    /**
     * Breaking releases no energy: kinetic plus potential energy must not rise above what it was at first (conservation of
     * energy, any textbook). Without friction and with a strange seed an inherited impulse once hurled the shards away.
     */
    #[TestWith([7, 0.6])]
    #[TestWith([66077, 0.0])]
    #[Group('slow')]
    public function testLettingGoCreatesNoEnergy(int $seed, float $friction): void
    {
        $document = DemoShot::document();
        $document['frames'] = 36;
        $document['props'][0]['break']['cellular']['seed'] = $seed;
        $document['props'][0]['motion']['rigid']['friction'] = $friction;
        $shot = Shot::read($document);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $jar = $shot->props[0];
        $mass = array_map(static fn ($m): float => $m->volume * $jar->mover->settings->float('density'), $pipeline->broken($jar)->mass);
        $first = null;
        foreach ($pipeline->frames($shot) as $number => $frame) {
            $energy = $frame->kinetic();
            foreach ($mass as $k => $kilograms) {
                $energy += $kilograms * 9.80665 * $frame->poses()[7 * $k + 1];
            }
            $first ??= $energy;
            // A thousandth for the rounding of time steps, over all of it: from frame to frame it would add up.
            self::assertLessThan($first * 1.001, $energy, "frame {$number}");
        }
    }

    public function testPiecesInheritTheSpeedOfAKeyedProp(): void
    {
        $document = self::smallShot();
        $document['gravity'] = 0;
        $document['floor'] = ['on' => false];
        $document['props'][0]['motion'] = ['before' => 'held'];
        $document['props'][0]['timing'] = ['release' => 'frame', 'frame' => 13];
        $document['props'][0]['place'] = ['x' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 25, 'value' => 2]]], 'y' => 1];
        $frames = iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read($document)));
        $x = static fn (int $f): float => $frames[$f]->poses()[0];
        // 2 m in 24 frames of 1/24 s: 2 m/s, and on at that speed after letting go.
        self::assertEqualsWithDelta(1.0, $x(13) - $x(1), 1e-6);
        self::assertEqualsWithDelta(1.0, $x(25) - $x(13), 1e-3);
        self::assertSame(0, $frames[12]->released());
        self::assertGreaterThanOrEqual(8, $frames[13]->released());
    }

    public function testASweepLetsGoPieceByPieceAndTheHeldPartStays(): void
    {
        $document = self::smallShot();
        $document['frames'] = 40;
        $document['props'][0]['motion'] = ['before' => 'held'];
        $document['props'][0]['timing'] = ['release' => 'sweep', 'axis' => 'x', 'from' => 5, 'to' => 30, 'softness' => 0.05];
        $frames = iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read($document)));
        self::assertSame(0, $frames[5]->released());
        self::assertGreaterThan(0, $frames[18]->released());
        self::assertLessThan($frames[30]->released(), $frames[18]->released());
        foreach ($frames[18]->flags() as $k => $flags) {
            if (($flags & Frame::RELEASED) === 0) {
                self::assertEqualsWithDelta(array_slice($frames[1]->poses(), 7 * $k, 7), array_slice($frames[18]->poses(), 7 * $k, 7), 1e-9);
            }
        }
    }

    public function testGlbHoldsANodeAPieceWithTheFramesOfTheFile(): void
    {
        $shot = Shot::read(self::smallShot());
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $this->bake($pipeline, $shot);
        $bake = BakeReader::open($this->path);
        $out = fopen('php://memory', 'w+b');
        self::assertNotFalse($out);
        $steps = [];
        (new AnimatedGlb($pipeline))->write($shot, $bake, $out, 'block', [], static function (int $done, int $of) use (&$steps): void {
            $steps[] = [$done, $of];
        });
        rewind($out);
        $glb = (string) stream_get_contents($out);
        $pieces = $bake->manifest->pieces();
        self::assertSame([$pieces, $pieces], end($steps));
        $length = unpack('V', $glb, 12)[1] ?? 0;
        $json = json_decode(substr($glb, 20, $length), true);
        $binary = substr($glb, 20 + $length + 8);
        self::assertCount($pieces, array_filter($json['nodes'], static fn (array $node): bool => isset($node['mesh'])));
        self::assertSame(['sun', 'fill'], array_column(array_slice($json['nodes'], $pieces), 'name'), 'and its lights');
        self::assertSame('block-piece-001', $json['nodes'][0]['name']);
        foreach ([1, 12, 30] as $number) {
            $frame = $bake->frame($number);
            foreach ($json['animations'][0]['channels'] as $channel) {
                if ($channel['target']['path'] === 'translation') {
                    $accessor = $json['accessors'][$json['animations'][0]['samplers'][$channel['sampler']]['output']];
                    $at = $json['bufferViews'][$accessor['bufferView']]['byteOffset'] + 12 * ($number - 1);
                    self::assertSame(array_slice($frame?->poses() ?? [], 7 * $channel['target']['node'], 3), array_values(unpack('g3', $binary, $at) ?: []));
                }
            }
        }
    }

    #[Group('slow')]
    public function testMeshesAreStoredExactly(): void
    {
        $mesh = Normals::computed(Solids::torus(1.0, 1.0 / 3.0, 7, 5));
        self::assertEquals($mesh, MeshCodec::decode(MeshCodec::encode($mesh)));
        // Many fill several blocks, and one may be larger than a block; read from the middle of other bytes.
        $large = Normals::computed(Solids::ball(1.0, 60));
        $meshes = [$mesh, Solids::box(1, 1, 1), $large, $mesh, ...array_fill(0, 400, $mesh)];
        $packed = PackedMeshes::of($meshes);
        self::assertGreaterThan(2, count($packed->parts()));
        $read = PackedMeshes::read('before' . implode('', $packed->parts()), 6, count($meshes));
        foreach ([$packed, $read] as $list) {
            self::assertCount(count($meshes), $list);
            // Of so many numbers PHPUnit's own comparison takes a minute.
            self::assertTrue($large == $list->mesh(2));
            self::assertTrue($meshes == iterator_to_array($list));
        }
    }

    public function testChecksSayWhyNothingWouldMove(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $texts = static fn (array $document): string => implode(' | ', array_map(static fn ($f): string => $f->text, Checks::of(Shot::read($document), $pipeline)));
        self::assertSame('', $texts(self::smallShot()));
        $document = self::smallShot();
        $document['gravity'] = 0;
        self::assertStringContainsString('no force acts', $texts($document));
        $document = self::smallShot();
        $document['props'][0]['motion']['before'] = 'held';
        self::assertStringContainsString('nothing else that can touch it moves', $texts($document));
        $document['props'][0]['timing'] = ['release' => 'never'];
        self::assertStringContainsString('Nothing will move', $texts($document));
        $document['props'][0]['timing'] = ['release' => 'frame', 'frame' => 99];
        self::assertStringContainsString('the shot ends at frame 30', $texts($document));
        $document = self::smallShot();
        $document['props'][0]['place']['y'] = 0.0;
        self::assertStringContainsString('below the floor', $texts($document));
        $document['props'][0]['source']['kind'] = 'sheet';
        self::assertStringContainsString('not watertight', $texts($document));
        self::assertStringContainsString('empty', $texts(['version' => 1, 'props' => []]));
        $document = self::smallShot();
        $document['props'][0]['break'] = ['pattern' => 'drawn'];
        self::assertStringContainsString('No cut line has been drawn', $texts($document));
        $document['props'][0]['break'] = ['pattern' => 'flakes', 'flakes' => 5000];
        self::assertStringContainsString('5,000 flakes', $texts($document));
    }

    /** Flakes let go and fall, thick ones and sheets; the core under them stays where it is. */
    #[TestWith([0.004])]
    #[TestWith([0.0])]
    public function testFlakesFallOffACoreThatStays(float $thickness): void
    {
        $shot = Shot::read(['version' => 1, 'frames' => 24, 'props' => [
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'width' => 0.5, 'divisions' => 5], 'place' => ['y' => 2.0],
                'break' => ['pattern' => 'flakes', 'flakes' => 20, 'thickness' => $thickness, 'lift' => 0.006],
                'timing' => ['release' => 'frame', 'frame' => 4], 'motion' => ['before' => 'held', 'density' => 500]],
        ]]);
        $first = $last = null;
        foreach ((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot) as $frame) {
            $first ??= $frame;
            $last = $frame;
        }
        self::assertNotNull($first);
        self::assertNotNull($last);
        self::assertSame(array_slice($first->poses(), 0, 7), array_slice($last->poses(), 0, 7), 'the core');
        $fallen = 0;
        for ($k = 1, $pieces = count($last->flags()); $k < $pieces; $k++) {
            $fallen += $last->poses()[7 * $k + 1] < $first->poses()[7 * $k + 1] - 0.3 ? 1 : 0;
        }
        // Some on top lie on the core.
        self::assertGreaterThan(12, $fallen);
        self::assertSame(0, $last->flags()[0] & 1);
    }

    /** A still tube is hollow: a ball that fits its bore falls through and lies on the floor, one too wide stays on top. */
    #[TestWith([0.3, 0.15])]
    #[TestWith([0.6, 1.0])]
    #[Group('slow')]
    public function testSomethingFallsThroughAStillTube(float $width, float $height): void
    {
        $shot = Shot::read(['version' => 1, 'frames' => 60, 'props' => [
            ['id' => 'tube', 'name' => 'Tube', 'source' => ['kind' => 'lathe', 'profile' => [[0.25, 0.0], [0.4, 0.0], [0.4, 0.8], [0.25, 0.8]], 'divisions' => 4],
                'place' => ['y' => 0.02], 'break' => ['pattern' => 'whole'], 'timing' => ['release' => 'never'], 'motion' => ['before' => 'held']],
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'width' => $width, 'divisions' => 6],
                'place' => ['y' => 1.3], 'break' => ['pattern' => 'whole'], 'timing' => ['release' => 'never'], 'motion' => ['before' => 'falls', 'bounce' => 0.0]],
        ]]);
        $last = null;
        foreach ((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot) as $frame) {
            $last = $frame;
        }
        // On the bore's rim a ball of radius 0.3 lies sqrt(0.3^2 - 0.25^2) above it: at 0.986.
        self::assertEqualsWithDelta($height === 1.0 ? 0.82 + sqrt(0.09 - 0.0625) : 0.15, $last->poses()[8] ?? 0.0, 0.05);
    }

    /** Speed times mass of what strikes: a light ball at the speed of a heavy one does less. */
    public function testHowHardItIsStruckDecides(): void
    {
        $shot = static fn (float $impulse): Shot => Shot::read(['version' => 2, 'frames' => 8, 'forces' => [], 'props' => [
            ['id' => 'wall', 'name' => 'Wall', 'source' => ['kind' => 'box', 'box' => ['width' => 1.0, 'height' => 1.0, 'depth' => 0.1, 'divisions' => 1]], 'position' => ['y' => 2.0], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 6]],
                'release' => ['trigger' => 'contact', 'contact' => ['speed' => 0.5, 'impulse' => $impulse]], 'motion' => ['mover' => 'rigid', 'rigid' => ['before' => 'held']]],
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.2, 'divisions' => 4]], 'position' => ['y' => 2.0, 'z' => 0.5], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
                'motion' => ['mover' => 'rigid', 'rigid' => ['before' => 'falls', 'velocity' => ['z' => -6]]]],
        ]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $impulse = 6.0 * 1900.0 * $pipeline->broken($shot(0.0)->props[1])->mass[0]->volume;
        $released = [];
        // Its own damping takes a little of its speed.
        foreach ([0.0, 0.95, 1.0] as $part) {
            $frames = iterator_to_array($pipeline->frames($shot($part * $impulse)), false);
            $released[] = array_sum(array_map(static fn (int $flags): int => $flags & Frame::RELEASED, array_slice(end($frames)->flags(), 0, 6)));
        }
        self::assertSame([6, 6, 0], $released);
        // And who has asked for more than comes reads how hard it was.
        $hardest = static fn (string $of): float => max(array_map(static fn (Frame $frame): float => $frame->readout[$of], $frames));
        self::assertEqualsWithDelta(6.0, $hardest('speed'), 0.3);
        self::assertEqualsWithDelta($impulse, $hardest('impulse'), 0.05 * $impulse);
        self::assertCount(1, array_filter($frames, static fn (Frame $frame): bool => $frame->readout['speed'] > 5.0), 'only when it comes');
    }

    /** Only what is near the touch breaks off; the rest is held, and can be hit again. */
    public function testAThrownBallBreaksOffOnlyWhatIsNear(): void
    {
        $document = ['version' => 1, 'frames' => 30, 'props' => [
            ['id' => 'wall', 'name' => 'Wall', 'source' => ['kind' => 'box', 'width' => 2.0, 'height' => 1.0, 'depth' => 0.08, 'divisions' => 2],
                'place' => ['y' => 0.5], 'break' => ['pattern' => 'cellular', 'pieces' => 60, 'seed' => 2],
                'timing' => ['release' => 'contact', 'contactSpeed' => 0.5, 'within' => 0.35], 'motion' => ['before' => 'held']],
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'width' => 0.2, 'divisions' => 4],
                'place' => ['x' => 0.4, 'y' => 0.55, 'z' => 0.8], 'break' => ['pattern' => 'whole'], 'timing' => ['release' => 'never'],
                'motion' => ['before' => 'falls', 'density' => 4000, 'velocity' => ['z' => -6]]],
        ]];
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $shot = Shot::read($document);
        $wall = $pipeline->broken($shot->props[0]);
        $first = $last = null;
        foreach ($pipeline->frames($shot) as $frame) {
            $first ??= $frame;
            $last = $frame;
        }
        self::assertNotNull($first);
        self::assertNotNull($last);
        self::assertGreaterThan(3, $last->released());
        self::assertLessThan(30, $last->released());
        foreach ($wall->mass as $k => $mass) {
            $loose = ($last->flags()[$k] & Frame::RELEASED) !== 0;
            $away = hypot($mass->centre[0] - 0.4, $mass->centre[1] - 0.05);
            self::assertTrue(! $loose || $away < 0.6, "piece {$k}, {$away} m away, has let go");
            self::assertTrue($loose || $away > 0.15, "piece {$k}, {$away} m away, holds");
            if (! $loose) {
                self::assertEqualsWithDelta(array_slice($first->poses(), 7 * $k, 7), array_slice($last->poses(), 7 * $k, 7), 1e-12, 'held pieces stay');
            }
        }
    }
}
