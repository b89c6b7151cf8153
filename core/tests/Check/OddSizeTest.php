<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Finding;
use YardBreak\Core\Check\OddSize;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Pipeline;

/** One is asked about the unit of a file whose mesh is as large as a house, and a press answers. */
final class OddSizeTest extends TestCase
{
    private const FILE = 'file';

    /**
     * @param array<string, mixed> $change
     *
     * @return list<Finding>
     */
    private static function asked(float $width, float $height, array $change = []): array
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'yard');
        self::write($path, $width, $height);
        $assets = new class ($path) implements Assets {
            public function __construct(private readonly string $path)
            {
            }

            public function path(string $sha256): string
            {
                return $this->path;
            }
        };
        $document = Schema::load()->complete(['version' => 2, 'props' => [array_replace_recursive(['id' => 'mill', 'name' => 'Mill', 'source' => ['kind' => self::FILE, self::FILE => ['asset' => str_repeat('a', 64), 'fileName' => 'mill.obj']]], $change)]]);
        $findings = (new OddSize())->findings(Shot::read($document), new Pipeline(new MemoryStore(), $assets));
        unlink($path);

        return $findings;
    }

    private static function write(string $path, float $width, float $height): void
    {
        $box = Solids::box($width, $height, $width, 1);
        $text = '';
        foreach ($box->x as $k => $x) {
            $text .= "v {$x} {$box->y[$k]} {$box->z[$k]}\n";
        }
        foreach (array_chunk($box->triangles, 3) as [$a, $b, $c]) {
            $text .= sprintf("f %d %d %d\n", $a + 1, $b + 1, $c + 1);
        }
        file_put_contents($path, $text);
    }

    public function testOneIsAsked(): void
    {
        [$finding] = self::asked(3.0, 9.9);
        self::assertSame('Mill is 9.9 m high. Is the file in centimetres?', $finding->text);
        self::assertSame(['label' => 'It is in centimetres', 'pointer' => '/props/0/source/file/units', 'value' => 'cm'], $finding->remedy);
        self::assertStringContainsString('1800 m wide. Is the file in millimetres?', self::asked(1800.0, 20.0)[0]->text);
    }

    public function testNotWhenItIsLikelyOrSaid(): void
    {
        self::assertSame([], self::asked(3.0, 7.9));
        self::assertSame([], self::asked(3.0, 9.9, ['source' => [self::FILE => ['units' => 'ft']]]));
        self::assertSame([], self::asked(300.0, 990.0, ['prepare' => ['size' => 12.0]]));
    }
}
