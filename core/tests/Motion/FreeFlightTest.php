<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Motion\Rigid\ContactPair;
use YardBreak\Core\Motion\Rigid\FreeFlight;
use YardBreak\Core\Motion\Rigid\HullBuilder;
use YardBreak\Core\Motion\Rigid\Inertia;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** What only flies needs no solver, and goes as if it had had one. */
final class FreeFlightTest extends TestCase
{
    private const DT = 1.0 / 96.0;

    /**
     * A world with boxes of 0.2 m.
     *
     * @param list<array{float, float, float}> $places
     * @param bool $siblings of one prop, or each by itself
     *
     * @return array{RigidWorld, list<int>}
     */
    private static function boxes(array $places, bool $siblings = false, float $gravity = -9.80665): array
    {
        $world = new RigidWorld([0.0, $gravity, 0.0], 0.0, 0.6, 0.2);
        $box = Solids::box(0.2, 0.2, 0.2);
        $mass = MassProperties::of($box);
        $bodies = [];
        foreach ($places as $k => $place) {
            $bodies[] = $id = $world->bodies->addBody(new Inertia(500.0 * $mass->volume, $mass->centre, array_map(static fn (float $i): float => 500.0 * $i, $mass->inertia)), $place, Quaternion::IDENTITY);
            $world->bodies->addShape($id, HullBuilder::of($box->x, $box->y, $box->z), [0.0, 0.0, 0.0], $siblings ? 0 : $k, 0.5, 0.2);
        }

        return [$world, $bodies];
    }

    /** @return list<array{float, float, float}> eight boxes, so far apart, their lowest side 0.3 m above the floor */
    private static function block(float $gap): array
    {
        $places = [];
        foreach ([0.4, 0.6 + $gap] as $y) {
            foreach ([0.0, 0.2 + $gap] as $x) {
                foreach ([0.0, 0.2 + $gap] as $z) {
                    $places[] = [$x, $y, $z];
                }
            }
        }

        return $places;
    }

    /** Boxes 3 mm apart fall on the floor and on each other, turn and come to rest: the same bits with the solver at every step. */
    public function testItGoesAsWithTheSolver(): void
    {
        $ends = [];
        foreach ([true, false] as $alone) {
            [$world, $bodies] = self::boxes(self::block(0.003));
            $world->alone = $alone;
            foreach ($bodies as $k => $body) {
                $world->bodies->setVelocity($body, [0.0, 0.0, 0.02 * ($k % 3)], [0.0, 0.01 * $k, 0.0]);
            }
            for ($n = 0; $n < 120; $n++) {
                $world->step(self::DT);
            }
            $ends[] = array_map(static fn (int $body): array => [$world->bodies->placeOf($body), $world->bodies->turnOf($body)], $bodies);
        }
        self::assertSame($ends[1], $ends[0]);
        self::assertLessThan(0.11, $ends[0][0][0][1], 'the lowest lies on the floor');
    }

    /** Two that meet in flight, faster than the gap between them, feel it in the step in which they do. */
    public function testWhoMeetsInFlightFeelsIt(): void
    {
        $ends = [];
        foreach ([true, false] as $alone) {
            [$world, [$one, $other]] = self::boxes([[0.0, 2.0, 0.0], [0.25, 2.05, 0.03]], gravity: 0.0);
            $world->alone = $alone;
            $world->bodies->setVelocity($other, [-2.0, 0.0, 0.0], [0.0, 0.0, 0.0]);
            for ($n = 0; $n < 12; $n++) {
                $world->step(self::DT);
                self::assertGreaterThan(0.199, $world->bodies->placeOf($other)[0] - $world->bodies->placeOf($one)[0]);
            }
            $ends[] = [$world->bodies->velocity($one), $world->bodies->velocity($other), $world->bodies->turnOf($one)];
        }
        self::assertSame($ends[1], $ends[0]);
        self::assertLessThan(-0.5, $ends[0][0][0][0]);
    }

    /** Pieces of one prop that lie against each other fall as one, and then feel each other as they always did. */
    public function testSiblingsFallAsOne(): void
    {
        [$world, $bodies] = self::boxes(self::block(0.0), siblings: true);
        for ($n = 0; $n < 20; $n++) {
            $world->step(self::DT);
        }
        $start = self::block(0.0);
        foreach ($bodies as $k => $body) {
            $place = $world->bodies->placeOf($body);
            self::assertEqualsWithDelta($start[$k][1] - $start[0][1], $place[1] - $world->bodies->placeOf($bodies[0])[1], 1e-12);
            self::assertSame([$start[$k][0], $start[$k][2]], [$place[0], $place[2]]);
        }
        self::assertSame([], $world->blows());
        for ($n = 0; $n < 200; $n++) {
            $world->step(self::DT);
        }
        foreach ($bodies as $k => $body) {
            self::assertEqualsWithDelta($k < 4 ? 0.1 : 0.3, $world->bodies->placeOf($body)[1], 0.002, "box {$k} stands on the floor, or on another");
        }
    }

