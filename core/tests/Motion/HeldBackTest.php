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
use YardBreak\Core\Motion\Surface\Connected;
use YardBreak\Core\Motion\Surface\CoreContact;
use YardBreak\Core\Motion\Touch;
use YardBreak\Core\Tests\Fixture\MovedThing;

/** What stops a thing that cloth is too light to stop by its own weight. */
final class HeldBackTest extends TestCase
{
    /** A triangle that a ball has come through is put on the side it was on; its corners share the way by their masses. */
    public function testATriangleStaysOnItsSide(): void
    {
        $thing = new MovedThing(SurfaceTree::of(Solids::ball(0.1, 12), true), 0.5, 0.1, 0.0);
        $thing->position = [0.0, 0.15, 0.0];
        [$x, $y, $z] = [$px, $py, $pz] = [[-0.3, 0.3, 0.0], [0.0, 0.0, 0.0], [-0.3, -0.3, 0.6]];
        $contact = CoreContact::of($thing, $x, $y, $z, [0, 1, 2], [[0], [0], [0]], [0, 1, 2], 0.005, 1.0, 0.0, 0.0);
        self::assertNotNull($contact);
        self::assertSame([0.0, 0.0, 0.0, 0.0, 0.0, 0.0], $contact->resolve($x, $y, $z, $px, $py, $pz, [1.0, 1.0, 1.0]), 'it is not near yet');
        $thing->position = [0.0, -0.02, 0.0];
        $felt = $contact->resolve($x, $y, $z, $px, $py, $pz, [1.0, 1.0, 1.0]);
        self::assertEqualsWithDelta(-0.02 - 0.08 - 0.005, array_sum($y) / 3.0, 0.002, 'its middle is out of the ball');
        self::assertLessThan(0.0, $felt[1], 'the ball feels it');
        self::assertEqualsWithDelta(0.17, $contact->nearing, 1e-12, 'as far as the ball has come');
        self::assertSame([0, 1, 2], array_keys($contact->touched()));
        self::assertNull(CoreContact::of($thing, $x, $y, $z, [0, 1, 2], [[0], [0], [0]], [], 0.005, 1.0, 0.0, 0.0), 'nothing is near');
    }

    /** The middle of a ring is in its hole: a place in it beside that is kept from the triangles. */
    public function testWhatIsBentHasAMiddle(): void
    {
        $ring = new MovedThing(SurfaceTree::of(Solids::torus(0.2, 0.04, 12), true), 0.5, 0.3, 0.0);
        $ring->position = [0.0, 0.15, 0.0];
        [$x, $y, $z] = [$px, $py, $pz] = [[-0.5, 0.5, 0.0], [0.0, 0.0, 0.0], [-0.5, -0.5, 1.0]];
        $contact = CoreContact::of($ring, $x, $y, $z, [0, 1, 2], [[0], [0], [0]], [0, 1, 2], 0.005, 1.0, 0.0, 0.0);
        self::assertNotNull($contact);
        $ring->position = [0.0, -0.02, 0.0];
        $contact->resolve($x, $y, $z, $px, $py, $pz, [1.0, 1.0, 1.0]);
        self::assertNotSame([], $contact->touched());
        self::assertLessThan(-0.02 - 0.8 * 0.8 * 0.04, min($y), 'out of the ring');
    }

    /** What slides along a triangle as it comes takes it along, by Coulomb as far as friction times the way it came. */
    public function testItRubs(): void
    {
        $thing = new MovedThing(SurfaceTree::of(Solids::ball(0.1, 12), true), 0.5, 0.1, 0.0);
        foreach ([[0.0, 0.0, 0.0], [0.5, 0.5 * 0.0039, 0.5 * 0.005], [50.0, 0.8 * 0.03, 0.03]] as [$friction, $least, $most]) {
            $thing->position = [0.0, 0.09, 0.0];
            [$x, $y, $z] = [$px, $py, $pz] = [[-0.3, 0.3, 0.0], [0.0, 0.0, 0.0], [-0.3, -0.3, 0.6]];
            $contact = CoreContact::of($thing, $x, $y, $z, [0, 1, 2], [[0], [0], [0]], [0, 1, 2], 0.005, 1.0, $friction, 0.0);
            self::assertNotNull($contact);
            // As near as it may be, 3 cm farther along, and 5 mm nearer than that.
            $thing->position = [0.03, 0.08, 0.0];
            $contact->resolve($x, $y, $z, $px, $py, $pz, [1.0, 1.0, 1.0]);
            self::assertGreaterThanOrEqual($least, array_sum($x) / 3.0, "friction {$friction}");
            self::assertLessThanOrEqual($most, array_sum($x) / 3.0, "friction {$friction}");
        }
    }

