<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\SiteGrid;
use YardBreak\Core\Math\RandomStream;

/** The grid finds what looking at every site finds. */
final class SiteGridTest extends TestCase
{
    /**
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     */
    private static function bySearch(array $x, array $y, array $z, float $px, float $py, float $pz): int
    {
        $best = INF;
        $found = 0;
        foreach ($x as $s => $sx) {
            $dx = $sx - $px;
            $dy = $y[$s] - $py;
            $dz = $z[$s] - $pz;
            $d = $dx * $dx + $dy * $dy + $dz * $dz;
            if ($d < $best) {
                $best = $d;
                $found = $s;
            }
        }

        return $found;
    }

    /** @return list<float> */
    private static function numbers(RandomStream $stream, int $count, float $width, float $raster): array
    {
        $numbers = [];
        for ($k = 0; $k < $count; $k++) {
            $number = $stream->between(-$width, $width);
            $numbers[] = $raster > 0.0 ? round($number / $raster) * $raster : $number;
        }

        return $numbers;
    }

    public function testTheNearestSiteIsTheNearest(): void
    {
        $stream = RandomStream::named(5, 'site grid');
        // In a cube, a plate, a rod; on a raster, where many are equally near; few; far from the origin.
        $sets = [[300, 1.0, 1.0, 1.0, 0.0], [300, 1.0, 1.0, 1e-4, 0.0], [200, 5.0, 0.01, 0.01, 0.0], [400, 1.0, 1.0, 1.0, 0.25], [3, 1.0, 1.0, 1.0, 0.0], [1, 1.0, 1.0, 1.0, 0.0]];
        foreach ($sets as [$count, $wx, $wy, $wz, $raster]) {
            $x = self::numbers($stream, $count, $wx, $raster);
            $y = self::numbers($stream, $count, $wy, $raster);
            $z = self::numbers($stream, $count, $wz, $raster);
            // Some of them outside the grid.
            $qx = self::numbers($stream, 200, 1.5 * $wx, 0.5 * $raster);
            $qy = self::numbers($stream, 200, 1.5 * $wy, 0.5 * $raster);
            $qz = self::numbers($stream, 200, 1.5 * $wz, 0.5 * $raster);
            $wanted = [];
            foreach ($qx as $q => $px) {
                $wanted[] = self::bySearch($x, $y, $z, $px, $qy[$q], $qz[$q]);
            }
            $grid = SiteGrid::of($x, $y, $z);
            self::assertSame($wanted, $grid->nearest($x, $y, $z, $qx, $qy, $qz));
            $guess = array_map(static fn (): int => (int) ($stream->float() * $count), $qx);
            self::assertSame($wanted, $grid->nearest($x, $y, $z, $qx, $qy, $qz, $guess), 'A guess, even a bad one, changes nothing.');
            self::assertSame($wanted, SiteGrid::of($x, $y, $z, 0.1 * $wx)->nearest($x, $y, $z, $qx, $qy, $qz));
        }
    }
}
