<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Fast hard pieces: what they only pass along does not stop them, what is in their way does. */
final class PassingTest extends TestCase
{
    /**
     * @param array<string, mixed> $document
     *
     * @return list<Frame>
     */
    private static function frames(array $document): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read(['version' => 2] + $document)), false);
    }

    /** @return array<string, mixed> */
    private static function thing(string $kind, float $size): array
    {
        return $kind === 'box'
            ? ['kind' => 'box', 'box' => ['width' => $size, 'height' => $size, 'depth' => $size, 'divisions' => 1]]
            : ['kind' => 'ball', 'ball' => ['width' => $size, 'divisions' => 5]];
    }

    /** @return iterable<string, array{string, float, bool}> */
    public static function slides(): iterable
    {
        foreach (['box', 'ball'] as $kind) {
            foreach ([1.0, 3.0, 10.0] as $speed) {
                yield "a {$kind} at {$speed} m/s over stones that are held" => [$kind, $speed, false];
            }
            yield "a {$kind} over stones that lie there loose" => [$kind, 3.0, true];
        }
    }

    /** A floor of stones as high as each other, without friction: whoever slides over it goes on as fast, as high, and as straight. */
    #[DataProvider('slides')]
    #[Group('thorough')]
    public function testASlideFromStoneToStoneIsNotDisturbed(string $kind, float $speed, bool $loose): void
    {
        $frames = self::frames(['frames' => (int) (24 * min(2.0, 6.0 / $speed)), 'planes' => [['id' => 'f', 'name' => 'F', 'height' => -0.1]], 'props' => [
            [
                'id' => 'stones', 'name' => 'Stones', 'source' => ['box' => ['width' => 8.0, 'height' => 0.1, 'depth' => 1.0, 'divisions' => 1]], 'position' => ['y' => -0.05],
                'break' => ['pattern' => 'courses', 'courses' => ['length' => 0.13, 'height' => 1.0]], 'release' => ['trigger' => $loose ? 'frame' : 'never', 'frame' => ['frame' => 1]], 'motion' => ['rigid' => ['friction' => 0.0, 'density' => 25000]],
            ],
            [
                'id' => 'a', 'name' => 'A', 'source' => self::thing($kind, 0.1), 'position' => ['x' => -3.5, 'y' => 0.05], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
                'motion' => ['rigid' => ['before' => 'falls', 'friction' => 0.0, 'restitution' => 0.0, 'velocity' => ['x' => $speed]]],
            ],
        ]]);
        $before = -3.5;
        foreach (array_slice($frames, 1) as $frame) {
            [$x, $y, $z] = $frame->of('a', Track::POSE);
            self::assertEqualsWithDelta($speed, 24.0 * ($x - $before), 0.01 * $speed, "speed at frame {$frame->number}");
            // A ball is made of faces, and lies on one.
            self::assertEqualsWithDelta(0.05, $y, $kind === 'ball' ? 0.005 : 0.0005, "height at frame {$frame->number}");
            self::assertEqualsWithDelta(0.0, $z, 0.002);
            $before = (float) $x;
        }
    }

    /** @return iterable<string, array{string, float}> */
    public static function shots(): iterable
    {
        foreach (['ball' => 0.05, 'box' => 0.1, 'small ball' => 0.02] as $kind => $size) {
            yield $kind => [$kind === 'box' ? 'box' : 'ball', $size];
        }
    }

    /** Up to 100 m/s, straight and at an angle, spinning: against a wall of 10 mm, one of stones, one that comes towards it, and the floor. */
    #[DataProvider('shots')]
    #[Group('thorough')]
    public function testNothingGoesThroughAThinWall(string $kind, float $size): void
    {
        foreach ([20.0, 50.0, 100.0] as $speed) {
            foreach ([0.0, 45.0, 70.0] as $degrees) {
                foreach (['wall', 'stones', 'moving', 'floor'] as $what) {
                    [$c, $s] = [cos(deg2rad($degrees)), sin(deg2rad($degrees))];
                    $wall = [
                        'id' => 'wall', 'name' => 'Wall', 'source' => ['box' => ['width' => 0.01, 'height' => 8.0, 'depth' => 8.0, 'divisions' => 1]], 'release' => ['trigger' => 'never'],
                        'break' => $what === 'stones' ? ['pattern' => 'courses', 'courses' => ['length' => 1.0, 'height' => 1.0]] : ['pattern' => 'whole'],
                        'position' => $what === 'moving' ? ['x' => ['keys' => [['frame' => 1, 'value' => 0.6, 'ease' => 'linear'], ['frame' => 12, 'value' => -3.0, 'ease' => 'linear']]]] : [],
                    ];
                    $down = $what === 'floor';
                    $frames = self::frames(['frames' => 7, 'forces' => [], 'planes' => $down ? [['id' => 'f', 'name' => 'F']] : [], 'props' => [...$down ? [] : [$wall], [
                        'id' => 'a', 'name' => 'A', 'source' => self::thing($kind, $size), 'position' => $down ? ['y' => 1.1] : ['x' => -1.1 * $c, 'y' => -1.1 * $s], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
                        'motion' => ['rigid' => ['before' => 'falls', 'velocity' => $down ? ['x' => $speed * $s, 'y' => -$speed * $c] : ['x' => $speed * $c, 'y' => $speed * $s, 'z' => 3.0], 'angularVelocity' => ['z' => 900.0]]],
                    ]]]);
                    foreach ($frames as $frame) {
                        [$x, $y] = $frame->of('a', Track::POSE);
                        $side = $down ? $y : ($what === 'moving' ? $frame->of('wall', Track::POSE)[0] : 0.0) - $x;
                        self::assertGreaterThan(0.0, $side, "{$what} at {$speed} m/s and {$degrees} degrees, frame {$frame->number}");
                    }
                }
            }
        }
    }
}