    /** Two that begin in each other, come apart in one step and come back do not get back into each other. */
    public function testWhoHasPartedKeepsNoOverlap(): void
    {
        [$world, [$one, $other]] = self::boxes([[0.0, 2.0, 0.0], [0.19, 2.0, 0.0]], siblings: true, gravity: 0.0);
        $world->step(self::DT);
        $world->bodies->setVelocity($other, [1.5, 0.0, 0.0], [0.0, 0.0, 0.0]);
        $world->step(self::DT);
        self::assertGreaterThan(0.203, $world->bodies->placeOf($other)[0] - $world->bodies->placeOf($one)[0]);
        $world->bodies->setVelocity($other, [-0.05, 0.0, 0.0], [0.0, 0.0, 0.0]);
        $least = INF;
        for ($n = 0; $n < 40; $n++) {
            $world->step(self::DT);
            $least = min($least, $world->bodies->placeOf($other)[0] - $world->bodies->placeOf($one)[0]);
        }
        self::assertGreaterThan(0.199, $least);
        self::assertLessThan(0.201, $least, 'they have met');
    }

    /** What cloth strikes in the middle of a step finds its neighbour in that step: beside cloth nothing is left to fly. */
    public function testWhatClothStrikesFeelsItsNeighbour(): void
    {
        $box = static fn (string $id, float $x): array => ['id' => $id, 'name' => $id, 'source' => ['box' => ['width' => 0.2, 'height' => 0.2, 'depth' => 0.2, 'divisions' => 1]], 'position' => ['x' => $x, 'y' => 1], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'density' => 100]]];
        $shot = Shot::read(['version' => 2, 'frames' => 6, 'forces' => [], 'planes' => [], 'props' => [
            [
                'id' => 'sheet', 'name' => 'Sheet', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.6, 'depth' => 0.6, 'divisions' => 8]], 'rotation' => ['z' => 90],
                'position' => ['x' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 14, 'value' => 2.0]]], 'y' => 1], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
                'motion' => ['mover' => 'cloth', 'cloth' => ['mass' => 3000, 'hold' => [['source' => 'rim', 'rim' => ['within' => 0.001, 'softness' => 0]]]]],
            ],
            $box('one', 0.5), $box('other', 0.702),
        ]]);
        $way = 0.0;
        foreach ((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot) as $number => $frame) {
            $way = $frame->of('one', Track::POSE)[0];
            self::assertGreaterThan(0.1997, $frame->of('other', Track::POSE)[0] - $way, "frame {$number}");
        }
        self::assertGreaterThan(0.6, $way, 'it has been struck');
    }

    /** A blow is handed on through what moves by itself, however the pairs are ordered; not through what stays. */
    public function testABlowIsHandedOn(): void
    {
        $chain = static function (array $order): array {
            $live = [];
            foreach ($order as $k) {
                $live[$k] = new ContactPair($k, $k + 1, false);
            }

            return $live;
        };
        foreach ([[0, 1, 2, 3, 4, 5], [5, 4, 3, 2, 1, 0], [3, 0, 5, 1, 4, 2]] as $order) {
            $pressed = static fn (array $moves, array $by, array $clear = [0, 1, 2, 3, 4, 5]): array => array_keys(FreeFlight::pressed($chain($order), array_fill_keys($clear, true), range(0, 6), array_fill_keys($moves, true), array_fill_keys($by, true)));
            $sorted = static function (array $bodies): array {
                sort($bodies);

                return $bodies;
            };
            self::assertSame([], $pressed(range(0, 6), []));
            self::assertSame(range(0, 6), $sorted($pressed(range(0, 6), [0])));
            self::assertSame(range(0, 6), $sorted($pressed(range(0, 6), [], [0, 1, 2, 4, 5])), 'two that may press on each other');
            // Body 3 sleeps: what lies on it is pressed by it, the far ends through what is near that.
            self::assertSame(range(0, 6), $sorted($pressed([0, 1, 2, 4, 5, 6], [])));
        }
    }
}
