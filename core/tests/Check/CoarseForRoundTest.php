<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\HandOff\PosedPieces;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Crossings;

/** Cloth is said to be too coarse for a ball where the ball comes through it, triangle by triangle, and not where it does not. */
final class CoarseForRoundTest extends TestCase
{
    #[TestWith([20, null, true], 'edges of 9 cm on a ball of 60')]
    #[TestWith([20, 0.0085, false], 'as far off as is offered')]
    #[TestWith([40, null, false], 'edges half as long')]
    public function testItIsSaidWhereTheBallComesThrough(int $divisions, ?float $gap, bool $through): void
    {
        $shot = Shot::read(['version' => 2, 'frames' => 24, 'props' => [
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.6]], 'position' => ['y' => 0.3], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
            ['id' => 'sheet', 'name' => 'Sheet', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 1.6, 'depth' => 1.6, 'divisions' => $divisions]], 'position' => ['y' => 0.7], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'cloth'] + ($gap === null ? [] : ['cloth' => ['gap' => $gap]])],
        ]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $findings = Checks::of($shot, $pipeline);
        self::assertSame($through ? ['/props/1/motion/cloth/gap'] : [], array_column($findings, 'pointer'));
        if ($through) {
            self::assertSame(0.0085, $findings[0]->remedy['value'] ?? null);
        }
        $frame = null;
        foreach ($pipeline->frames($shot) as $frame) {
            // Only the last is looked at: it lies on the ball.
        }
        self::assertNotNull($frame);
        $surfaces = [];
        foreach ($shot->props as $prop) {
            $mesh = TriangleMesh::together(iterator_to_array(PosedPieces::at($prop, $pipeline->broken($prop), $frame), false));
            array_push($surfaces, array_map(null, array_values($mesh->x), array_values($mesh->y), array_values($mesh->z)), array_values($mesh->triangles));
        }
        $crossed = Crossings::count(...$surfaces);
        self::assertSame($through, $crossed > 0, "{$crossed} pairs cross");
    }
}
