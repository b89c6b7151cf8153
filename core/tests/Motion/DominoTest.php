<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** A row of dominoes. */
#[Group('slow')]
final class DominoTest extends TestCase
{
    private const COUNT = 14;

    private const G = 9.81;

    /** How fast the wave goes through a row, m/s: from when one after the other has turned by three degrees. */
    private static function speed(float $height, float $gap, float $fps): float
    {
        $thick = 0.15 * $height;
        $pitch = $thick + $gap * $height;
        $props = [];
        for ($k = 0; $k < self::COUNT; $k++) {
            $props[] = ['id' => "d{$k}", 'name' => "D{$k}", 'source' => ['box' => ['width' => $thick, 'height' => $height, 'depth' => 0.5 * $height, 'divisions' => 1]], 'position' => ['x' => $k * $pitch, 'y' => 0.5 * $height],
                'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'friction' => 0.3, 'restitution' => 0.05, ...$k === 0 ? ['angularVelocity' => ['z' => rad2deg(-1.6 * sqrt(self::G / $height))], 'velocity' => ['x' => 0.8 * sqrt(self::G * $height)]] : []]]];
        }
        $turned = [];
        foreach ((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read(['version' => 2, 'frames' => 180, 'fps' => $fps, 'props' => $props])) as $number => $frame) {
            foreach (array_keys($props) as $k) {
                // Turned about z: the real part of the quaternion is the cosine of half the angle.
                if (! isset($turned[$k]) && abs((float) $frame->of("d{$k}", Track::POSE)[6]) < cos(deg2rad(1.5))) {
                    $turned[$k] = $number / $fps;
                }
            }
        }
        self::assertCount(self::COUNT, $turned, 'all fall');
        ksort($turned);

        // Where it goes at its own speed, whatever the first push was.
        return (self::COUNT - 1 - 5) * $pitch / ($turned[self::COUNT - 1] - $turned[5]);
    }

    /**
     * The speed goes with the root of g times the height, at one shape (McLachlan, Beaupre, Cox and Gore 1983, "Falling dominoes", SIAM Review
     * 25, 403), and is of the size that was measured (Stronge and Shu 1988, Proc. R. Soc. A 418: about once to one and a half times that root; from memory).
     */
    public function testTheWaveGoesWithTheRootOfTheHeight(): void
    {
        foreach ([0.2, 0.35] as $gap) {
            // As many frames in the time that such a one takes to fall, so that steps are alike.
            [$small, $large] = [self::speed(0.25, $gap, 120.0), self::speed(1.0, $gap, 60.0)];
            self::assertEqualsWithDelta($small / sqrt(self::G * 0.25), $large / sqrt(self::G * 1.0), 0.06, "gap {$gap}");
            self::assertGreaterThan(0.8, $large / sqrt(self::G));
            self::assertLessThan(2.0, $large / sqrt(self::G));
        }
    }
}
