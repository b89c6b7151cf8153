<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\HandOff;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\HandOff\Cord;
use YardBreak\Core\HandOff\Exporters;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Ropes and springs are in the files, where the bake has their ends, as long as they hold. */
#[Group('thorough')]
final class CordTest extends TestCase
{
    private const CUT = 6;

    private string $file;

    protected function setUp(): void
    {
        $this->file = sys_get_temp_dir() . '/yard-cord-' . getmypid();
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob("{$this->file}*") ?: []);
    }

    /** @return array{Pipeline, Shot, BakeReader} a crate on a slack rope that is cut, a lid on a spring, and a gate on a hinge */
    private function bake(): array
    {
        $box = static fn (string $id, float $x): array => [
            'id' => $id, 'name' => ucfirst($id), 'source' => ['kind' => 'box', 'box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 1]],
            'position' => ['x' => $x, 'y' => 1.0], 'break' => ['pattern' => 'whole'], 'motion' => ['mover' => 'rigid', 'rigid' => ['before' => 'falls']],
        ];
        $shot = Shot::read(['version' => 2, 'frames' => 10, 'props' => [$box('crate', 0.0), $box('lid', 2.0), $box('gate', 4.0)], 'joints' => [
            ['id' => 'rope', 'name' => 'Old rope', 'joint' => 'rope', 'prop' => 'crate', 'cut' => 'frame', 'frame' => self::CUT, 'rope' => ['from' => ['x' => 0.1, 'y' => 1.15], 'to' => ['x' => 1.1, 'y' => 1.25], 'slack' => 10]],
            ['id' => 'spring', 'name' => 'Spring', 'joint' => 'spring', 'prop' => 'lid', 'spring' => ['from' => ['x' => 2.0, 'y' => 1.15], 'to' => ['x' => 2.0, 'y' => 2.0]]],
            ['id' => 'hinge', 'name' => 'Hinge', 'joint' => 'hinge', 'prop' => 'gate', 'hinge' => ['at' => ['x' => 4.0, 'y' => 1.15]]],
        ], 'placing' => ['on' => true, 'position' => ['y' => 0.5]]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        Baker::bake($pipeline, $shot, $this->file);

        return [$pipeline, $shot, BakeReader::open($this->file)];
    }

    public function testATubeGoesFromEndToEnd(): void
    {
        [, $shot, $bake] = $this->bake();
        [$rope, $spring] = $cords = Cord::all($shot, $bake);
        self::assertSame(['Old rope', 'Spring'], array_column($cords, 'name'), 'a hinge has nothing to be seen');
        foreach ([1, 4, 10] as $frame) {
            foreach ($cords as $cord) {
                $ends = $bake->frame($frame)?->of($cord->id, Track::ENDS) ?? [];
                self::assertEqualsWithDelta(array_slice($ends, 0, 6), array_slice($cord->placesAt($frame), -6), 1e-6);
            }
        }
        $middles = static fn (Cord $cord): array => array_map(
            static fn (array $ring): array => [array_sum(array_column($ring, 0)) / 6, array_sum(array_column($ring, 1)) / 6, array_sum(array_column($ring, 2)) / 6],
            array_chunk(array_chunk(array_slice($cord->placesAt(1), 0, -6), 3), 6),
        );
        $line = $middles($rope);
        $length = 0.0;
        foreach (array_slice($line, 1) as $k => $at) {
            $length += Vector::distance($line[$k], $at);
        }
        // A flat parabola of sag s over a span a is a + 8 s2 / (3 a) long (from memory).
        self::assertEqualsWithDelta(1.1 * sqrt(1.0 + 0.1 ** 2), $length, 0.02, 'as long as the rope is made');
        $mass = MassProperties::of($rope->mesh);
        // Six triangles a cross-section.
        self::assertEqualsWithDelta(3.0 * sin(M_PI / 3.0) * 0.006 ** 2 * $length, $mass->volume, 0.03 * $mass->volume);
        $edges = [];
        foreach (array_chunk($spring->mesh->triangles, 3) as [$a, $b, $c]) {
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$from, $to]) {
                $edges["{$from} {$to}"] = ($edges["{$from} {$to}"] ?? 0) + 1;
            }
        }
        foreach ($edges as $edge => $count) {
            self::assertSame([1, 1], [$count, $edges[implode(' ', array_reverse(explode(' ', $edge)))] ?? 0], 'closed, all round the same way');
        }
        self::assertGreaterThan(0.05, max(array_map(static fn (array $at): float => Vector::distance($at, [2.0, $at[1], 0.0]), $middles($spring))), 'wound');
    }

    public function testTheyAreInTheFilesAsLongAsTheyHold(): void
    {
        [$pipeline, $shot, $bake] = $this->bake();
        [$rope] = Cord::all($shot, $bake);
        self::assertSame([true, false], [$rope->holds(self::CUT - 1), $rope->holds(self::CUT)]);
        $obj = fn (int $frame): string => (string) file_get_contents($this->export($pipeline, $shot, $bake, 'obj', ['frame' => $frame]));
        self::assertStringContainsString("\no Old rope", str_replace('_', ' ', $obj(3)));
        self::assertStringNotContainsString('rope', $obj(self::CUT));
        self::assertStringContainsString("\no Spring", $obj(self::CUT));

        $glb = $this->node('check-glb.mjs', $this->export($pipeline, $shot, $bake, 'glb'), '24 1 3 8');
        self::assertSame(0, $glb['errors'], (string) json_encode($glb['messages']));
        self::assertContains('Ropes and springs', $glb['materials']);

        $usd = $this->node('check-usd.mjs', $this->export($pipeline, $shot, $bake, 'usda'), '1 3 8');
        $path = '/shot/joints/rope';
        foreach ([1, 3, 8] as $frame) {
            $places = array_chunk($rope->placesAt($frame), 3);
            self::assertCount(count($places), $usd['meshes'][$path][$frame]);
            foreach ($places as $k => [$x, $y, $z]) {
                self::assertEqualsWithDelta([$x, $y + 0.5, $z], $usd['meshes'][$path][$frame][$k], 1e-5, 'where the whole is placed');
            }
        }
        self::assertSame([true, true, false], array_values($usd['visible'][$path]));
        self::assertSame([true, true, true], array_values($usd['visible']['/shot/joints/spring']));
    }

    /** @param array<string, int> $options */
    private function export(Pipeline $pipeline, Shot $shot, BakeReader $bake, string $format, array $options = []): string
    {
        $out = fopen("{$this->file}.{$format}", 'wb');
        self::assertNotFalse($out);
        Exporters::of($format, $pipeline)->write($shot, $bake, $out, 'out', $options, static fn (int $done, int $of) => self::assertLessThanOrEqual($of, $done));
        fclose($out);

        return "{$this->file}.{$format}";
    }

    /** @return array<mixed> */
    private function node(string $script, string $file, string $more): array
    {
        exec('node ' . escapeshellarg(__DIR__ . "/../../../tests/Browser/{$script}") . ' ' . escapeshellarg($file) . " {$more} 2>&1", $lines, $status);
        self::assertSame(0, $status, implode("\n", $lines));

        return (array) json_decode((string) end($lines), true);
    }
}
