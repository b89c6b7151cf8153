<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Settings;

/**
 * No control that does nothing, and none that works unseen: whatever the form shows for a pattern changes the pieces when it
 * is changed, and whatever it hides does not.
 */
final class ControlsTest extends TestCase
{
    use Settings;

    /** Settings that are for the board, the table of pieces or names, or that are made otherwise than in the form. */
    private const OTHER = ['pattern', 'lines', 'tracing', 'prefix', 'edits'];

    private const A = 'aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa';

    private const B = 'bbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbb';

    private static string $folder = '';

    public static function setUpBeforeClass(): void
    {
        self::$folder = sys_get_temp_dir() . '/yard-controls-' . bin2hex(random_bytes(4));
        mkdir(self::$folder);
        foreach (['a' => 3, 'b' => 5] as $name => $stripes) {
            $picture = imagecreatetruecolor(60, 60);
            self::assertNotFalse($picture);
            for ($x = 0; $x < 60; $x++) {
                for ($y = 0; $y < 60; $y++) {
                    $tone = $x < 3 && $y < 3 ? 255 : intdiv(250 * intdiv($stripes * $x, 60), $stripes - 1);
                    imagesetpixel($picture, $x, $y, (int) imagecolorallocate($picture, $tone, $tone, $tone));
                }
            }
            imagepng($picture, self::$folder . "/{$name}.png");
        }
    }

    public static function tearDownAfterClass(): void
    {
        array_map(unlink(...), glob(self::$folder . '/*') ?: []);
        rmdir(self::$folder);
    }

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function breaks(): iterable
    {
        $outline = [['points' => [[-0.2, -0.2], [0.2, -0.2], [0.15, 0.25], [-0.2, 0.1]], 'closed' => true]];
        yield 'whole' => [['pattern' => 'whole']];
        yield 'cellular' => [['pattern' => 'cellular', 'pieces' => 9]];
        yield 'cellular, about a place, rough' => [['pattern' => 'cellular', 'pieces' => 9, 'clustering' => 0.8, 'roughness' => 0.4, 'fineness' => 0.2, 'fibres' => 'y']];
        yield 'cellular, by a picture' => [['pattern' => 'cellular', 'pieces' => 30, 'density' => 'dark', 'picture' => ['asset' => self::A]]];
        yield 'web' => [['pattern' => 'web', 'rays' => 7, 'rings' => 3, 'axis' => ['x' => 0, 'y' => 0, 'z' => 1]]];
        yield 'bricks' => [['pattern' => 'courses', 'length' => 0.4, 'height' => 0.3, 'variety' => 0.2]];
        yield 'hexagons' => [['pattern' => 'courses', 'bond' => 'hexagon', 'length' => 0.4, 'height' => 0.3]];
        yield 'halving' => [['pattern' => 'halving', 'rounds' => 3]];
        yield 'grain' => [['pattern' => 'grain', 'pieces' => 12]];
        yield 'breach, square, with splinters' => [['pattern' => 'breach', 'shape' => 'square', 'radius' => 0.2, 'crumb' => 0.1, 'fragments' => 2, 'splinters' => 'x', 'axis' => ['x' => 0, 'y' => 0, 'z' => 1]]];
        yield 'drawn' => [['pattern' => 'drawn', 'lines' => $outline]];
        yield 'picture' => [['pattern' => 'picture', 'picture' => ['asset' => self::A], 'tones' => 3, 'speck' => 0.05]];
        yield 'flakes, rough in another pattern before' => [['pattern' => 'flakes', 'flakes' => 30, 'thickness' => 0.02, 'lift' => 0.01, 'roughness' => 0.3]];
        yield 'flakes without thickness' => [['pattern' => 'flakes', 'flakes' => 30, 'thickness' => 0, 'lift' => 0.01]];
        yield 'every face' => [['pattern' => 'faces', 'cuts' => 2, 'thickness' => 0.02, 'lift' => 0.01]];
        // Much of it is in others, too.
        if (getenv('YARD_BREAK_LONG')) {
            yield 'cellular, by the weight' => [['pattern' => 'cellular', 'pieces' => 30, 'density' => 'weight']];
            yield 'web, rest whole, rough' => [['pattern' => 'web', 'rays' => 7, 'rings' => 3, 'rest' => 'whole', 'axis' => ['x' => 0, 'y' => 0, 'z' => 1], 'roughness' => 0.3, 'fineness' => 0.2]];
            yield 'round courses' => [['pattern' => 'courses', 'bond' => 'round', 'length' => 0.4, 'height' => 0.3, 'joint' => 0.01]];
            yield 'halving to a count, wandering' => [['pattern' => 'halving', 'count' => 4, 'wander' => 0.05]];
            yield 'grain along a curve' => [['pattern' => 'grain', 'pieces' => 8, 'places' => [['x' => 0, 'y' => -0.5, 'z' => 0], ['x' => 0.05, 'y' => 0, 'z' => 0], ['x' => 0, 'y' => 0.5, 'z' => 0]]]];
            yield 'breach, a ball' => [['pattern' => 'breach', 'shape' => 'ball', 'radius' => 0.25, 'crumb' => 0.1, 'fragments' => 4]];
            yield 'breach, round, with bands' => [['pattern' => 'breach', 'radius' => 0.2, 'crumb' => 0.1, 'fragments' => 3, 'bands' => 1, 'axis' => ['x' => 0, 'y' => 0, 'z' => 1]]];
            yield 'breach, drawn' => [['pattern' => 'breach', 'shape' => 'drawn', 'lines' => $outline, 'crumb' => 0.1, 'fragments' => 3]];
            yield 'drawn, rough' => [['pattern' => 'drawn', 'lines' => $outline, 'roughness' => 0.4, 'fineness' => 0.2]];
        }
    }

