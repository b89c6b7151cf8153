<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Rigid\HullBuilder;
use YardBreak\Core\Motion\Rigid\Inertia;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Thin and light pieces: they tumble faster than a step can follow, and must not gain by it. */
final class SplinterTest extends TestCase
{
    private const DT = 1.0 / 48.0;

    /** @param array{float, float, float} $place */
    private static function add(RigidWorld $world, TriangleMesh $mesh, array $place): int
    {
        static $group = 0;
        $mass = MassProperties::of($mesh);
        $body = $world->bodies->addBody(new Inertia(1900.0 * $mass->volume, [0.0, 0.0, 0.0], array_map(static fn (float $i): float => 1900.0 * $i, $mass->inertia)), $place, Quaternion::IDENTITY);
        $world->bodies->addShape($body, HullBuilder::of($mesh->x, $mesh->y, $mesh->z), [0.0, 0.0, 0.0], ++$group, 0.6, 0.1);

        return $body;
    }

    /** Without forces the energy of turning stays (Euler's equations, any textbook); cut down it may be, as spins are that are faster than a step can follow. */
    public function testAFreeSplinterNeverTurnsFasterThanItsEnergy(): void
    {
        $random = RandomStream::named(1, 'spins');
        for ($try = 0; $try < 60; $try++) {
            $world = new RigidWorld([0.0, 0.0, 0.0], null);
            $body = self::add($world, Solids::box(0.001, 0.05, 0.003), [0.0, 0.0, 0.0]);
            $energy = function () use ($world, $body): float {
                [, $spin] = $world->bodies->velocity($body);
                $own = Quaternion::rotate(Quaternion::conjugate($world->bodies->turnOf($body)), $spin);

                return 0.5 * ($world->bodies->inertia[6 * $body] * $own[0] ** 2 + $world->bodies->inertia[6 * $body + 1] * $own[1] ** 2 + $world->bodies->inertia[6 * $body + 2] * $own[2] ** 2);
            };
            $world->bodies->setVelocity($body, [0.0, 0.0, 0.0], array_map(static fn (float $d): float => 100.0 * $d, $random->direction()));
            $before = $energy();
            for ($s = 0; $s < 30; $s++) {
                $world->step(self::DT);
                self::assertLessThan(1.05 * $before, $energy(), "spin $try after $s steps");
            }
        }
    }

    #[Group('slow')]
    public function testSplintersBetweenHeavyBlocksAreNotShotOff(): void
    {
        foreach ([1, 2, 3, 4] as $seed) {
            $world = new RigidWorld([0.0, -9.80665, 0.0], 0.0);
            $random = RandomStream::named($seed, 'splinters');
            for ($i = 0; $i < 18; $i++) {
                self::add($world, Solids::box(0.12, 0.12, 0.12), [0.125 * ($i % 3), 1.5 + 0.125 * intdiv($i, 9), 0.125 * (intdiv($i, 3) % 3)]);
            }
            $light = [];
            for ($i = 0; $i < 24; $i++) {
                // Half a gram, as cut from a corner.
                $mesh = Solids::box(0.001 + 0.002 * $random->float(), 0.05 + 0.05 * $random->float(), 0.002);
                $light[] = self::add($world, $mesh, [0.25 * $random->float(), 1.3 + 0.1 * $random->float(), 0.25 * $random->float()]);
            }
            $fastest = 0.0;
            for ($s = 0; $s < 96; $s++) {
                $world->step(self::DT);
                foreach ($light as $body) {
                    [$velocity] = $world->bodies->velocity($body);
                    $fastest = max($fastest, sqrt($velocity[0] ** 2 + $velocity[1] ** 2 + $velocity[2] ** 2));
                }
            }
            // The blocks come down at 5.4 m/s; what is light is sent off at up to twice that (any textbook).
            self::assertLessThan(2.0 * 5.5, $fastest, "seed $seed");
        }
    }

    /**
     * What keeps splinters from being thrown must not take the life out of a blow: six frames after the demo's jar has hit the floor
     * its shards have about the energy that steps four times as fine give them (14 J for three seeds, 13.1 to 14.9 with and
     * without it; impulses forgotten above 1 m/s left 6 J).
     */
    #[Group('slow')]
    public function testABlowKeepsItsLife(): void
    {
        $document = json_decode((string) file_get_contents(dirname(__DIR__, 2) . '/demo/1-jar-off-the-sill.json'), true, flags: JSON_THROW_ON_ERROR);
        $document = $document['document'] ?? $document;
        $document['frames'] = 30;
        $energy = 0.0;
        foreach ([7, 8, 9] as $seed) {
            foreach ($document['props'] as $k => $prop) {
                if (isset($prop['break']['cellular'])) {
                    $document['props'][$k]['break']['cellular']['seed'] = $seed;
                }
            }
            foreach ((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read($document)) as $number => $frame) {
                $energy += $number === 30 ? $frame->kinetic() : 0.0;
            }
        }
        self::assertEqualsWithDelta(14.0, $energy, 5.0);
    }
}
