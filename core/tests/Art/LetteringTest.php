<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Art;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Art\Lettering;
use YardBreak\Core\Art\Shape;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Words as the font has them, as solids. */
final class LetteringTest extends TestCase
{
    /** @param array<string, mixed> $settings */
    private static function shot(array $settings): Shot
    {
        return Shot::read(['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['kind' => 'lettering', 'lettering' => $settings], 'break' => ['pattern' => 'parts', 'parts' => ['stacked' => true]]]]]);
    }

    /** @param array<string, mixed> $settings */
    private static function mesh(array $settings): TriangleMesh
    {
        return (new Pipeline(new MemoryStore(), new NoAssets()))->prepared(self::shot($settings)->props[0]);
    }

    private static function width(TriangleMesh $mesh): float
    {
        [$low, $high] = $mesh->bounds();

        return $high[0] - $low[0];
    }

    public function testEachFontMakesSolidsOneALetter(): void
    {
        foreach (['slab', 'serif', 'sans'] as $font) {
            $shot = self::shot(['text' => 'Tidemill 12', 'font' => $font]);
            $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
            self::assertTrue(Topology::of($pipeline->prepared($shot->props[0]))->isWatertight(), $font);
            $pieces = $pipeline->broken($shot->props[0]);
            self::assertCount(10, $pieces->pieces, $font);
            self::assertGreaterThan(0.0, min(array_map(static fn (MassProperties $mass): float => $mass->volume, $pieces->mass)));
        }
    }

    /** The font's own numbers: an em is 1,000 units, and H of the slab serif is as wide and high as its outline. */
    public function testSizeAndSpacingAreWhatTheySay(): void
    {
        foreach ([0.2, 0.5] as $size) {
            [$art, $em] = Lettering::of('H', 'slab', 0.0);
            self::assertSame(1000.0, $em);
            [$left, $low, $right, $high] = $art->bounds();
            $mesh = self::mesh(['text' => 'H', 'size' => $size, 'bevel' => 0, 'slab' => 0.03]);
            [[$x0, $y0, $z0], [$x1, $y1, $z1]] = $mesh->bounds();
            self::assertEqualsWithDelta([$size * ($right - $left) / $em, $size * ($high - $low) / $em, 0.03], [$x1 - $x0, $y1 - $y0, $z1 - $z0], 1e-6);
            // The same height beside others: a letter is not blown up when a lower word is written.
            self::assertEqualsWithDelta($size * 0.64, $y1 - $y0, 0.04 * $size, 'a capital is about two thirds as high');
        }
        $close = self::width(self::mesh(['text' => 'oooo', 'spacing' => 0.0, 'size' => 0.4]));
        self::assertEqualsWithDelta($close + 3 * 0.1 * 0.4, self::width(self::mesh(['text' => 'oooo', 'spacing' => 0.1, 'size' => 0.4])), 1e-6);
        self::assertGreaterThan(self::width(self::mesh(['text' => 'oo'])) + 0.05, self::width(self::mesh(['text' => 'o o'])), 'a blank is room');
    }

    /** An O has a hole: its area is that of the outer outline less the inner one, by the shoelace formula. */
    public function testLettersHaveTheirHoles(): void
    {
        [$art, $em] = Lettering::of('O', 'sans', 0.0);
        $areas = array_map(static function (array $outline): float {
            $sum = 0.0;
            foreach ($outline as $k => [$x, $y]) {
                [$u, $v] = $outline[$k + 1] ?? $outline[0];
                $sum += 0.5 * ($x * $v - $u * $y);
            }

            return $sum;
        }, $art->shapes[0]->outlines);
        self::assertCount(2, $areas);
        self::assertLessThan(0.0, $areas[0] * $areas[1], 'wound the other way round');
        $volume = MassProperties::of(self::mesh(['text' => 'O', 'font' => 'sans', 'size' => 0.5, 'bevel' => 0, 'slab' => 0.1]))->volume;
        self::assertEqualsWithDelta(abs($areas[0] + $areas[1]) * (0.5 / $em) ** 2 * 0.1, $volume, 1e-3 * $volume);
    }

    /** An accent is another glyph, set over the letter. */
    public function testAccentsStandOverTheirLetters(): void
    {
        [$plain] = Lettering::of('e', 'serif', 0.0);
        [$accent] = Lettering::of('é', 'serif', 0.0);
        self::assertCount(count($plain->shapes[0]->outlines) + 1, $accent->shapes[0]->outlines);
        self::assertGreaterThan($plain->bounds()[3] + 50.0, $accent->bounds()[3]);
        $letters = Lettering::of('Äöß', 'slab', 0.0)[0]->shapes;
        self::assertContainsOnlyInstancesOf(Shape::class, $letters);
        self::assertCount(3, $letters);
    }

    public function testWhatCannotBeSetIsSaid(): void
    {
        foreach (['' => 'Nothing is written', '   ' => 'Nothing is written', 'a☃b☃' => 'The font has no “☃”'] as $text => $words) {
            try {
                Lettering::of((string) $text, 'sans', 0.0);
                self::fail((string) $text);
            } catch (BadFile $bad) {
                self::assertStringContainsString($words, $bad->getMessage());
            }
        }
    }
}
