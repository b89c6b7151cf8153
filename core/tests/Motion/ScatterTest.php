<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Scatter;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** A rough floor sends what hits it on in ways of its own. */
final class ScatterTest extends TestCase
{
    /** Facets lean evenly over the cap that they may lean in: half of them within 1/sqrt(2) of the angle, as many to each side. */
    public function testFacetsLeanEvenly(): void
    {
        $scatter = Scatter::of(0.4, 7) ?? self::fail();
        foreach ([[0.0, 1.0, 0.0], [0.6, 0.8, 0.0], [1.0, 0.0, 0.0]] as $normal) {
            $within = 0;
            $mean = [0.0, 0.0, 0.0];
            for ($n = 0; $n < 4000; $n++) {
                $facet = $scatter->facet($normal, 'a', $n);
                self::assertEqualsWithDelta(1.0, $facet[0] ** 2 + $facet[1] ** 2 + $facet[2] ** 2, 1e-12);
                $lean = acos(min(1.0, $facet[0] * $normal[0] + $facet[1] * $normal[1] + $facet[2] * $normal[2]));
                self::assertLessThanOrEqual(0.4 + 1e-9, $lean);
                $within += $lean < 0.4 / sqrt(2.0) ? 1 : 0;
                $mean = [$mean[0] + $facet[0], $mean[1] + $facet[1], $mean[2] + $facet[2]];
            }
            // Three standard deviations of 4,000 tosses.
            self::assertEqualsWithDelta(2000, $within, 95);
            $length = sqrt($mean[0] ** 2 + $mean[1] ** 2 + $mean[2] ** 2);
            foreach ([0, 1, 2] as $k) {
                self::assertEqualsWithDelta($normal[$k], $mean[$k] / $length, 0.015);
            }
        }
    }

    /** A point without friction that meets a leaning facet: the mirror law for a full bounce, its share along the facet for none (any text on mechanics). */
    public function testAHitIsThatOnTheFacet(): void
    {
        [$lean, $speed] = [0.1, 4.0];
        $facet = [sin($lean), cos($lean), 0.0];
        foreach ([0.0, 1.0] as $e) {
            // Straight down on it: into the facet by cos, kept along it by sin.
            $exact = [(1.0 + $e) * cos($lean) * $speed * sin($lean), -$speed + (1.0 + $e) * $speed * cos($lean) ** 2, 0.0];
            $sent = Scatter::sent([0.0, $e * $speed, 0.0], [0.0, 1.0, 0.0], $facet, $speed, $e);
            self::assertEqualsWithDelta($exact[0], $sent[0], 0.02 * $speed);
            self::assertEqualsWithDelta(max(0.0, $exact[1]), $sent[1], 0.02 * $speed);
        }
        $random = RandomStream::named(3, 'scatter-test');
        for ($n = 0; $n < 500; $n++) {
            $e = $random->float();
            [$x, $y, $z] = $random->direction();
            $came = [$x * 5.0, -abs($y) * 5.0, $z * 5.0];
            $after = [$came[0], -$e * $came[1], $came[2]];
            $facet = (Scatter::of(0.7, 1) ?? self::fail())->facet([0.0, 1.0, 0.0], 'b', $n);
            $sent = Scatter::sent($after, [0.0, 1.0, 0.0], $facet, -$came[1], $e);
            self::assertGreaterThanOrEqual(0.0, $sent[1]);
            self::assertLessThanOrEqual(25.0 + 1e-9, $sent[0] ** 2 + $sent[1] ** 2 + $sent[2] ** 2, 'no energy from nothing');
        }
    }

    /**
     * A tray of crumbs that falls straight down.
     *
     * @return list<Frame>
     */
    private static function fall(string $mover, float $scatter, int $seed = 1): array
    {
        $document = ['version' => 2, 'frames' => 72, 'planes' => [['id' => 'f', 'name' => 'F', 'restitution' => 0.4, 'scatter' => $scatter, 'scatterSeed' => $seed]], 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 2.0, 'height' => 0.2, 'depth' => 2.0, 'divisions' => 1]], 'position' => ['y' => 1.5],
            'break' => ['pattern' => 'courses', 'courses' => ['length' => 0.25, 'height' => 0.2, 'offset' => 0.0]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]],
            'motion' => ['mover' => $mover, $mover => ['friction' => 0.2, 'restitution' => 0.4]],
        ]]];

        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read($document)), false);
    }

    /** How far pieces go from below where they were on the mean, m. */
    private static function strayed(Frame $start, Frame $end): float
    {
        $sum = 0.0;
        $then = array_chunk($end->of('a', Track::POSE), 7);
        foreach (array_chunk($start->of('a', Track::POSE), 7) as $k => [$x, , $z]) {
            $sum += hypot($then[$k][0] - $x, $then[$k][2] - $z);
        }

        return $sum / count($then);
    }

    public function testARoughFloorSendsEverythingAnotherWay(): void
    {
        foreach (['rigid', 'light'] as $mover) {
            $smooth = self::fall($mover, 0.0);
            $rough = self::fall($mover, 20.0);
            $rougher = self::fall($mover, 40.0);
            self::assertGreaterThan(self::strayed($smooth[0], $smooth[71]) + 0.02, self::strayed($rough[0], $rough[71]), $mover);
            self::assertGreaterThan(self::strayed($rough[0], $rough[71]), self::strayed($rougher[0], $rougher[71]), $mover);
            self::assertSame($rough[71]->values, self::fall($mover, 20.0)[71]->values, 'the same again');
            self::assertNotSame($rough[71]->values, self::fall($mover, 20.0, 2)[71]->values, 'another seed, other ways');
            // The first hit is the first difference.
            self::assertSame($smooth[10]->values, $rough[10]->values);
        }
    }

    /** What falls as one thing and lands on many shapes is sent off once; one that only tumbles is not sent off by that. */
    #[Group('slow')]
    public function testNothingGainsEnergy(): void
    {
        foreach ([0.0, 2000.0, 3000.0] as $spin) {
            $document = ['version' => 2, 'frames' => 40, 'planes' => [['id' => 'f', 'name' => 'F', 'restitution' => 0.3, 'scatter' => 40]], 'props' => [[
                'id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 1.0, 'height' => 0.3, 'depth' => 1.0, 'divisions' => 1]], 'position' => ['y' => 1.0], 'break' => ['cellular' => ['pieces' => 60, 'seed' => 2]],
                'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'restitution' => 0.3, 'angularVelocity' => ['x' => $spin]]],
            ]]];
            $highest = INF;
            $mass = 0.3 * 1900.0;
            foreach ((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read($document)) as $frame) {
                // All its pieces are on one body; the first is as far from the middle as it was.
                $poses = array_chunk($frame->of('a', Track::POSE), 7);
                $middle = array_sum(array_column($poses, 1)) / count($poses);
                $energy = $frame->kinetic() + $mass * 9.80665 * $middle;
                self::assertLessThan($highest * 1.02 + 20.0, $energy, "frame {$frame->number}");
                $highest = min($highest, $energy);
            }
            self::assertLessThan(INF, $highest);
        }
    }
}