    /** What has come in through a face of something solid goes out there again, and is not pushed in further by the faces beside it. */
    public function testWhatHasComeIntoSomethingSolidGoesOut(): void
    {
        $thing = new MovedThing(SurfaceTree::of(Solids::ball(0.1, 12), true), 0.5, 0.1, 0.0);
        // Behind it by 3 cm when the step begins: of two sides it would be kept where it is.
        $thing->position = [0.0, -0.03, 0.0];
        foreach ([[0.0, 1.0], [0.05, -1.0], [0.02, 0.0]] as [$within, $goes]) {
            [$x, $y, $z] = [$px, $py, $pz] = [[-0.3, 0.0, 0.3], [0.0, 0.0, 0.0], [-0.3, 0.6, -0.3]];
            $contact = CoreContact::of($thing, $x, $y, $z, [0, 1, 2], [[0], [0], [0]], [0, 1, 2], 0.005, 1.0, 0.0, $within);
            self::assertNotNull($contact);
            $felt = $contact->resolve($x, $y, $z, $px, $py, $pz, [1.0, 1.0, 1.0], 0.0);
            self::assertEqualsWithDelta($goes, $felt[1] <=> 0.0, 1e-12, "within {$within}");
            self::assertEqualsWithDelta(array_sum($y) - array_sum($py), 0.0, 1e-9, 'without a speed');
        }
    }

    /** On a plate thinner than that it lies on the upper face, and has not come in through the lower one. */
    public function testWhatLiesOnAThinPlateIsNotDrawnThrough(): void
    {
        $thing = new MovedThing(SurfaceTree::of(Solids::ball(0.1, 12), true), 0.5, 0.1, 0.0);
        foreach ([[0.03, -1.0, 0.0], [-0.004, -1.0, 0.0], [-0.016, 0.0, 1.0]] as [$height, $upper, $lower]) {
            $thing->position = [0.0, $height, 0.0];
            // Two triangles a thumb apart, which face up and down.
            [$x, $y, $z] = [$px, $py, $pz] = [[-0.3, 0.0, 0.3, -0.3, 0.0, 0.3], [0.0, 0.0, 0.0, -0.02, -0.02, -0.02], [-0.3, 0.6, -0.3, -0.3, 0.6, -0.3]];
            $contact = CoreContact::of($thing, $x, $y, $z, [0, 1, 2, 3, 5, 4], [[0], [0], [0], [3], [3], [3]], range(0, 5), 0.005, 1.0, 0.0, 0.1);
            self::assertNotNull($contact);
            $contact->resolve($x, $y, $z, $px, $py, $pz, array_fill(0, 6, 1.0), 0.0);
            self::assertSame([$upper, $lower], [(float) ($y[1] <=> 0.0), (float) ($y[4] <=> -0.02)], "{$height} m");
        }
    }

    /** What goes round a triangle is below it by right: it is pushed off there, and not through. */
    public function testWhatGoesRoundATriangleHasNotComeThrough(): void
    {
        $thing = new MovedThing(SurfaceTree::of(Solids::ball(0.1, 12), true), 0.5, 0.1, 0.0);
        $thing->position = [0.5, 0.05, 0.0];
        [$x, $y, $z] = [$px, $py, $pz] = [[-0.3, 0.3, 0.0], [0.0, 0.0, 0.0], [-0.3, -0.3, 0.6]];
        $contact = CoreContact::of($thing, $x, $y, $z, [0, 1, 2], [[0], [0], [0]], [0, 1, 2], 0.005, 1.0, 0.0, 0.0);
        self::assertNotNull($contact);
        foreach ([[0.5, -0.05], [0.0, -0.05]] as [$thing->position[0], $thing->position[1]]) {
            $felt = $contact->resolve($x, $y, $z, $px, $py, $pz, [1.0, 1.0, 1.0]);
        }
        self::assertEqualsWithDelta(-0.05 + 0.08 + 0.005, array_sum($y) / 3.0, 0.002, 'up, off the ball');
        self::assertGreaterThan(0.0, $felt[1]);
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
        $collider->stop($place, [0.0, -1.0, 0.0], 4.0, 0.0, INF);
        self::assertSame([[0.5, -3.0, 0.0], [0.0, 0.0, 0.0]], $bodies->velocity($body));
        $collider->stop($place, [0.0, -1.0, 0.0], 1.0, 0.0, INF);
        [[$u, $v, $w], [$a, , $c]] = $bodies->velocity($body);
        self::assertEqualsWithDelta(-1.0, $v + $c * $off[0] - $a * $off[2], 1e-12);
        self::assertEqualsWithDelta([0.5, 0.0], [$u, $w], 1e-12, 'it goes on beside');
        // Momentum about its middle: what was taken acts at the place.
        $taken = 2.0 * ($v + 3.0);
        self::assertEqualsWithDelta([-$off[2] * $taken, $off[0] * $taken], [0.1 * $a, 0.3 * $c], 1e-12);
    }

