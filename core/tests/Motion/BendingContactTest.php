<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Crossings;

/** Props of cloth and soft ones meet each other. */
final class BendingContactTest extends TestCase
{
    private const GRAVITY = ['id' => 'g', 'name' => 'Gravity', 'force' => 'gravity'];

    /**
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed>
     */
    private static function sheet(string $id, float $side, int $divisions, float $y, array $more = []): array
    {
        return ['id' => $id, 'name' => $id, 'source' => ['kind' => 'sheet', 'sheet' => ['width' => $side, 'depth' => $side, 'divisions' => $divisions]], 'position' => ['y' => $y], 'break' => ['pattern' => 'whole'],
            'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'cloth', 'cloth' => ['damping' => 1]], ...$more];
    }

    /**
     * @param array<string, mixed> $soft
     * @param array<string, mixed> $at
     *
     * @return array<string, mixed> a cube of 0.3 m
     */
    private static function cube(string $id, array $at, array $soft = []): array
    {
        return ['id' => $id, 'name' => $id, 'source' => ['kind' => 'box', 'box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 4]], 'position' => $at, 'break' => ['pattern' => 'whole'],
            'release' => ['trigger' => 'never'], 'motion' => ['mover' => 'soft', 'soft' => ['before' => 'falls', 'fineness' => 5, 'stiffness' => 100, 'drag' => 0, ...$soft]]];
    }

    /**
     * @param list<array<string, mixed>> $props
     * @param array<string, mixed> $more
     *
     * @return array<int, Frame>
     */
    private static function frames(int $count, array $props, array $more = []): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read(['version' => 2, 'frames' => $count, 'forces' => [self::GRAVITY], 'planes' => [], 'props' => $props, ...$more])));
    }

    /** @return array{float, float, float} lowest, mean and highest place along an axis */
    private static function along(Frame $frame, string $id, int $axis): array
    {
        $all = [];
        foreach ($frame->of($id, Track::VERTICES) as $k => $value) {
            if ($k % 3 === $axis) {
                $all[] = (float) $value;
            }
        }

        return [min([INF, ...$all]), array_sum($all) / max(1, count($all)), max([-INF, ...$all])];
    }

    /** @return list<int> of a sheet of so many divisions */
    private static function triangles(int $divisions): array
    {
        return array_values(Solids::sheet(1.0, 1.0, $divisions)->triangles);
    }

    /** A heavy soft cube falls on a sheet that lies on a floor: it presses it against the floor, and at no frame into it. */
    #[Group('slow')]
    public function testACubeDoesNotPressASheetIntoTheFloor(): void
    {
        $frames = self::frames(20, [self::sheet('sheet', 0.6, 16, 0.03), self::cube('cube', ['y' => 0.5], ['density' => 900])], ['planes' => [['id' => 'f', 'name' => 'F']]]);
        self::assertLessThan(0.25, self::along($frames[20], 'cube', 1)[1], 'it has landed');
        foreach ($frames as $number => $frame) {
            self::assertGreaterThan(0.004 - 1e-9, self::along($frame, 'sheet', 1)[0], "frame {$number}");
        }
    }

    /** A small sheet falls on one that is held at its edges: it lies on it, at every place above. */
    #[Group('slow')]
    public function testASheetLiesOnASheet(): void
    {
        $held = ['release' => ['trigger' => 'never'], 'motion' => ['mover' => 'cloth', 'cloth' => ['hold' => [['source' => 'rim', 'rim' => ['within' => 0.01, 'softness' => 0]]], 'damping' => 2]]];
        $frames = self::frames(60, [self::sheet('held', 1.0, 20, 0.5, $held), self::sheet('small', 0.4, 12, 0.8)]);
        self::assertGreaterThan(0.4, self::along($frames[60], 'small', 1)[0]);
        $mesh = $frames[60]->of('held', Track::VERTICES);
        foreach (array_chunk($frames[60]->of('small', Track::VERTICES), 3) as $k => [$x, $y, $z]) {
            $below = -INF;
            $near = INF;
            foreach (array_chunk($mesh, 3) as [$a, $b, $c]) {
                $far = ($a - $x) ** 2 + ($c - $z) ** 2;
                if ($far < $near) {
                    [$near, $below] = [$far, $b];
                }
            }
            self::assertGreaterThan($below - 0.006, $y, "vertex {$k}");
        }
        for ($n = 4; $n <= 60; $n += 4) {
            [$below, $above] = array_map(static fn (string $id): array => array_chunk(array_map(floatval(...), $frames[$n]->of($id, Track::VERTICES)), 3), ['held', 'small']);
            /** @var list<array{float, float, float}> $below */
            /** @var list<array{float, float, float}> $above */
            self::assertSame(0, Crossings::count($below, self::triangles(20), $above, self::triangles(12)), "crossings at frame {$n}");
        }
        self::assertLessThan(self::along($frames[1], 'held', 1)[1] - 0.01, self::along($frames[60], 'held', 1)[1], 'and weighs it down');
    }

    /** A sheet falls over a soft box whose edges are far longer than its own: between its vertices no edge comes through, and none of its rim. */
    #[Group('slow')]
    public function testEdgesDoNotComeThrough(): void
    {
        $cube = self::cube('cube', ['y' => 0.16], ['stiffness' => 60, 'damping' => 2]);
        $cube['source']['box']['divisions'] = 1;
        $frames = self::frames(48, [self::sheet('sheet', 0.7, 8, 0.4, ['rotation' => ['y' => 25], 'motion' => ['mover' => 'cloth', 'cloth' => ['damping' => 1, 'gap' => 0.004]]]), $cube], ['planes' => [['id' => 'f', 'name' => 'Floor']]]);
        $box = array_values(Solids::box(0.3, 0.3, 0.3, 1)->triangles);
        $crossed = [];
        foreach ($frames as $n => $frame) {
            [$sheet, $below] = array_map(static fn (string $id): array => array_map(static fn (array $p): array => [(float) $p[0], (float) $p[1], (float) $p[2]], array_chunk($frame->of($id, Track::VERTICES), 3)), ['sheet', 'cube']);
            $count = Crossings::count($sheet, self::triangles(8), $below, $box);
            if ($count > 0) {
                $crossed[$n] = $count;
            }
        }
        self::assertSame([], $crossed, 'crossings by frame');
        self::assertLessThan(0.2, self::along($frames[48], 'sheet', 1)[0], 'it hangs over');
        self::assertGreaterThan(0.25, self::along($frames[48], 'sheet', 1)[2], 'and lies on it');
    }

    /** Soft on soft: the upper one comes to rest on the lower, both squashed a little. */
    #[Group('long')]
    public function testACubeRestsOnACube(): void
    {
        $frames = self::frames(54, [self::cube('low', ['y' => 0.151], ['damping' => 3]), self::cube('high', ['y' => 0.5, 'x' => 0.01], ['damping' => 3])], ['planes' => [['id' => 'f', 'name' => 'Floor']]]);
        [$low, , $top] = self::along($frames[54], 'low', 1);
        [$bottom, $middle] = self::along($frames[54], 'high', 1);
        self::assertGreaterThan(-0.001, $low);
        self::assertEqualsWithDelta($top, $bottom, 0.02);
        self::assertEqualsWithDelta(0.44, $middle, 0.03);
        self::assertEqualsWithDelta(self::along($frames[48], 'high', 1)[1], $middle, 0.003, 'at rest');
    }

    /** Without gravity what one loses the other gets, whatever their substeps are. */
    #[Group('slow')]
    public function testMomentumIsGivenOn(): void
    {
        $document = [self::cube('one', ['x' => -0.4], ['friction' => 0, 'damping' => 0]), self::cube('two', ['x' => 0.0], ['friction' => 0, 'damping' => 0, 'stiffness' => 400])];
        // A push of its own sets one of them going.
        $frames = self::frames(40, $document, ['forces' => [['id' => 'p', 'name' => 'Push', 'force' => 'gravity', 'props' => ['one'], 'gravity' => ['direction' => ['x' => 1, 'y' => 0, 'z' => 0], 'strength' => ['keys' => [['frame' => 1, 'value' => 12, 'ease' => 'hold'], ['frame' => 3, 'value' => 0, 'ease' => 'hold']]]]]]]);
        $speed = static fn (string $id, int $n): float => 24.0 * (self::along($frames[$n], $id, 0)[1] - self::along($frames[$n - 1], $id, 0)[1]);
        self::assertGreaterThan(0.5, $speed('one', 4));
        self::assertEqualsWithDelta(0.0, $speed('two', 4), 1e-9);
        $mean = static fn (string $id): float => array_sum(array_map(static fn (int $n): float => $speed($id, $n), range(33, 40))) / 8.0;
        self::assertGreaterThan(0.4 * $speed('one', 4), $mean('two'));
        self::assertEqualsWithDelta($speed('one', 4), $mean('one') + $mean('two'), 0.06 * $speed('one', 4));
    }

    /** A soft cube falls into a held sheet, which catches it and is drawn down. */
    #[Group('long')]
    public function testASheetCatchesACube(): void
    {
        $held = ['release' => ['trigger' => 'never'], 'motion' => ['mover' => 'cloth', 'cloth' => ['mass' => 800, 'hold' => [['source' => 'rim', 'rim' => ['within' => 0.01, 'softness' => 0]]], 'damping' => 2]]];
        $frames = self::frames(48, [self::sheet('held', 1.2, 24, 0.5, $held), self::cube('cube', ['y' => 0.9], ['density' => 100])]);
        self::assertGreaterThan(0.2, self::along($frames[48], 'cube', 1)[0]);
        self::assertGreaterThan(self::along($frames[48], 'held', 1)[0] - 0.01, self::along($frames[48], 'cube', 1)[0]);
        self::assertLessThan(0.49, self::along($frames[48], 'held', 1)[0]);
    }
}
