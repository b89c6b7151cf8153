<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Support\ShotBook;
use Tests\TestCase;

/** What a force does where one looks. */
final class ForceTest extends TestCase
{
    public function testItsArrowsLieAllOverTheShot(): void
    {
        $shot = app(ShotBook::class)->create('Field', ['version' => 2, 'frames' => 24, 'forces' => [
            ['id' => 'g', 'name' => 'Gravity'],
            ['id' => 'p', 'name' => 'Pull', 'force' => 'pull', 'pull' => ['law' => 'grows', 'strength' => 2.0, 'calm' => 0.0]],
            ['id' => 'w', 'name' => 'Wind', 'force' => 'wind', 'wind' => ['velocity' => ['x' => 3.0], 'turbulence' => 0]],
            ['id' => 'off', 'name' => 'Off', 'on' => false],
        ], 'props' => [['id' => 'box', 'name' => 'Box', 'source' => ['box' => ['width' => 1.0, 'height' => 2.0, 'depth' => 1.0]], 'position' => ['y' => 1.0]]]], 'start');
        $field = $this->getJson("/api/shots/{$shot->id}/forces/g/field?frame=3")->assertOk()->json();
        self::assertEqualsWithDelta(9.80665, $field['most'], 1e-9);
        self::assertFalse($field['air']);
        self::assertSame(count($field['places']), count($field['ways']));
        $places = array_chunk($field['places'], 3);
        // Beyond the box on all sides.
        self::assertLessThan(-0.4, min(array_column($places, 1)));
        self::assertGreaterThan(2.4, max(array_column($places, 1)));
        self::assertEqualsWithDelta($field['apart'], $places[1][2] - $places[0][2], 1e-9);
        $pull = $this->getJson("/api/shots/{$shot->id}/forces/p/field")->assertOk()->json();
        foreach (array_chunk($pull['ways'], 3) as $k => $way) {
            self::assertEqualsWithDelta(array_map(static fn (float $value): float => -2.0 * $value, $places[$k]), $way, 1e-9);
        }
        $this->getJson("/api/shots/{$shot->id}/forces/w/field")->assertOk()->assertJsonPath('air', true)->assertJsonPath('most', 3);
        $this->getJson("/api/shots/{$shot->id}/forces/p/probe?frame=1&x=0.5&y=-1&z=0")->assertOk()->assertJsonPath('way', [-1, 2, 0]);
        // All together: the pull and gravity push, the wind is told apart; those that act on another prop only do not.
        $all = $this->getJson("/api/shots/{$shot->id}/forces/_all/probe?frame=1&x=0.5&y=-1&z=0&prop=box")->assertOk()->json();
        self::assertEqualsWithDelta([-1.0, 2.0 - 9.80665, 0.0], $all['way'], 1e-9);
        self::assertSame([['Gravity', false], ['Pull', false], ['Wind', true]], array_map(static fn (array $each): array => [$each['name'], $each['air']], $all['each']));
        self::assertEqualsWithDelta([3.0, 0.0, 0.0], $all['each'][2]['way'], 1e-9);
        $this->getJson("/api/shots/{$shot->id}/forces/_all/field?prop=box")->assertOk()->assertJsonPath('air', false);
        $this->getJson("/api/shots/{$shot->id}/forces/off/field")->assertNotFound()->assertJsonPath('title', 'No such force');
        $this->getJson("/api/shots/{$shot->id}/forces/gone/probe")->assertNotFound();
        $this->getJson("/api/shots/{$shot->id}/forces/g/field?frame=nonsense")->assertOk();
    }
}