    /**
     * Cloth that is held pushes as if nothing weighed more than it does; what goes away from it already gets half of that. What rolls is slowed
     * by 0.3 of what presses on it, at its own size.
     */
    #[TestWith([null, -1.0, 0.05, 0.015])]
    #[TestWith([4.0, -1.0, 0.05, 0.015])]
    #[TestWith([0.5, -1.0, 0.2, 0.06])]
    #[TestWith([0.5, 1.0, 0.1, 0.03])]
    public function testWhatIsHeldPushesBackByMore(?float $against, float $speed, float $faster, float $slower): void
    {
        $bodies = new RigidBodies();
        $body = $bodies->addBody(new Inertia(2.0, [0.0, 0.0, 0.0], [0.4, 0.4, 0.4, 0.0, 0.0, 0.0]), [1.0, 2.0, 3.0], Quaternion::IDENTITY);
        $bodies->bodyRadius[$body] = 0.2;
        $bodies->setVelocity($body, [0.0, $speed, 0.0], [0.0, 0.0, -5.0]);
        $collider = new RigidCollider('thing', $bodies, $body, [0.0, 0.0, 0.0], static fn (): SurfaceTree => SurfaceTree::of(Solids::ball(0.1, 3), true), 0.5);
        // Below its middle: its moment about the world's origin is only that of the place.
        $collider->push(new Touch([0.0, 0.1, 0.0], [-0.3, 0.0, 0.1], 10.0, false, $against));
        [[, $v], $spin] = $bodies->velocity($body);
        self::assertEqualsWithDelta($speed + $faster, $v, 1e-12);
        self::assertEqualsWithDelta([0.0, 0.0, -5.0 + $slower], $spin, 1e-12);
    }

    /** What is stopped while it rolls is slowed by 0.3 of what stops it, at its own size, as by what pushes it. */
    public function testWhatIsStoppedRollsLess(): void
    {
        $bodies = new RigidBodies();
        $body = $bodies->addBody(new Inertia(2.0, [0.0, 0.0, 0.0], [0.4, 0.4, 0.4, 0.0, 0.0, 0.0]), [1.0, 2.0, 3.0], Quaternion::IDENTITY);
        $bodies->bodyRadius[$body] = 0.2;
        $bodies->setVelocity($body, [0.0, -0.1, 0.0], [0.0, 0.0, -5.0]);
        $collider = new RigidCollider('thing', $bodies, $body, [0.0, 0.0, 0.0], static fn (): SurfaceTree => SurfaceTree::of(Solids::ball(0.1, 3), true), 0.5);
        $collider->stop([1.0, 1.8, 3.0], [0.0, -1.0, 0.0], 0.0, 0.0, INF);
        [[, $v], $spin] = $bodies->velocity($body);
        self::assertEqualsWithDelta(0.0, $v, 1e-12);
        self::assertEqualsWithDelta([0.0, 0.0, -5.0 + 0.3 * 0.2 * 0.2 / 0.4], $spin, 1e-12);
    }

    /** End over end a rod does not roll, however long it is: cloth slows that as if it were a little wider than the rod. */
    public function testARodTopplesOnCloth(): void
    {
        $bodies = new RigidBodies();
        // Two metres long, 0.05 m thick from its axis, two kilograms; along x.
        $body = $bodies->addBody(new Inertia(2.0, [0.0, 0.0, 0.0], [0.0025, 2.0 / 3.0, 2.0 / 3.0, 0.0, 0.0, 0.0]), [0.0, 0.0, 0.0], Quaternion::IDENTITY);
        $bodies->bodyRadius[$body] = 1.0;
        $bodies->setVelocity($body, [0.0, -1.0, 0.0], [0.0, 0.0, -5.0]);
        $collider = new RigidCollider('thing', $bodies, $body, [0.0, 0.0, 0.0], static fn (): SurfaceTree => SurfaceTree::of(Solids::ball(0.1, 3), true), 0.5);
        $collider->push(new Touch([0.0, 0.1, 0.0], [0.0, 0.0, 0.0], 10.0, false));
        self::assertEqualsWithDelta(-5.0, $bodies->velocity($body)[1][2], 0.3 * 3.0 * 0.05 * 0.1 / (2.0 / 3.0));
    }

