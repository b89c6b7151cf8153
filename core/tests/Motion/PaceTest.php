<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Cloth\Cloth;
use YardBreak\Core\Motion\Cloth\Fabric;
use YardBreak\Core\Motion\Cloth\Weave;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Surface\PlaneContact;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Crossings;
use YardBreak\Core\Tests\Fixture\MovedThing;

/** Fine cloth takes half as many substeps where it comes at nothing fast. */
final class PaceTest extends TestCase
{
    private const H = 1.0 / 576.0;

    private const STILL = [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0, 1.0], [1.0, 1.0, 1.0]];

    private const DT = 8.0 * self::H;

    /** m/s; what a sheet of 50 squares a metre may. */
    private const CALM = 2.0;

    /** @param list<PlaneContact> $planes */
    private static function sheet(array $planes = []): Cloth
    {
        $fabric = new Fabric(0.2, 2e4, 0.3, 1e-5, 0.0, 0.0, 0.4, 0.004, feelsItself: true);
        $mesh = Solids::sheet(0.5, 0.5, 25);

        return new Cloth(Weave::of($mesh, $fabric), $fabric, $planes, self::H, array_fill(0, $mesh->vertexCount(), 0.0), self::STILL);
    }

    /**
     * It goes on at a speed of its own, which one substep has shown it.
     *
     * @param callable(float, float, float): array{float, float, float} $speed of each place, m/s
     */
    private static function moving(Cloth $cloth, callable $speed): Cloth
    {
        $bending = $cloth->bending();
        foreach ($bending->x as $v => $x) {
            [$u, $s, $w] = $speed($x, $bending->y[$v], $bending->z[$v]);
            $bending->px[$v] = $x - self::H * $u;
            $bending->py[$v] = $bending->y[$v] - self::H * $s;
            $bending->pz[$v] = $bending->z[$v] - self::H * $w;
        }
        $cloth->bent($bending);
        self::step($cloth, 1);

        return $cloth;
    }

    private static function step(Cloth $cloth, int $substeps): void
    {
        [$x, $y, $z] = $cloth->axes();
        $cloth->begin((new Forces([]))->at($x, $y, $z, array_fill(0, count($x), 0), 1.0, self::DT, static fn (): array => []), self::DT, []);
        for ($k = 0; $k < $substeps; $k++) {
            $cloth->substep(self::STILL, self::STILL);
        }
    }

    /** At whichever pace, a sheet that flies and turns goes as far in a second, and keeps its energy. */
    public function testItGoesOnAsFast(): void
    {
        foreach ([1, 2] as $every) {
            $cloth = self::moving(self::sheet(), static fn (float $x, float $y, float $z): array => [1.0, -2.0 * $z, 2.0 * $y]);
            $energy = $cloth->energy();
            $cloth->pace($every * self::H);
            self::assertEqualsWithDelta($energy, $cloth->energy(), 1e-9 * $energy);
            for ($step = 0; $step < 72; $step++) {
                self::step($cloth, intdiv(8, $every));
            }
            self::assertEqualsWithDelta(1.0 + self::H, array_sum($cloth->axes()[0]) / $cloth->count(), 1e-6);
            self::assertEqualsWithDelta($energy, $cloth->energy(), 0.01 * $energy, "each {$every}");
        }
    }

    public function testWhatIsCalm(): void
    {
        $still = self::moving(self::sheet(), static fn (): array => [0.0, 0.0, 0.0]);
        self::assertTrue($still->isCalm(self::CALM, [], self::DT));
        $flies = self::moving(self::sheet(), static fn (float $x, float $y, float $z): array => [6.0, -6.0 * $z, 6.0 * $y]);
        self::assertTrue($flies->isCalm(self::CALM, [], self::DT), 'it comes at nothing, and turns all together');
        $folds = self::moving(self::sheet(), static fn (float $x): array => [0.0, 60.0 * abs($x), 0.0]);
        self::assertFalse($folds->isCalm(self::CALM, [], self::DT), 'what lies near comes at each other');
        self::assertFalse(self::sheet()->isCalm(self::CALM, [], self::DT), 'nobody has looked yet');
    }

    public function testWhatComesAtSomethingIsNotCalm(): void
    {
        foreach ([[-0.4, true], [-1.0, false]] as [$speed, $calm]) {
            $falls = static fn (): array => [0.0, $speed, 0.0];
            self::assertSame($calm, self::moving(self::sheet([new PlaneContact([0.0, 1.0, 0.0], -0.05, 0.4)]), $falls)->isCalm(self::CALM, [], self::DT), "floor, {$speed}");
            self::assertTrue(self::moving(self::sheet([new PlaneContact([0.0, 1.0, 0.0], -0.5, 0.4)]), $falls)->isCalm(self::CALM, [], self::DT), 'it is far');
            $box = new MovedThing(SurfaceTree::of(Solids::box(0.3, 0.3, 0.3), true), 0.1, 0.26, 0.0);
            $box->position = [0.0, -0.2, 0.0];
            self::assertSame($calm, self::moving(self::sheet(), $falls)->isCalm(self::CALM, [$box], self::DT), "box, {$speed}");
            $box->position = [0.0, -0.9, 0.0];
            self::assertTrue(self::moving(self::sheet(), $falls)->isCalm(self::CALM, [$box], self::DT), 'it is far');
        }
    }

    /** A ball has no edges that come through between those of a cloth, if it is not very small. */
    public function testWhatIsBluntMayComeFaster(): void
    {
        foreach ([[0.2, 1.0, true], [0.2, 2.5, false], [0.05, 1.0, false]] as [$radius, $speed, $calm]) {
            $ball = new MovedThing(SurfaceTree::of(Solids::ball($radius, 12), true), 0.1, $radius, 0.0);
            $ball->position = [0.0, -$radius - 0.03, 0.0];
            self::assertSame($calm, self::moving(self::sheet(), static fn (): array => [0.0, -$speed, 0.0])->isCalm(self::CALM, [$ball], self::DT), "{$radius} m, {$speed} m/s");
        }
    }

    /** A sheet that hangs still is asked to be quick where another falls on it, and no sooner. */
    #[Group('slow')]
    public function testWhatBendsToo(): void
    {
        $sheet = static fn (string $id, float $y, float $width, array $more): array => ['id' => $id, 'name' => $id, 'source' => ['kind' => 'sheet', 'sheet' => ['width' => $width, 'depth' => $width, 'divisions' => (int) (100 * $width)]], 'position' => ['y' => $y], 'break' => ['pattern' => 'whole'], ...$more];
        $shot = Shot::read(['version' => 2, 'frames' => 14, 'planes' => [], 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'props' => [
            $sheet('low', 0.0, 0.2, ['release' => ['trigger' => 'never'], 'motion' => ['mover' => 'cloth', 'cloth' => ['hold' => [['source' => 'rim', 'rim' => ['within' => 0.03, 'softness' => 0]]]]]]),
            $sheet('high', 0.4, 0.1, ['release' => ['trigger' => 'frame'], 'motion' => ['mover' => 'cloth']]),
        ]]);
        $simulation = (new Pipeline(new MemoryStore(), new NoAssets()))->motion($shot);
        $paces = [];
        foreach ($simulation->frames() as $number => $_) {
            $mover = State::read(State::read($simulation->save())->parts('movers')[0]->string('state'));
            $paces[$number] = $mover->parts('props')[0]->int('every');
        }
        self::assertSame([2, 1, 2], [$paces[4], $paces[10], $paces[14]], 'on its way, as it comes down, and when it lies there');
    }

    /** Dropped on its edge a fine sheet falls into folds at the pace it finds, and nothing comes through (1,000 pairs where it took half of the substeps all the way). */
    #[Group('long')]
    public function testFineFoldsLieOnEachOther(): void
    {
        $shot = Shot::read(['version' => 2, 'frames' => 36, 'props' => [[
            'id' => 'cloth', 'name' => 'Cloth', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 1.0, 'depth' => 1.0, 'divisions' => 60]], 'position' => ['y' => 0.9], 'rotation' => ['x' => 80, 'z' => 5], 'break' => ['pattern' => 'whole'],
            'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'cloth'],
        ]]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $triangles = array_values($pipeline->broken($shot->props[0])->pieces->mesh(0)->triangles);
        foreach ($pipeline->frames($shot) as $number => $frame) {
            if ($number % 3 === 0) {
                /** @var list<array{float, float, float}> $places */
                $places = array_chunk($frame->of('cloth', Track::VERTICES), 3);
                self::assertSame(0, Crossings::within($places, $triangles), "frame {$number}");
            }
        }
    }
}
