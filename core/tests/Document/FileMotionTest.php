<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Document;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\GlbScene;
use YardBreak\Core\Math\FewKeys;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\FileMotion;
use YardBreak\Core\Stage\Kind\HasMotion;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\MovingGlb;

/** What moves in a file moves the same by the keys that are taken from it. */
final class FileMotionTest extends TestCase
{
    private const FPS = 24.0;

    private string $file = '';

    protected function tearDown(): void
    {
        @unlink($this->file);
    }

    private function assets(string $bytes): Assets
    {
        $this->file = (string) tempnam(sys_get_temp_dir(), 'moves');
        file_put_contents($this->file, $bytes);

        return new ListedAssets([str_repeat('a', 64) => $this->file]);
    }

    /**
     * @param array<string, mixed> $settings of its file
     * @param array<string, mixed> $more of the prop
     */
    private static function shot(array $settings, array $more = []): Shot
    {
        return Shot::read(['version' => 2, 'props' => [['id' => 'car', 'name' => 'Car', 'source' => ['kind' => 'file', 'file' => ['asset' => str_repeat('a', 64), 'fileName' => 'drive.glb', ...$settings]], 'break' => ['pattern' => 'whole'], ...$more]]]);
    }

    /** @return iterable<string, array{array<string, mixed>, array<string, mixed>}> */
    public static function files(): iterable
    {
        yield 'as in the file' => [[], []];
        yield 'about its middle' => [['origin' => 'middle'], []];
        yield 'z is up, in centimetres, from below its middle' => [['up' => 'z', 'units' => 'cm', 'origin' => 'base'], []];
        yield 'scaled to a size' => [['origin' => 'middle'], ['prepare' => ['size' => 5.0]]];
    }

    /**
     * @param array<string, mixed> $settings
     * @param array<string, mixed> $more
     */
    #[DataProvider('files')]
    public function testAThingIsWhereTheFileHasIt(array $settings, array $more): void
    {
        $bytes = MovingGlb::drive();
        $assets = $this->assets($bytes);
        $prop = self::shot($settings, $more)->props[0];
        $source = Kinds::source('file');
        self::assertTrue(is_subclass_of($source, HasMotion::class));
        $keys = $source::motion($prop->source->settings, $assets, '', $prop->prepare->float('size'), self::FPS);
        $moved = self::shot($settings, $more + $keys)->props[0];
        $mesh = (new Pipeline(new MemoryStore(), $assets))->prepared($moved);

        $scene = GlbScene::open($bytes);
        $rest = $this->places($scene, null);
        $order = [];
        foreach ($mesh->x as $v => $x) {
            $order[] = [$x, $mesh->y[$v], $mesh->z[$v]];
        }
        $times = ($settings['units'] ?? 'm') === 'cm' ? 0.01 : 1.0;
        $times *= isset($more['prepare']) ? 5.0 / max(array_map(static fn (int $axis): float => max(array_column($rest, $axis)) - min(array_column($rest, $axis)), [0, 1, 2])) : 1.0;
        $upright = static fn (array $at): array => ($settings['up'] ?? 'y') === 'z' ? [$times * $at[0], $times * $at[2], -$times * $at[1]] : [$times * $at[0], $times * $at[1], $times * $at[2]];
        for ($frame = 1; $frame <= 49; $frame++) {
            $theirs = array_map($upright, $this->places($scene, 1.0 + ($frame - 1) / self::FPS));
            $ours = array_map(static fn (array $at): array => $moved->transform->carried($at, (float) $frame), $order);
            // Vertices in one place are joined: each of theirs has one of ours.
            foreach ($theirs as $at) {
                $near = min(array_map(static fn (array $own): float => max(abs($own[0] - $at[0]), abs($own[1] - $at[1]), abs($own[2] - $at[2])), $ours));
                self::assertLessThan(max(5e-5, 1e-3 * $times), $near, "frame {$frame}");
            }
        }
        // From 1 to 3 seconds, and no more keys than straight stretches have ends.
        self::assertIsArray($keys['position']['x']);
        self::assertSame(49, max(array_column($keys['position']['x']['keys'], 'frame')));
        self::assertIsArray($keys['scale']['x']);
        self::assertSame([1, 13, 25, 49], array_column($keys['scale']['x']['keys'], 'frame'));
    }

