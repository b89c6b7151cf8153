<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;

/** GLB files in which something moves, put together by hand. */
final class MovingGlb
{
    private const TYPES = [1 => 'SCALAR', 3 => 'VEC3', 4 => 'VEC4', 16 => 'MAT4'];

    private string $binary = '';

    /** @var list<array<string, mixed>> */
    private array $views = [];

    /** @var list<array<string, mixed>> */
    private array $accessors = [];

    /**
     * @param list<float|int> $values
     * @param string $code how `pack` writes one: g, V, v or C
     */
    public function accessor(array $values, int $components, string $code = 'g', bool $normalized = false): int
    {
        $this->accessors[] = ['bufferView' => $this->view(pack("{$code}*", ...$values)), 'count' => intdiv(count($values), $components), 'type' => self::TYPES[$components], 'componentType' => ['g' => 5126, 'V' => 5125, 'v' => 5123, 'C' => 5121][$code]]
            + ($normalized ? ['normalized' => true] : [])
            + ($components === 1 || $components === 3 ? ['min' => self::least($values, $components, 'min'), 'max' => self::least($values, $components, 'max')] : []);

        return count($this->accessors) - 1;
    }

    /**
     * Nothing but at some places.
     *
     * @param array<int, array{float, float, float}> $values by place
     */
    public function sparse(int $count, array $values): int
    {
        $all = [0.0, 0.0, 0.0, ...array_merge(...array_values($values))];
        $this->accessors[] = ['count' => $count, 'type' => 'VEC3', 'componentType' => 5126, 'min' => self::least($all, 3, 'min'), 'max' => self::least($all, 3, 'max'), 'sparse' => [
            'count' => count($values),
            'indices' => ['bufferView' => $this->view(pack('v*', ...array_keys($values))), 'componentType' => 5123],
            'values' => ['bufferView' => $this->view(pack('g*', ...array_merge(...array_values($values))))],
        ]];

        return count($this->accessors) - 1;
    }

    private function view(string $bytes): int
    {
        $this->views[] = ['buffer' => 0, 'byteOffset' => strlen($this->binary), 'byteLength' => strlen($bytes)];
        $this->binary .= $bytes . str_repeat("\0", -strlen($bytes) & 3);

        return count($this->views) - 1;
    }

    /**
     * @param list<float|int> $values
     * @param 'min'|'max' $which
     *
     * @return list<float|int>
     */
    private static function least(array $values, int $components, string $which): array
    {
        $found = [];
        for ($c = 0; $c < $components; $c++) {
            $own = array_filter($values, static fn (int $k): bool => $k % $components === $c, ARRAY_FILTER_USE_KEY);
            $found[] = $own === [] || ! is_finite((float) array_sum($own)) ? 0.0 : ($which === 'min' ? min($own) : max($own));
        }

        return $found;
    }

    /** @return array<string, int> */
    public function attributes(TriangleMesh $mesh): array
    {
        $places = [];
        foreach ($mesh->x as $v => $x) {
            array_push($places, $x, $mesh->y[$v], $mesh->z[$v]);
        }

        return ['POSITION' => $this->accessor($places, 3)];
    }

