<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Support\ShotBook;
use PHPUnit\Framework\Attributes\Group;
use Tests\TestCase;

/** Where a fastening holds, for the picture. */
final class JointTest extends TestCase
{
    #[Group('slow')]
    public function testItSaysWhereAndAtHowManyPlacesClothIsFastened(): void
    {
        $lace = ['name' => 'Lace', 'joint' => 'fastening', 'prop' => 'sheet', 'other' => 'bar', 'fastening' => ['within' => 0.02]];
        $shot = app(ShotBook::class)->create('Laced', ['version' => 2, 'frames' => 24, 'joints' => [
            ['id' => 'lace', ...$lace],
            ['id' => 'wide', ...$lace, 'fastening' => ['within' => 0.3]],
            ['id' => 'wrong', ...$lace, 'other' => 'sheet'],
            ['id' => 'off', ...$lace, 'on' => false],
            ['id' => 'rope', 'name' => 'Rope', 'prop' => 'bar'],
        ], 'props' => [
            ['id' => 'sheet', 'name' => 'Sheet', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 1.0, 'depth' => 1.0, 'divisions' => 10]], 'position' => ['x' => 2.0, 'y' => 1.5], 'rotation' => ['x' => 90], 'break' => ['pattern' => 'whole'], 'motion' => ['mover' => 'cloth']],
            ['id' => 'bar', 'name' => 'Bar', 'source' => ['box' => ['width' => 1.1, 'height' => 0.05, 'depth' => 0.05, 'divisions' => 1]], 'position' => ['x' => 2.0, 'y' => 2.025]],
        ]], 'start');
        $at = fn (string $joint): mixed => $this->getJson("/api/shots/{$shot->id}/joints/{$joint}/places")->assertOk()->json();
        $lace = $at('lace');
        self::assertSame(11, $lace['count']);
        self::assertEqualsWithDelta([[1.5, 2.0, 0.0], [1.6, 2.0, 0.0]], array_slice($lace['places'], 0, 2), 1e-9, 'in the shot');
        self::assertSame(44, $at('wide')['count'], 'four rows');
        self::assertSame(['count' => 0, 'places' => []], $at('wrong'));
        self::assertSame(['count' => 0, 'places' => []], $at('rope'));
        $this->getJson("/api/shots/{$shot->id}/joints/off/places")->assertNotFound()->assertJsonPath('title', 'No such joint');
        $this->getJson("/api/shots/{$shot->id}/joints/gone/places")->assertNotFound();
    }
}
