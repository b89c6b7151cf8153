<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\FarAway;
use YardBreak\Core\Check\Finding;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Pipeline;

/** A cube of 2 m from a land survey, half a million metres off: it is said, and one press brings it here. */
final class FarAwayTest extends TestCase
{
    private string $path;

    private Pipeline $pipeline;

    protected function setUp(): void
    {
        $this->path = (string) tempnam(sys_get_temp_dir(), 'yard');
        $text = '';
        foreach ([[0, 0, 0], [2, 0, 0], [2, 2, 0], [0, 2, 0], [0, 0, 2], [2, 0, 2], [2, 2, 2], [0, 2, 2]] as [$x, $y, $z]) {
            $text .= sprintf("v %d %d %d\n", $x + 500000, $y + 40, $z - 500000);
        }
        file_put_contents($this->path, "{$text}f 1 4 3 2\nf 5 6 7 8\nf 1 2 6 5\nf 2 3 7 6\nf 3 4 8 7\nf 4 1 5 8\n");
        $this->pipeline = new Pipeline(new MemoryStore(), new ListedAssets([str_repeat('a', 64) => $this->path]));
    }

    protected function tearDown(): void
    {
        unlink($this->path);
    }

    /** @param array<string, mixed> $file */
    private static function shot(array $file = []): Shot
    {
        return Shot::read(Schema::load()->complete(['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['kind' => 'file', 'file' => $file + ['asset' => str_repeat('a', 64), 'fileName' => 'a.obj']]]]]));
    }

    public function testWhatLiesFarAwayIsBroughtHere(): void
    {
        $findings = (new FarAway())->findings(self::shot(), $this->pipeline);
        self::assertCount(1, $findings);
        self::assertStringContainsString('707.1 km', $findings[0]->text);
        self::assertStringContainsString('84.3 mm', $findings[0]->text, 'single precision, IEEE 754: 2^-23 of it');
        self::assertSame('/props/0/source/file/origin', $findings[0]->remedy['pointer'] ?? null);
        self::assertSame('base', $findings[0]->remedy['value']);
        self::assertSame([], (new FarAway())->findings(self::shot(['origin' => 'base']), $this->pipeline));
    }

    public function testItsOriginIsWhereItIsAskedFor(): void
    {
        foreach (['file' => [[500000.0, 40.0, -500000.0], [500002.0, 42.0, -499998.0]], 'base' => [[-1.0, 0.0, -1.0], [1.0, 2.0, 1.0]], 'middle' => [[-1.0, -1.0, -1.0], [1.0, 1.0, 1.0]]] as $origin => $bounds) {
            self::assertEquals($bounds, $this->pipeline->prepared(self::shot(['origin' => $origin])->props[0])->bounds(), $origin);
        }
        // Up is turned before, and the unit counts before.
        self::assertEquals([[-0.01, 0.0, -0.01], [0.01, 0.02, 0.01]], array_map(static fn (array $corner): array => array_map(static fn (float $v): float => round($v, 9) + 0.0, $corner), $this->pipeline->prepared(self::shot(['origin' => 'base', 'up' => 'z', 'units' => 'cm'])->props[0])->bounds()));
    }

    /** What is large may be far: a step is nothing to it. */
    public function testWhatIsLargeMayBeFar(): void
    {
        $far = static fn (float $width): Shot => Shot::read(['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => $width]], 'position' => ['x' => 9000]]]]);
        self::assertSame([], (new FarAway())->findings($far(2.0), $this->pipeline));
        self::assertSame(['/props/0/position'], array_map(static fn (Finding $finding): string => $finding->pointer, (new FarAway())->findings($far(0.1), $this->pipeline)));
    }
}
