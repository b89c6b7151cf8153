<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Rigid\HullBuilder;
use YardBreak\Core\Motion\Rigid\Inertia;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Props of another size, also keyed and along each axis, in every kind of motion. */
final class SizeTest extends TestCase
{
    private const BY = [2.0, 0.5, 1.3];

    /**
     * @param array<string, mixed> $props
     *
     * @return array<int, Frame> by number
     */
    private static function frames(array ...$props): array
    {
        $shot = Shot::read(['version' => 2, 'frames' => 40, 'props' => array_values($props)]);

        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot));
    }

    /** @return array<string, mixed> a size that is keyed along one axis */
    private static function grows(string $axis, float $to, int $from = 5, int $until = 15): array
    {
        return [$axis => ['keys' => [['frame' => $from, 'value' => 1.0, 'ease' => 'linear'], ['frame' => $until, 'value' => $to]]]];
    }

    private static function lopsided(): TriangleMesh
    {
        $random = RandomStream::named(4, 'lopsided');
        $mesh = Solids::ball(0.5, 4);
        $out = [[], [], []];
        foreach ($mesh->x as $i => $x) {
            $out[0][] = $x + 0.2 * $x * $mesh->y[$i] + $random->between(0.0, 0.02) + 0.3;
            $out[1][] = 0.6 * $mesh->y[$i];
            $out[2][] = $mesh->z[$i] - 0.4 * $x;
        }

        return new TriangleMesh($out[0], $out[1], $out[2], $mesh->triangles);
    }

    /** Mass, centre and inertia of what is scaled are those of the scaled mesh; scaled there and back they are the same. */
    public function testInertiaIsThatOfTheScaledMesh(): void
    {
        $of = static function (TriangleMesh $mesh): Inertia {
            $mass = MassProperties::of($mesh);

            return new Inertia($mass->volume, $mass->centre, $mass->inertia);
        };
        $expected = $of(self::lopsided()->scaled(self::BY));
        $scaled = $of(self::lopsided())->scaled(self::BY);
        self::assertEqualsWithDelta($expected->mass, $scaled->mass, 1e-12);
        self::assertEqualsWithDelta($expected->centre, $scaled->centre, 1e-12);
        self::assertEqualsWithDelta($expected->tensor, $scaled->tensor, 1e-12);
        self::assertGreaterThan(0.001, max(array_map(abs(...), array_slice($scaled->tensor, 3))), 'the tensor is not diagonal');
    }

    /** The faces of a scaled hull lie where its corners do, and look outwards. */
    public function testHullsAreScaledWithTheirPlanesAndEdges(): void
    {
        $mesh = self::lopsided();
        $hull = HullBuilder::of($mesh->x, $mesh->y, $mesh->z);
        $scaled = $hull->scaled(self::BY);
        self::assertEqualsWithDelta($hull->volume() * array_product(self::BY), $scaled->volume(), 1e-9);
        foreach ($scaled->nx as $f => $nx) {
            self::assertEqualsWithDelta(1.0, $nx ** 2 + $scaled->ny[$f] ** 2 + $scaled->nz[$f] ** 2, 1e-12);
            $highest = -INF;
            foreach ($scaled->x as $i => $x) {
                $highest = max($highest, $nx * $x + $scaled->ny[$f] * $scaled->y[$i] + $scaled->nz[$f] * $scaled->z[$i]);
            }
            self::assertEqualsWithDelta($scaled->d[$f], $highest, 1e-6, "nothing stands out of face {$f}");
        }
        foreach ($scaled->left as $e => $f) {
            self::assertEqualsWithDelta(0.0, $scaled->nx[$f] * $scaled->ex[$e] + $scaled->ny[$f] * $scaled->ey[$e] + $scaled->nz[$f] * $scaled->ez[$e], 0.01, "edge {$e} lies in its face, as nearly as the corners of a face lie in a plane");
        }
    }

    public function testNormalsOfAScaledMeshStandOnItsFaces(): void
    {
        $normals = static function (TriangleMesh $mesh): array {
            $normals = [];
            for ($f = 0; $f < $mesh->triangleCount(); $f++) {
                $n = $mesh->cross($f);
                $length = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);
                for ($corner = 0; $corner < 3; $corner++) {
                    array_push($normals, ...array_map(static fn (float $c): float => $c / $length, $n));
                }
            }

            return $normals;
        };
        $mesh = self::lopsided();
        self::assertEqualsWithDelta($normals($mesh->scaled(self::BY)), $mesh->withNormals($normals($mesh))->scaled(self::BY)->normals, 1e-9);
    }

    /** A box that grows under a ball lifts it, and the ball stays on top of it. */
    public function testWhatGrowsLiftsWhatLiesOnIt(): void
    {
        $frames = self::frames(
            ['id' => 'box', 'name' => 'Box', 'source' => ['box' => ['width' => 1, 'height' => 0.4, 'depth' => 1, 'divisions' => 1]], 'position' => ['y' => 0.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'scale' => self::grows('y', 2.0)],
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.2, 'divisions' => 8]], 'position' => ['y' => 0.5], 'break' => ['pattern' => 'whole'], 'motion' => ['rigid' => ['before' => 'falls']]],
        );
        foreach ([1 => 1.0, 5 => 1.0, 10 => 1.5, 15 => 2.0, 40 => 2.0] as $number => $size) {
            self::assertEqualsWithDelta([1.0, $size, 1.0], array_map(floatval(...), $frames[$number]->of('box', Track::SCALE)), 1e-12, "frame {$number}");
            self::assertEqualsWithDelta(0.2, $frames[$number]->of('box', Track::POSE)[1], 1e-12, 'about its own origin');
        }
        foreach ($frames as $number => $frame) {
            $top = 0.2 + 0.2 * $frame->of('box', Track::SCALE)[1];
            self::assertGreaterThan($top + 0.09, $frame->of('ball', Track::POSE)[1], "frame {$number}: at most a centimetre deep while it is lifted");
        }
        self::assertEqualsWithDelta(0.7, $frames[40]->of('ball', Track::POSE)[1], 0.01, 'it lies on one of its flat sides');
    }

    /** A block stands still beside it, farther away than it is ever looked for contacts: it is pushed once the box is there. */
    public function testWhatGrowsPushesWhatStandsStillBesideIt(): void
    {
        $frames = self::frames(
            ['id' => 'box', 'name' => 'Box', 'source' => ['box' => ['width' => 0.4, 'height' => 0.4, 'depth' => 0.4, 'divisions' => 1]], 'position' => ['y' => 0.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'scale' => self::grows('x', 2.5)],
            ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.2, 'height' => 0.2, 'depth' => 0.2, 'divisions' => 1]], 'position' => ['x' => 0.5, 'y' => 0.1], 'break' => ['pattern' => 'whole'], 'motion' => ['rigid' => ['before' => 'falls']]],
        );
        foreach ($frames as $number => $frame) {
            $side = 0.2 * $frame->of('box', Track::SCALE)[0];
            self::assertGreaterThan($side + 0.1 - 0.002, $frame->of('block', Track::POSE)[0], "frame {$number}: at most 2 mm deep");
        }
        self::assertLessThan(0.65, $frames[40]->of('block', Track::POSE)[0], 'and no farther than it was pushed');
    }

    /** Cloth that lies beside it, asleep, is shoved along the floor. */
    public function testWhatGrowsShovesClothThatLiesBesideIt(): void
    {
        $frames = self::frames(
            ['id' => 'box', 'name' => 'Box', 'source' => ['box' => ['width' => 0.4, 'height' => 0.4, 'depth' => 0.4, 'divisions' => 1]], 'position' => ['y' => 0.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'scale' => self::grows('x', 2.0, 15, 35)],
            ['id' => 'cloth', 'name' => 'Cloth', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.24, 'depth' => 0.24, 'divisions' => 6]], 'position' => ['x' => 0.4, 'y' => 0.01], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'cloth']],
        );
        $left = static fn (int $frame): float => min([INF, ...array_map(static fn (array $at): float => (float) $at[0], array_chunk($frames[$frame]->of('cloth', Track::VERTICES), 3))]);
        self::assertEqualsWithDelta(0.28, $left(15), 1e-3, 'it lies where it was laid');
        self::assertEqualsWithDelta(0.4 + 0.004, $left(40), 3e-3, 'it lies beside the box');
    }

    /** Half of it lets go at size 1.5 and falls at that size; the rest grows on. */
    public function testWhatHasLetGoKeepsTheSizeItHad(): void
    {
        $sweep = ['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 10, 'to' => 11, 'softness' => 0.0]];
        foreach (['rigid' => [], 'light' => ['variety' => 0.0]] as $mover => $settings) {
            $frames = self::frames([
                'id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 0.4, 'height' => 0.4, 'depth' => 0.4, 'divisions' => 1]], 'position' => ['y' => 1.5], 'break' => ['cellular' => ['pieces' => 12]],
                'weight' => ['stack' => [$sweep]], 'release' => ['trigger' => 'weight'], 'scale' => ['x' => 2.0, ...self::grows('y', 2.0), 'z' => 1.0], 'motion' => ['mover' => $mover, $mover => $settings],
            ], ['id' => 'b', 'name' => 'B', 'position' => ['y' => 10], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']]);
            $loose = array_filter($frames[11]->of('a', Track::FLAGS), static fn (int|float $flags): bool => ((int) $flags & Frame::RELEASED) !== 0);
            self::assertNotEmpty($loose, $mover);
            foreach (array_keys($frames[40]->of('a', Track::FLAGS)) as $k) {
                $size = array_slice($frames[40]->of('a', Track::SCALE), 3 * $k, 3);
                $since = 40;
                for ($n = 40; $n >= 1 && ((int) $frames[$n]->of('a', Track::FLAGS)[$k] & Frame::RELEASED) !== 0; $n--) {
                    $since = $n;
                }
                self::assertEqualsWithDelta([2.0, min(2.0, 1.0 + 0.1 * ($since - 5)), 1.0], array_map(floatval(...), $size), 1e-12, "{$mover} {$k}, loose since {$since}");
            }
            self::assertNotContains(Track::SCALE, array_map(static fn (Track $track): string => $track->prop . $track->kind, array_filter($frames[1]->tracks, static fn (Track $track): bool => $track->prop === 'b')));
        }
    }

    /** What is staged goes as far as it is large. */
    public function testStagedPiecesGoAsFarAsTheirPropIsLarge(): void
    {
        $frames = self::frames(['id' => 'a', 'name' => 'A', 'source' => ['box' => ['divisions' => 1]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]], 'scale' => ['x' => 3.0, 'y' => 0.5],
            'motion' => ['mover' => 'staged', 'staged' => ['takes' => 10, 'offset' => ['x' => 1.0, 'y' => 1.0], 'scale' => 0.5, 'variety' => 0.0]]]);
        self::assertEqualsWithDelta([3.0, 0.5, 0.0], array_map(floatval(...), array_slice($frames[40]->of('a', Track::POSE), 0, 3)), 1e-12);
        self::assertEqualsWithDelta([1.5, 0.25, 0.5], array_map(floatval(...), $frames[40]->of('a', Track::SCALE)), 1e-12);
    }

    /**
     * @param array<int, float> $at by frame
     *
     * @return array<string, mixed> a size that is keyed along every axis
     */
    private static function keyed(array $at): array
    {
        $keys = array_map(static fn (int $frame, float $value): array => ['frame' => $frame, 'value' => $value, 'ease' => 'linear'], array_keys($at), $at);

        return array_fill_keys(['x', 'y', 'z'], ['keys' => $keys]);
    }

    /** @return array{float, float} how wide and deep something that bends is drawn at a frame, m */
    private static function across(Frame $frame): array
    {
        $places = array_chunk($frame->of('a', Track::VERTICES), 3);

        return [max(array_column($places, 0)) - min(array_column($places, 0)), max(array_column($places, 2)) - min(array_column($places, 2))];
    }

    /** What of a cloth is held is as large as its keys say, and what hangs between is as long as that asks for. */
    public function testClothIsAsLargeAsItsKeysSayAsLongAsAnyOfItIsHeld(): void
    {
        $sheet = fn (array $scale): array => ['id' => 'a', 'name' => 'A', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 1, 'depth' => 1, 'divisions' => 8]], 'position' => ['y' => 2.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
            'scale' => $scale, 'motion' => ['mover' => 'cloth', 'cloth' => ['hold' => [['source' => 'rim', 'rim' => ['within' => 0.01, 'softness' => 0.0]]]]]];
        $grown = self::frames($sheet(self::keyed([1 => 0.1, 20 => 2.0])));
        self::assertEqualsWithDelta([0.1, 0.1], self::across($grown[1]), 1e-6);
        self::assertEqualsWithDelta([2.0, 2.0], self::across($grown[40]), 1e-6);
        $lowest = static fn (array $frames): float => min(array_column(array_chunk($frames[40]->of('a', Track::VERTICES), 3), 1));
        $made = self::frames($sheet(self::keyed([1 => 2.0, 20 => 2.0])));
        self::assertEqualsWithDelta($lowest($made), $lowest($grown), 0.02, 'it hangs through as one that was of that size from the beginning');
    }

    /** What is let go keeps the size that it has then, whatever its keys say later, and is not shot apart or together. */
    #[Group('slow')]
    public function testWhatBendsKeepsTheSizeAtWhichItIsLetGo(): void
    {
        foreach (['cloth' => ['kind' => 'sheet', 'sheet' => ['width' => 1, 'depth' => 1, 'divisions' => 8]], 'soft' => ['kind' => 'box', 'box' => ['width' => 1, 'height' => 1, 'depth' => 1, 'divisions' => 4]]] as $mover => $source) {
            $frames = self::frames(['id' => 'a', 'name' => 'A', 'source' => $source, 'position' => ['y' => 30.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 15]],
                'scale' => self::keyed([1 => 0.2, 10 => 1.5, 20 => 1.5, 40 => 4.0]), 'motion' => ['mover' => $mover, $mover => $mover === 'soft' ? ['fineness' => 4] : []]]);
            self::assertEqualsWithDelta([0.2, 0.2], self::across($frames[1]), 1e-6, $mover);
            foreach ([10, 14, 16, 22, 40] as $number) {
                self::assertEqualsWithDelta([1.5, 1.5], self::across($frames[$number]), 0.01, "{$mover}, frame {$number}");
            }
        }
    }

    /** A later key decides at which size it is made, and that what it weighs from the first frame on: then nothing may be kept. */
    public function testWhatALaterKeyMakesHeavierIsBakedFromTheBeginning(): void
    {
        $upTo = static function (float $size, int $cue, int $frame): string {
            $shot = Shot::read(['version' => 2, 'frames' => 40, 'cues' => [['id' => 'go', 'name' => 'Go', 'frame' => $cue]], 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['kind' => 'sheet', 'sheet' => ['divisions' => 2]], 'break' => ['pattern' => 'whole'],
                'release' => ['trigger' => 'cue', 'cue' => ['cue' => 'go']], 'scale' => self::keyed([1 => 1.0, 20 => $size]), 'motion' => ['mover' => 'cloth']]]]);

            return (new Pipeline(new MemoryStore(), new NoAssets()))->acting($shot)[1]->upTo($frame);
        };
        self::assertNotSame($upTo(1.5, 25, 1), $upTo(2.0, 25, 1));
        self::assertSame($upTo(0.5, 25, 1), $upTo(0.7, 25, 1), 'it is made at the size it has at first');
        self::assertNotSame($upTo(1.5, 15, 1), $upTo(1.5, 25, 1), 'the cue comes before it is as large');
        self::assertSame($upTo(1.5, 25, 10), $upTo(1.5, 30, 10));
    }

    /** What is still growing when it is let go stays as large as it is, all but for a breath. */
    #[Group('slow')]
    public function testWhatIsLetGoWhileItGrowsIsNotShotApart(): void
    {
        foreach (['cloth' => ['kind' => 'sheet', 'sheet' => ['width' => 1, 'depth' => 1, 'divisions' => 8]], 'soft' => ['kind' => 'box', 'box' => ['width' => 1, 'height' => 1, 'depth' => 1, 'divisions' => 4]]] as $mover => $source) {
            $frames = self::frames(['id' => 'a', 'name' => 'A', 'source' => $source, 'position' => ['y' => 30.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 11]],
                'scale' => self::keyed([1 => 0.5, 21 => 1.5]), 'motion' => ['mover' => $mover, $mover => ['damping' => 0.5] + ($mover === 'soft' ? ['fineness' => 4] : [])]]);
            self::assertEqualsWithDelta([1.0, 1.0], self::across($frames[11]), 1e-6, $mover);
            foreach ([12, 16, 24, 40] as $number) {
                self::assertEqualsWithDelta([1.0, 1.0], self::across($frames[$number]), 0.12, "{$mover}, frame {$number}");
            }
        }
    }
}