    /** @param array<string, mixed> $json */
    public function file(array $json): string
    {
        $text = json_encode(['asset' => ['version' => '2.0'], 'scene' => 0, 'buffers' => [['byteLength' => strlen($this->binary)]], 'bufferViews' => $this->views, 'accessors' => $this->accessors, ...$json], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
        $text .= str_repeat(' ', -strlen($text) & 3);

        return 'glTF' . pack('VV', 2, 28 + strlen($text) + strlen($this->binary)) . pack('VV', strlen($text), 0x4E4F534A) . $text . pack('VV', strlen($this->binary), 0x004E4942) . $this->binary;
    }

    /** @return list<float> a few rotations in a row */
    public static function turns(float ...$degrees): array
    {
        return array_merge(...array_map(static fn (float $angle): array => array_values(Quaternion::fromDegrees(0.3 * $angle, 0.0, $angle)), $degrees));
    }

    /**
     * A bar on two bones, whose armature is a hundred times too small, with a bulge; beside it a ball that flies along a spline,
     * jumps in size, and hangs on a thing that turns.
     */
    public static function creature(): string
    {
        $glb = new self();
        $bar = Solids::box(0.4, 2.0, 0.4, 4);
        $joints = $weights = $bulge = [];
        foreach ($bar->y as $v => $y) {
            $share = max(0.0, min(1.0, $y + 0.5));
            array_push($joints, 0, 1, 0, 0);
            array_push($weights, (int) round(255 * (1.0 - $share)), 255 - (int) round(255 * (1.0 - $share)), 0, 0);
            if ($y > 0.9) {
                $bulge[$v] = [$bar->x[$v], 0.3, $bar->z[$v]];
            }
        }
        // 100 times as large as the bones stand in the world.
        $undo = static fn (float $y): array => [100.0, 0.0, 0.0, 0.0, 0.0, 100.0, 0.0, 0.0, 0.0, 0.0, 100.0, 0.0, 0.0, -100.0 * $y, 0.0, 1.0];
        $times = $glb->accessor([0.5, 1.0, 2.0], 1);

        return $glb->file([
            'scenes' => [['nodes' => [0, 3, 4]]],
            'nodes' => [
                ['name' => 'armature', 'scale' => [0.01, 0.01, 0.01], 'translation' => [0.0, -1.0, 0.0], 'children' => [1]],
                ['name' => 'lower', 'children' => [2]],
                ['name' => 'upper', 'translation' => [0.0, 100.0, 0.0]],
                // What a skin carries is not carried by its node.
                ['name' => 'bar', 'mesh' => 0, 'skin' => 0, 'translation' => [7.0, 0.0, 0.0], 'weights' => [0.25]],
                ['name' => 'arm', 'rotation' => array_values(Quaternion::fromDegrees(0.0, 30.0, 0.0)), 'children' => [5]],
                ['name' => 'ball', 'mesh' => 1, 'translation' => [2.0, 0.0, 0.0]],
            ],
            'skins' => [['joints' => [1, 2], 'inverseBindMatrices' => $glb->accessor([...$undo(-1.0), ...$undo(0.0)], 16)]],
            'meshes' => [
                ['primitives' => [['attributes' => $glb->attributes($bar) + ['JOINTS_0' => $glb->accessor($joints, 4, 'C'), 'WEIGHTS_0' => $glb->accessor($weights, 4, 'C', true)], 'indices' => $glb->accessor($bar->triangles, 1, 'V'), 'targets' => [['POSITION' => $glb->sparse($bar->vertexCount(), $bulge)]]]]],
                ['primitives' => [['attributes' => $glb->attributes($ball = Solids::ball(0.3, 4)), 'indices' => $glb->accessor($ball->triangles, 1, 'v')]]],
            ],
            'animations' => [
                ['samplers' => [
                    ['input' => $times, 'output' => $glb->accessor(self::turns(0.0, 80.0, -40.0), 4)],
                    ['input' => $times, 'output' => $glb->accessor([0.0, 1.0, 0.5], 1)],
                ], 'channels' => [['sampler' => 0, 'target' => ['node' => 2, 'path' => 'rotation']], ['sampler' => 1, 'target' => ['node' => 3, 'path' => 'weights']]]],
                ['samplers' => [
                    ['input' => $times, 'interpolation' => 'CUBICSPLINE', 'output' => $glb->accessor([0, 0, 0, 2, 0, 0, 1, 2, 0, 0, 1, 0, 3, 1, 0, 0, -1, 1, 2, 0, 0, 2, 0, 1, 0, 0, 0], 3)],
                    ['input' => $times, 'interpolation' => 'STEP', 'output' => $glb->accessor([1, 1, 1, 1.5, 1, 0.5, 2, 2, 2], 3)],
                    ['input' => $times, 'output' => $glb->accessor(self::turns(0.0, 170.0, 350.0), 4)],
                ], 'channels' => [['sampler' => 0, 'target' => ['node' => 5, 'path' => 'translation']], ['sampler' => 1, 'target' => ['node' => 5, 'path' => 'scale']], ['sampler' => 2, 'target' => ['node' => 4, 'path' => 'rotation']]]],
            ],
        ]);
    }

    /** A cube of two parts on a car that drives, climbs, turns over and grows; a camera on a crane that leans, and a still one. */
    public static function drive(): string
    {
        $glb = new self();
        $box = Solids::box(1.0, 1.0, 1.0, 1);
        $primitive = ['attributes' => $glb->attributes($box), 'indices' => $glb->accessor($box->triangles, 1, 'V')];
        $times = $glb->accessor([1.0, 1.5, 2.0, 3.0], 1);

        return $glb->file([
            'scenes' => [['nodes' => [0, 3, 5]]],
            'nodes' => [
                ['name' => 'car', 'translation' => [1.0, 0.0, 0.0], 'children' => [1, 2]],
                ['name' => 'left', 'mesh' => 0, 'translation' => [-0.6, 0.5, 0.0], 'rotation' => array_values(Quaternion::fromDegrees(0.0, 20.0, 0.0))],
                ['name' => 'right', 'mesh' => 0, 'translation' => [0.6, 0.5, 0.0], 'scale' => [0.5, 1.0, 0.5]],
                ['name' => 'crane', 'children' => [4], 'translation' => [0.0, 1.0, 0.0]],
                ['name' => 'shot camera', 'camera' => 0, 'translation' => [0.0, 0.5, 6.0]],
                ['name' => 'witness', 'camera' => 1, 'translation' => [4.0, 2.0, 4.0]],
            ],
            'meshes' => [['primitives' => [$primitive]]],
            'cameras' => [['type' => 'perspective', 'perspective' => ['yfov' => 0.6, 'aspectRatio' => 16 / 9, 'znear' => 0.1]], ['type' => 'perspective', 'perspective' => ['yfov' => 0.9, 'aspectRatio' => 1.85, 'znear' => 0.1]]],
            'animations' => [['samplers' => [
                ['input' => $times, 'output' => $glb->accessor([1, 0, 0, 2, 0.5, 0, 3, 0.5, -1, 5, 0, -2], 3)],
                ['input' => $times, 'output' => $glb->accessor(self::turns(0.0, 100.0, 200.0, 380.0), 4)],
                ['input' => $times, 'output' => $glb->accessor([1, 1, 1, 1, 1, 1, 2, 2, 2, 1.5, 1.5, 1.5], 3)],
                ['input' => $times, 'output' => $glb->accessor(self::turns(0.0, 25.0, 60.0, 200.0), 4)],
            ], 'channels' => [
                ['sampler' => 0, 'target' => ['node' => 0, 'path' => 'translation']], ['sampler' => 1, 'target' => ['node' => 0, 'path' => 'rotation']], ['sampler' => 2, 'target' => ['node' => 0, 'path' => 'scale']],
                ['sampler' => 3, 'target' => ['node' => 3, 'path' => 'rotation']],
            ]]],
        ]);
    }
}
