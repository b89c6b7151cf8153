<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\HandOff;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Light;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\HandOff\Exporters;
use YardBreak\Core\HandOff\Looks;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** The light of a shot: where it falls, and that others read it so. */
final class LightsTest extends TestCase
{
    /** @param array<string, mixed> $lights */
    private static function shot(array $lights): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 12, 'lights' => $lights, 'props' => [
            ['id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 1]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
        ]]);
    }

    /** @return array{float, float, float} */
    private static function way(Light $light, int $frame = 1): array
    {
        return Quaternion::rotate($light->rotationAt((float) $frame), [0.0, 0.0, -1.0]);
    }

    public function testItFallsFromWhereItComes(): void
    {
        $all = [
            [0, 0, [0.0, 0.0, -1.0]], [90, 0, [-1.0, 0.0, 0.0]], [180, 0, [0.0, 0.0, 1.0]], [270, 0, [1.0, 0.0, 0.0]],
            [123, 90, [0.0, -1.0, 0.0]], [90, 45, [-M_SQRT1_2, -M_SQRT1_2, 0.0]],
        ];
        foreach ($all as [$angle, $height, $way]) {
            $sun = self::shot(['sunAngle' => $angle, 'sunHeight' => $height])->lights->on(12)['sun'];
            self::assertEqualsWithDelta($way, self::way($sun), 1e-12, "from {$angle}, {$height} high");
        }
        $keyed = self::shot(['sunAngle' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 11, 'value' => 180]]], 'sunHeight' => 0])->lights->on(12)['sun'];
        self::assertEqualsWithDelta([-1.0, 0.0, 0.0], self::way($keyed, 6), 1e-12, 'half round');
    }

    public function testWhatIsNeverOnIsNotThere(): void
    {
        self::assertSame(['sun', 'fill'], array_keys(self::shot([])->lights->on(12)));
        self::assertSame(['rim'], array_keys(self::shot(['sun' => 0, 'fill' => 0, 'rim' => ['keys' => [['frame' => 8, 'value' => 0, 'ease' => 'hold'], ['frame' => 9, 'value' => 1]]]])->lights->on(12)));
        $this->expectException(BadDocument::class);
        self::shot(['sunColour' => 'red']);
    }

    public function testItChangesNothingOfWhatMoves(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        self::assertSame($pipeline->motionHash(self::shot([])), $pipeline->motionHash(self::shot(['sun' => 0, 'sky' => 3, 'rimColour' => '#ff0000'])));
    }

    /** By the Khronos validator and three's loader (KHR_lights_punctual), and in USD's text by the names of UsdLux. */
    #[Group('thorough')]
    public function testItIsHandedOff(): void
    {
        $folder = sys_get_temp_dir() . '/yard-lights-' . getmypid();
        mkdir($folder);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $shot = self::shot(['sunAngle' => ['keys' => [['frame' => 1, 'value' => 10], ['frame' => 12, 'value' => 130]]], 'fill' => 0, 'rim' => 1.5, 'rimColour' => '#ff8000', 'sky' => ['keys' => [['frame' => 1, 'value' => M_PI, 'ease' => 'linear'], ['frame' => 11, 'value' => 0]]]]);
        Baker::bake($pipeline, $shot, "{$folder}/frames");
        foreach (['glb', 'usda'] as $format) {
            $out = fopen("{$folder}/out.{$format}", 'w+b');
            self::assertNotFalse($out);
            Exporters::of($format, $pipeline)->write($shot, BakeReader::open("{$folder}/frames"), $out, 'out', [], static function (): void {
            });
            fclose($out);
        }
        exec('node ' . escapeshellarg(__DIR__ . '/../../../tests/Browser/check-glb.mjs') . ' ' . escapeshellarg("{$folder}/out.glb") . ' 24 1 7 12 2>&1', $lines, $status);
        $usd = (string) file_get_contents("{$folder}/out.usda");
        array_map(unlink(...), glob("{$folder}/*") ?: []);
        rmdir($folder);
        self::assertSame(0, $status, implode("\n", $lines));
        $report = json_decode((string) end($lines), true);
        self::assertIsArray($report);
        self::assertSame(0, $report['errors'], (string) json_encode($report['messages']));
        foreach ([1, 7, 12] as $frame) {
            self::assertSame(['sun', 'rim'], array_keys($report['lights'][$frame]));
            foreach ($shot->lights->on(12) as $name => $light) {
                self::assertEqualsWithDelta(self::way($light, $frame), $report['lights'][$frame][$name]['way'], 1e-6, "{$name} at {$frame}");
            }
        }
        self::assertEqualsWithDelta(1.5, $report['lights'][7]['rim']['intensity'], 1e-9);
        self::assertEqualsWithDelta(Looks::linear('#ff8000'), $report['lights'][7]['rim']['colour'], 1e-6);

        self::assertSame(2, preg_match_all('/def DistantLight "(\w+)"/', $usd, $named));
        self::assertSame(['sun', 'rim'], $named[1]);
        self::assertStringContainsString('float inputs:intensity = 1.5', $usd);
        self::assertSame(1, preg_match('/def DomeLight "sky".*?inputs:intensity\.timeSamples = \{([^}]*)\}/s', $usd, $samples));
        self::assertSame(1, preg_match('/\b1: 1,/', $samples[1]), 'from all around pi times as much');
        self::assertSame(1, preg_match('/\b6: 0\.5,/', $samples[1]));
    }
}