    /** @param array<string, mixed> $break */
    #[Group('slow')]
    #[DataProvider('breaks')]
    public function testWhatIsShownWorksAndWhatIsHiddenDoesNot(array $break): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new ListedAssets([self::A => self::$folder . '/a.png', self::B => self::$folder . '/b.png']));
        $document = Schema::load()->complete(self::document($break));
        $plain = Shot::read($document)->props[0];
        $hash = $pipeline->brokenHash($plain);
        $before = self::bytes($pipeline, $plain);
        self::assertNotNull($before, 'this can be broken');
        foreach (self::settings($document, ['props', '0', 'break']) as ['path' => $path, 'field' => $field, 'value' => $value, 'shown' => $shown]) {
            $name = (string) end($path);
            if (in_array($name, self::OTHER, true) || in_array('tracing', $path, true)) {
                continue;
            }
            $works = false;
            foreach (self::candidates($name, $field, $value) as $other) {
                $changed = Shot::read(self::with($document, $path, $other))->props[0];
                if (! $shown) {
                    self::assertSame($hash, $pipeline->brokenHash($changed), "{$name} is not shown, but it matters");
                } elseif ($pipeline->brokenHash($changed) !== $hash && ! in_array(self::bytes($pipeline, $changed), [$before, null], true)) {
                    $works = true;
                    break;
                }
            }
            self::assertTrue($works || ! $shown, "{$name} is shown, but it changes nothing");
        }
    }

    /**
     * In version 1, for short.
     *
     * @param array<string, mixed> $break
     *
     * @return array<string, mixed>
     */
    private static function document(array $break): array
    {
        return ['version' => 1, 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['kind' => 'box', 'width' => 0.9, 'height' => 1, 'depth' => 0.4, 'divisions' => 2], 'turn' => ['x' => 70, 'y' => 20, 'z' => 0],
            'break' => ['radius' => 0.3, ...$break], 'timing' => ['release' => 'sweep', 'axis' => 'y', 'from' => 1, 'to' => 60],
        ]]];
    }

    /** Null if it is refused: a setting that only makes the break fail does not work. */
    private static function bytes(Pipeline $pipeline, Prop $prop): ?string
    {
        try {
            return hash('sha256', implode('', $pipeline->broken($prop)->encode()));
        } catch (BreakFailed) {
            return null;
        }
    }

    /**
     * @param array<mixed> $field
     *
     * @return list<mixed>
     */
    private static function candidates(string $name, array $field, mixed $value): array
    {
        return match ($name) {
            'picture' => [['asset' => self::B]],
            'places' => [
                [...(is_array($value) ? $value : []), ['x' => 0.21, 'y' => 0.13, 'z' => 0.15]],
                [['x' => 0, 'y' => -0.5, 'z' => 0], ['x' => 0.1, 'y' => 0.1, 'z' => 0], ['x' => 0.2, 'y' => 0.5, 'z' => 0]],
            ],
            'axis' => [['x' => 0.9, 'y' => 0.2, 'z' => 0.35]],
            // Merging shows with bold values only; elsewhere bold values take long.
            'smallest' => [95.0],
            'thinnest' => [0.85],
            'density', 'shape' => array_values(array_diff(self::others($field, $value), ['dark', 'bright', 'drawn'])),
            default => self::others($field, $value),
        };
    }
}
