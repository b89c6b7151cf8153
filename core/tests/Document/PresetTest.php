<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Document;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Cloth\Fabric;

/** What a prop can be told to be like. */
final class PresetTest extends TestCase
{
    /** @return array<string, list<array{name: string, source: string, values: array<string, float>}>> by mover */
    private static function presets(): array
    {
        $found = [];
        foreach (Schema::load()->kinds('mover') as $kind) {
            $presets = Schema::load()->field(['props', '0', 'motion', $kind])['x-presets'] ?? [];
            self::assertIsArray($presets);
            /** @var list<array{name: string, source: string, values: array<string, float>}> $presets */
            $found[$kind] = $presets;
        }

        return array_filter($found);
    }

    public function testTheirValuesAreThoseOfSettingsAndWithinTheirLimits(): void
    {
        $presets = self::presets();
        self::assertSame(['cloth', 'rigid'], array_values(array_intersect(['cloth', 'rigid'], array_keys($presets))));
        foreach ($presets as $kind => $list) {
            self::assertCount(count($list), array_unique(array_column($list, 'name')));
            foreach ($list as $preset) {
                self::assertNotSame('', $preset['source']);
                $shot = Shot::read(['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'motion' => ['mover' => $kind, $kind => $preset['values']]]]]);
                foreach ($preset['values'] as $name => $value) {
                    self::assertSame((float) $value, $shot->props[0]->mover->settings->float($name), "{$preset['name']}: {$name}");
                }
            }
        }
    }

    /** A thin plate: E t for each metre of width along it, E t3 / 12 (1 - v2) across it (any text on plates). */
    public function testFoilAndPaperAreThinPlates(): void
    {
        $cloth = array_column(self::presets()['cloth'], 'values', 'name');
        foreach (['Foil' => [70e9, 1e-5, 0.35, 2700.0 * 1e-5], 'Paper' => [4e9, 1e-4, 0.3, 0.08]] as $name => [$modulus, $thickness, $poisson, $mass]) {
            $values = $cloth[$name];
            self::assertEqualsWithDelta(1000.0 * $mass, $values['mass'], 0.5);
            self::assertEqualsWithDelta(100.0 * Fabric::PULL / ($modulus * $thickness), $values['stretch'], 0.02 * $values['stretch'], 'percent under 100 N/m');
            $rigidity = $modulus * $thickness ** 3 / (12.0 * (1.0 - $poisson ** 2));
            self::assertEqualsWithDelta($rigidity, Fabric::rigidity($mass, $values['overhang']), 0.12 * $rigidity);
        }
    }
}