    /** As long as the way over the cloth is, whichever way its triangles are cut; along edges it would be an eighth longer across them. */
    public function testATetherIsAsLongAsItsWay(): void
    {
        $weave = Weave::of(Solids::sheet(1.0, 2.0, 20), new Fabric(0.2, 1e4, 0.2, 1e-6, 0.0, 0.0, 0.4, 0.002, false));
        $corners = [0, 20, 420, 440];
        $w = array_map(static fn (int $v): float => in_array($v, $corners, true) ? 0.0 : 1.0, range(0, 440));
        $tethers = Tethers::to($corners, Geodesics::of($weave), 1.0, $weave->fronts());
        foreach ([181, 259] as $v) {
            foreach ($corners as $corner) {
                $alone = array_replace(array_fill(0, 441, 1.0), [$corner => 0.0]);
                $far = sqrt(($weave->x[$v] - $weave->x[$corner]) ** 2 + ($weave->z[$v] - $weave->z[$corner]) ** 2);
                $place = [$weave->x[$v], 0.0, $weave->z[$v]];
                self::assertEqualsWithDelta($far * sqrt(1.01 ** 2 - 1.0), $tethers->room($v, $place, [0.0, -1.0, 0.0], $weave->x, $weave->y, $weave->z, $alone)[0], 1e-9, "from {$corner} to {$v}");
            }
        }
        // Drawn down a little at its middle: held all around, it swings nowhere.
        $y = array_replace($weave->y, [220 => -0.05]);
        self::assertSame(0.0, $tethers->swing(220, [0.0, -1.0, 0.0], $weave->x, $y, $weave->z, $w));
        $was = [$weave->x, array_replace($y, array_fill_keys($corners, -0.02)), $weave->z];
        self::assertEqualsWithDelta(-0.02, $tethers->went(220, [0.0, -1.0, 0.0], [$weave->x, $y, $weave->z], $was, $w), 1e-12, 'those that hold it rise');
    }

    public function testWhatHangsTogetherWeighsTogether(): void
    {
        self::assertSame([3.0, 3.0, 4.0], (new Connected([0, 1, 1, 1], [1]))->sums([1.0, 2.0, 4.0]));
    }

    /** The nearest held vertex counts, not only the few that all are tied to. */
    public function testRoomFromTheNearestThatIsHeld(): void
    {
        $weave = Weave::of(Solids::sheet(1.0, 1.0, 10), new Fabric(0.2, 1e4, 0.2, 1e-6, 0.0, 0.0, 0.4, 0.002, false));
        $rim = array_values(array_filter(range(0, 120), static fn (int $v): bool => abs($weave->x[$v]) > 0.49 || abs($weave->z[$v]) > 0.49));
        [$far, $source] = Geodesics::of($weave)->fromAll($rim);
        self::assertEqualsWithDelta(0.5, $far[60], 1e-9);
        self::assertContains($source[60], $rim);
        $w = array_map(static fn (int $v): float => in_array($v, $rim, true) ? 0.0 : 1.0, range(0, 120));
        [$room, $length] = Tethers::to($rim, Geodesics::of($weave), 1.0)->room(60, [0.0, 0.0, 0.0], [0.0, -1.0, 0.0], $weave->x, $weave->y, $weave->z, $w);
        self::assertEqualsWithDelta(1.01 * 0.5, $length, 1e-9);
        self::assertEqualsWithDelta(0.5 * sqrt(1.01 ** 2 - 1.0), $room, 1e-9);
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
        $deep = $tethers->room($middle, [$x[$middle], $y[$middle], $z[$middle]], [0.0, -1.0, 0.0], $x, $y, $z, $w)[0];
        self::assertEqualsWithDelta($reach * sqrt(1.01 ** 2 - 1.0), $deep, 0.05 * $deep);
        self::assertEqualsWithDelta(0.0, $tethers->room($middle, [$x[$middle], $y[$middle] - $deep, $z[$middle]], [0.0, -1.0, 0.0], $x, $y, $z, $w)[0], 1e-9);
        self::assertLessThan(0.0, $tethers->room($middle, [$x[$middle], $y[$middle] - 1.1 * $deep, $z[$middle]], [0.0, -1.0, 0.0], $x, $y, $z, $w)[0]);
        $w[0] = 1.0;
        self::assertSame(INF, $tethers->room($middle, [0.0, 0.0, 0.0], [0.0, -1.0, 0.0], $x, $y, $z, $w)[0], 'what holds nothing does not count');
    }
}
