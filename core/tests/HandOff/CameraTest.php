<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\HandOff;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\HandOff\Exporters;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

final class CameraTest extends TestCase
{
    /** @param array<string, mixed> $camera */
    private static function shot(array $camera): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 12, 'camera' => ['on' => true, ...$camera], 'props' => [
            ['id' => 'box', 'name' => 'Box', 'source' => ['box' => ['divisions' => 1]], 'break' => ['pattern' => 'whole']],
        ]]);
    }

    /**
     * Where a place is in the camera's picture: right and up of its middle, in halves of its height.
     *
     * @param array{float, float, float, float, float, float, float} $pose
     * @param array{float, float, float} $place
     *
     * @return array{float, float}
     */
    private static function seen(array $pose, float $height, array $place): array
    {
        [$x, $y, $z] = Quaternion::rotate(Quaternion::conjugate([$pose[3], $pose[4], $pose[5], $pose[6]]), [$place[0] - $pose[0], $place[1] - $pose[1], $place[2] - $pose[2]]);
        self::assertLessThan(0.0, $z, 'in front of it');
        $half = tan(0.5 * $height) * -$z;

        return [$x / $half, $y / $half];
    }

    public function testItLooksAtItsTargetUpright(): void
    {
        foreach ([[3.0, 1.0, 4.0], [-2.0, 5.0, -1.0], [0.0, 0.5, -3.0], [0.1, -2.0, 0.3]] as [$x, $y, $z]) {
            $camera = self::shot(['position' => ['x' => $x, 'y' => $y, 'z' => $z], 'target' => ['x' => 0.2, 'y' => 0.4, 'z' => 0.1]])->camera;
            self::assertNotNull($camera);
            $pose = $camera->poseAt(1.0);
            [$right, $up] = self::seen($pose, $camera->heightAt(1.0), [0.2, 0.4, 0.1]);
            self::assertEqualsWithDelta(0.0, $right, 1e-12);
            self::assertEqualsWithDelta(0.0, $up, 1e-12);
            [$right, $up] = self::seen($pose, $camera->heightAt(1.0), [0.2, 0.5, 0.1]);
            self::assertEqualsWithDelta(0.0, $right, 1e-12, 'what is above is above in the picture');
            self::assertGreaterThan(0.0, $up);
        }
    }

    /** Half the width of the picture at the distance of the focal length is half of 36 mm. */
    public function testTheFocalLengthSaysHowMuchIsSeen(): void
    {
        foreach (['16:9' => 16 / 9, '2.39:1' => 2.39, '1:1' => 1.0, '9:16' => 9 / 16] as $name => $aspect) {
            $camera = self::shot(['lens' => 50.0, 'aspect' => $name, 'position' => ['x' => 0, 'y' => 0, 'z' => 5.0], 'target' => ['x' => 0, 'y' => 0, 'z' => 0]])->camera;
            self::assertNotNull($camera);
            self::assertEqualsWithDelta($aspect, $camera->aspect, 1e-12);
            [$right] = self::seen($camera->poseAt(1.0), $camera->heightAt(1.0), [5.0 * 18.0 / 50.0, 0.0, 0.0]);
            self::assertEqualsWithDelta($aspect, $right, 1e-12, 'at the right edge of the picture');
        }
        // Leaned clockwise by a quarter, what was above lies to the left.
        $camera = self::shot(['roll' => 90, 'position' => ['x' => 0, 'y' => 0, 'z' => 5.0], 'target' => ['x' => 0, 'y' => 0, 'z' => 0]])->camera;
        self::assertNotNull($camera);
        [$right, $up] = self::seen($camera->poseAt(1.0), $camera->heightAt(1.0), [0.0, 1.0, 0.0]);
        self::assertLessThan(-0.1, $right);
        self::assertEqualsWithDelta(0.0, $up, 1e-12);
    }

    public function testItDecidesNothingOfTheMotion(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        self::assertSame($pipeline->motionHash(self::shot([])), $pipeline->motionHash(self::shot(['lens' => 85])));
        self::assertNull(self::shot(['on' => false])->camera);
    }

    /** By the Khronos validator and three's loader: where it stands, how it is turned, how much it sees. */
    #[Group('thorough')]
    public function testItIsHandedOff(): void
    {
        $folder = sys_get_temp_dir() . '/yard-camera-' . getmypid();
        mkdir($folder);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $shot = self::shot(['lens' => 24, 'aspect' => '2.39:1', 'position' => ['x' => ['keys' => [['frame' => 1, 'value' => -2], ['frame' => 12, 'value' => 3]]], 'y' => 1.5, 'z' => 2.0], 'target' => ['y' => 0.5]]);
        Baker::bake($pipeline, $shot, "{$folder}/frames");
        $out = fopen("{$folder}/out.glb", 'w+b');
        self::assertNotFalse($out);
        Exporters::of('glb', $pipeline)->write($shot, BakeReader::open("{$folder}/frames"), $out, 'out', [], static function (): void {
        });
        fclose($out);
        exec('node ' . escapeshellarg(__DIR__ . '/../../../tests/Browser/check-glb.mjs') . ' ' . escapeshellarg("{$folder}/out.glb") . ' 24 1 7 12 2>&1', $lines, $status);
        self::assertSame(0, $status, implode("\n", $lines));
        array_map(unlink(...), glob("{$folder}/*") ?: []);
        rmdir($folder);
        $report = json_decode((string) end($lines), true);
        self::assertIsArray($report);
        self::assertSame(0, $report['errors'], (string) json_encode($report['messages']));
        self::assertNotNull($shot->camera);
        foreach ([1, 7, 12] as $frame) {
            $pose = $shot->camera->poseAt($frame);
            self::assertEqualsWithDelta(array_slice($pose, 0, 3), $report['cameras'][$frame]['position'], 1e-6);
            $dot = 0.0;
            foreach (array_slice($pose, 3) as $k => $value) {
                $dot += $value * $report['cameras'][$frame]['turn'][$k];
            }
            self::assertEqualsWithDelta(1.0, abs($dot), 1e-6);
            self::assertEqualsWithDelta(rad2deg($shot->camera->heightAt((float) $frame)), $report['cameras'][$frame]['fov'], 1e-5);
            self::assertEqualsWithDelta(2.39, $report['cameras'][$frame]['aspect'], 1e-6);
        }
        self::assertNotEquals($report['cameras'][1]['position'], $report['cameras'][12]['position']);
    }

    /** A turntable: as far from what it looks at all the way, a quarter of the way from another side, and at its end where it began. */
    public function testItGoesRound(): void
    {
        $camera = self::shot(['position' => ['x' => 1, 'y' => 0.9, 'z' => 4], 'target' => ['x' => 1, 'y' => 0.5, 'z' => 2], 'orbit' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 13, 'value' => 360]]]])->camera;
        self::assertNotNull($camera);
        foreach ([1 => [1.0, 4.0], 4 => [3.0, 2.0], 7 => [1.0, 0.0], 10 => [-1.0, 2.0], 13 => [1.0, 4.0]] as $frame => [$x, $z]) {
            $pose = $camera->poseAt((float) $frame);
            self::assertEqualsWithDelta([$x, 0.9, $z], array_slice($pose, 0, 3), 1e-12, "frame {$frame}");
            self::assertEqualsWithDelta([0.0, 0.0], self::seen($pose, $camera->heightAt(1.0), [1.0, 0.5, 2.0]), 1e-9);
        }
    }

    /** A lens with keys: twice as long sees half as much; USD has each length, a GLB the first. */
    public function testItZooms(): void
    {
        $shot = self::shot(['lens' => ['keys' => [['frame' => 1, 'value' => 24, 'ease' => 'linear'], ['frame' => 13, 'value' => 48]]]]);
        self::assertNotNull($shot->camera);
        self::assertEqualsWithDelta(2.0, tan(0.5 * $shot->camera->heightAt(1.0)) / tan(0.5 * $shot->camera->heightAt(13.0)), 1e-9);
        self::assertEqualsWithDelta(36.0 / $shot->camera->aspect / 36.0, 2.0 * tan(0.5 * $shot->camera->heightAt(7.0)), 1e-9, 'in the middle 36 mm');
        $file = sys_get_temp_dir() . '/yard-zoom-' . getmypid();
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        Baker::bake($pipeline, $shot, $file);
        $out = fopen('php://memory', 'w+b');
        self::assertNotFalse($out);
        Exporters::of('usda', $pipeline)->write($shot, BakeReader::open($file), $out, 'out', [], static fn (): null => null);
        array_map(unlink(...), glob("{$file}*") ?: []);
        rewind($out);
        self::assertSame(1, preg_match('/float focalLength\.timeSamples = \{([^}]*)\}/', (string) stream_get_contents($out), $samples));
        preg_match_all('/(\d+): ([\d.]+)/', $samples[1], $said, PREG_SET_ORDER);
        $lengths = array_column($said, 2, 1);
        // In tenths of a unit, as USD has it.
        self::assertEqualsWithDelta([0.24, 0.36], [(float) $lengths[1], (float) $lengths[7]], 1e-6);
    }
}
