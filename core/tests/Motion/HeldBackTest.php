<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Cloth\Fabric;
use YardBreak\Core\Motion\Cloth\Geodesics;
use YardBreak\Core\Motion\Cloth\Tethers;
use YardBreak\Core\Motion\Cloth\Weave;
use YardBreak\Core\Motion\Rigid\Inertia;
use YardBreak\Core\Motion\Rigid\RigidBodies;
use YardBreak\Core\Motion\Rigid\RigidCollider;
use YardBreak\Core\Motion\Surface\CoreContact;
use YardBreak\Core\Tests\Fixture\MovedThing;

/** What stops a thing that cloth is too light to stop by its own weight. */
final class HeldBackTest extends TestCase
{
    /** A triangle that a ball has come through is put on the side it was on; its corners share the way by their masses. */
    public function testATriangleStaysOnItsSide(): void
    {
        $thing = new MovedThing(SurfaceTree::of(Solids::ball(0.1, 12), true), 0.5, 0.1, 0.0);
        $thing->position = [0.0, 0.15, 0.0];
        [$x, $y, $z] = [[-0.3, 0.3, 0.0], [0.0, 0.0, 0.0], [-0.3, -0.3, 0.6]];
        $contact = CoreContact::of($thing, $x, $y, $z, [0, 1, 2], [[0], [0], [0]], [0, 1, 2], 0.005, 1.0);
        self::assertNotNull($contact);
        self::assertSame([0.0, 0.0, 0.0, 0.0, 0.0, 0.0], $contact->resolve($x, $y, $z, [1.0, 1.0, 1.0]), 'it is not near yet');
        $thing->position = [0.0, -0.02, 0.0];
        $felt = $contact->resolve($x, $y, $z, [1.0, 1.0, 1.0]);
        self::assertEqualsWithDelta(-0.02 - 0.08 - 0.005, array_sum($y) / 3.0, 0.002, 'its middle is out of the ball');
        self::assertLessThan(0.0, $felt[1], 'the ball feels it');
        self::assertSame([0, 1, 2], array_keys($contact->touched()));
        self::assertNull(CoreContact::of($thing, $x, $y, $z, [0, 1, 2], [[0], [0], [0]], [], 0.005, 1.0), 'nothing is near');
    }

    /**
     * Where it is too fast along a way it is made as fast as it may be, there and along that way, wherever its middle is.
     *
     * @param array{float, float, float} $off
     */
    #[TestWith([[0.0, 0.0, 0.0]])]
    #[TestWith([[0.3, -0.1, 0.2]])]
    public function testAThingIsStoppedWhereItPresses(array $off): void
    {
        $bodies = new RigidBodies();
        $body = $bodies->addBody(new Inertia(2.0, [0.0, 0.0, 0.0], [0.1, 0.2, 0.3, 0.0, 0.0, 0.0]), [1.0, 2.0, 3.0], Quaternion::IDENTITY);
        $bodies->setVelocity($body, [0.5, -3.0, 0.0], [0.0, 0.0, 0.0]);
        $collider = new RigidCollider('thing', $bodies, $body, [0.0, 0.0, 0.0], static fn (): SurfaceTree => SurfaceTree::of(Solids::ball(0.1, 3), true), 0.5);
        $place = [1.0 + $off[0], 2.0 + $off[1], 3.0 + $off[2]];
        $collider->stop($place, [0.0, -1.0, 0.0], 4.0);
        self::assertSame([[0.5, -3.0, 0.0], [0.0, 0.0, 0.0]], $bodies->velocity($body));
        $collider->stop($place, [0.0, -1.0, 0.0], 1.0);
        [[$u, $v, $w], [$a, , $c]] = $bodies->velocity($body);
        self::assertEqualsWithDelta(-1.0, $v + $c * $off[0] - $a * $off[2], 1e-12);
        self::assertEqualsWithDelta([0.5, 0.0], [$u, $w], 1e-12, 'it goes on beside');
        // Momentum about its middle: what was taken acts at the place.
        $taken = 2.0 * ($v + 3.0);
        self::assertEqualsWithDelta([-$off[2] * $taken, $off[0] * $taken], [0.1 * $a, 0.3 * $c], 1e-12);
    }

    /** How far a vertex can go until its tether is taut, by Pythagoras. */
    public function testRoomUntilATetherIsTaut(): void
    {
        $fabric = new Fabric(0.2, 1e4, 0.2, 1e-6, 0.0, 0.0, 0.4, 0.002, false);
        $weave = Weave::of(Solids::sheet(1.0, 1.0, 10), $fabric);
        $middle = 60;
        $tethers = Tethers::to([0], Geodesics::of($weave), 1.0);
        [$x, $y, $z] = [$weave->x, $weave->y, $weave->z];
        $w = array_fill(0, $weave->count(), 1.0);
        $w[0] = 0.0;
        $reach = sqrt(($x[$middle] - $x[0]) ** 2 + ($z[$middle] - $z[0]) ** 2);
        $deep = $tethers->room($middle, [$x[$middle], $y[$middle], $z[$middle]], [0.0, -1.0, 0.0], $x, $y, $z, $w);
        self::assertEqualsWithDelta($reach * sqrt(1.03 ** 2 - 1.0), $deep, 0.05 * $deep);
        self::assertEqualsWithDelta(0.0, $tethers->room($middle, [$x[$middle], $y[$middle] - $deep, $z[$middle]], [0.0, -1.0, 0.0], $x, $y, $z, $w), 1e-9);
        self::assertLessThan(0.0, $tethers->room($middle, [$x[$middle], $y[$middle] - 1.1 * $deep, $z[$middle]], [0.0, -1.0, 0.0], $x, $y, $z, $w));
        $w[0] = 1.0;
        self::assertSame(INF, $tethers->room($middle, [0.0, 0.0, 0.0], [0.0, -1.0, 0.0], $x, $y, $z, $w), 'what holds nothing does not count');
    }
}
