<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Rigid\HullBuilder;
use YardBreak\Core\Motion\Rigid\Inertia;
use YardBreak\Core\Motion\Rigid\RigidWorld;

/**
 * A half-round arch of stones without mortar stands on friction alone if it is thick enough: at least 0.1075 of its mean radius
 * (Couplet 1730 gave 0.101; corrected by Milankovitch 1907 and Heyman 1969, "The safety of masonry arches"; from memory). Thinner, hinges open at the crown, the haunches and the springings.
 */
final class ArchTest extends TestCase
{
    private const STONES = 17;

    /** @return float how far its crown has sunk after some seconds, of its radius */
    private static function sunk(float $thickness, float $seconds): float
    {
        $world = new RigidWorld([0.0, -9.80665, 0.0], 0.0, 1.0, 0.0);
        [$inner, $outer, $half] = [1.0 - 0.5 * $thickness, 1.0 + 0.5 * $thickness, 0.2];
        $crown = 0;
        for ($k = 0; $k < self::STONES; $k++) {
            [$from, $to] = [M_PI * $k / self::STONES, M_PI * ($k + 1) / self::STONES];
            $x = $y = $z = [];
            foreach ([-$half, $half] as $side) {
                foreach ([[$from, $inner], [$from, $outer], [$to, $outer], [$to, $inner]] as [$angle, $radius]) {
                    $x[] = $radius * cos($angle);
                    $y[] = $radius * sin($angle);
                    $z[] = $side;
                }
            }
            $mass = MassProperties::of(new TriangleMesh($x, $y, $z, [0, 2, 1, 0, 3, 2, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 1, 2, 6, 1, 6, 5, 2, 3, 7, 2, 7, 6, 3, 0, 4, 3, 4, 7]));
            [$cx, $cy, $cz] = $mass->centre;
            $sign = $mass->volume < 0.0 ? -1.0 : 1.0;
            $body = $world->bodies->addBody(new Inertia(2000.0 * $sign * $mass->volume, [0.0, 0.0, 0.0], array_map(static fn (float $i): float => 2000.0 * $sign * $i, $mass->inertia)), [$cx, $cy, $cz], Quaternion::IDENTITY);
            $hull = HullBuilder::of(array_map(static fn (float $v): float => $v - $cx, $x), array_map(static fn (float $v): float => $v - $cy, $y), array_map(static fn (float $v): float => $v - $cz, $z));
            // Siblings keep the contact they are built with.
            $world->bodies->addShape($body, $hull, [0.0, 0.0, 0.0], $k, 1.0, 0.0);
            $crown = $k === intdiv(self::STONES, 2) ? $body : $crown;
        }
        $was = $world->bodies->placeOf($crown)[1];
        for ($s = 0; $s < 120 * $seconds; $s++) {
            $world->step(1.0 / 120.0);
        }

        return $was - $world->bodies->placeOf($crown)[1];
    }

    public function testAThickArchStandsAndAThinOneFalls(): void
    {
        // Measured: 0.110 falls, 0.115 stands.
        self::assertLessThan(0.02, self::sunk(0.12, 6.0), 'a tenth thicker than it must be');
        self::assertGreaterThan(0.8, self::sunk(0.1, 3.0), 'a tenth thinner');
    }
}