    /** @return list<array{float, float, float}> */
    private function places(GlbScene $scene, ?float $seconds): array
    {
        $places = [];
        foreach (array_keys($scene->parts) as $part) {
            foreach (array_chunk($scene->placed($part, $scene->nodes->places($seconds), $seconds)[0], 3) as [$x, $y, $z]) {
                $places[] = [$x, $y, $z];
            }
        }

        return $places;
    }

    public function testACameraSeesWhatItSeesInTheFile(): void
    {
        $scene = GlbScene::open(MovingGlb::drive());
        $motion = new FileMotion($scene);
        self::assertSame([[4, 'shot camera', true], [5, 'witness', false]], array_map(array_values(...), $motion->cameras()));
        self::assertEqualsWithDelta(1.85, $motion->aspect(5), 1e-12);
        $settings = $motion->camera(4, self::FPS, 0.5, 3.0, 16 / 9);
        $camera = Shot::read(['version' => 2, 'camera' => ['on' => true, 'aspect' => '16:9', ...$settings], 'props' => []])->camera;
        self::assertNotNull($camera);
        for ($frame = 1; $frame <= 49; $frame++) {
            $m = $scene->nodes->places(1.0 + ($frame - 1) / self::FPS)[4];
            $pose = $camera->poseAt((float) $frame);
            self::assertEqualsWithDelta([0.5 * $m[12], 0.5 * $m[13], 0.5 * $m[14]], array_slice($pose, 0, 3), 1e-3, "frame {$frame}");
            $turn = [$pose[3], $pose[4], $pose[5], $pose[6]];
            self::assertEqualsWithDelta([$m[0], $m[1], $m[2]], Quaternion::rotate($turn, [1.0, 0.0, 0.0]), 1e-3, "to the right, frame {$frame}");
            self::assertEqualsWithDelta([$m[4], $m[5], $m[6]], Quaternion::rotate($turn, [0.0, 1.0, 0.0]), 1e-3, "up, frame {$frame}");
        }
        self::assertEqualsWithDelta(0.6, $camera->heightAt(1.0), 1e-5);
        $still = $motion->camera(5, self::FPS, 1.0, 3.0, 16 / 9);
        self::assertSame(['x' => 4.0, 'y' => 2.0, 'z' => 4.0], $still['position'], 'what stands still has no keys');
    }

    public function testWhatKeysCannotTellIsSaid(): void
    {
        $this->expectException(BadFile::class);
        $this->expectExceptionMessage('bends');
        (new FileMotion(GlbScene::open(MovingGlb::creature())))->thing(self::FPS, Quaternion::IDENTITY, 1.0, [0.0, 0.0, 0.0]);
    }

    public function testStraightStretchesNeedTheirEndsOnly(): void
    {
        $values = array_map(static fn (int $k): float => $k < 20 ? 0.5 * $k : ($k < 50 ? 10.0 : 10.0 - 0.1 * ($k - 50)), range(0, 100));
        self::assertSame([0, 20, 50, 100], FewKeys::of($values, 1e-6, 500));
        self::assertSame([0], FewKeys::of(array_fill(0, 40, 3.0), 1e-6, 500));
        $wave = array_map(static fn (int $k): float => sin(0.3 * $k), range(0, 999));
        self::assertGreaterThan(900, count(FewKeys::of($wave, 1e-6, 5000)));
        self::assertLessThanOrEqual(100, count(FewKeys::of($wave, 1e-6, 100)), 'rather farther off than too many');
    }
}
