<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Art\Slab;
use YardBreak\Core\Art\SvgReader;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\GlbReader;
use YardBreak\Core\Math\RandomStream;

/** Files made to be slow, huge or confusing: read, or refused in words; never a fault, and not for a minute. */
#[Group('thorough')]
final class HostileTest extends TestCase
{
    private static function svg(string $inside): string
    {
        return "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 100 100\">{$inside}</svg>";
    }

    /** @param callable(int): string $each */
    private static function times(int $count, callable $each): string
    {
        return implode('', array_map($each, range(0, $count - 1)));
    }

    /** @return iterable<string, array{string, string|null}> a drawing, and a word of the refusal; null: it can be read */
    public static function drawings(): iterable
    {
        yield 'arcs beyond all numbers' => [self::svg('<path d="M0 0A0 0 0 0 0 10 10A1e-300 1e-300 45 1 1 50 50A1e300 1 0 0 1 9 9A1e-320 1e320 0 1 0 1 40z"/>'), null];
        yield 'a comb of many teeth' => [self::svg('<path d="M0 0' . self::times(1500, static fn (int $i): string => sprintf('L%.3f 90L%.3f 1', 0.05 * $i, 0.05 * $i + 0.025)) . 'L100 0z"/>'), 'too intricate'];
        $random = RandomStream::named(1, 'hostile');
        // The comb ends the same way.
        if (getenv('YARD_BREAK_LONG')) {
            yield 'a scribble' => [self::svg('<path d="M0 0' . self::times(3000, static fn (): string => sprintf('L%.3f %.3f', $random->between(0.0, 100.0), $random->between(0.0, 100.0))) . 'z"/>'), 'too intricate'];
        }
        yield 'rectangles over rectangles' => [self::svg(self::times(400, static fn (int $i): string => sprintf('<rect x="%.1f" y="%.1f" width="30" height="30"/>', 0.5 * ($i % 20), 0.5 * intdiv($i, 20)))), null];
        yield 'twenty thousand rules' => [self::svg('<style>' . self::times(20000, static fn (int $i): string => ".c{$i}{fill:#abc}") . '</style>' . self::times(500, static fn (int $i): string => sprintf('<rect class="c%d c%d" x="%d" y="%d" width=".5" height=".5"/>', $i, $i + 1, $i % 25, intdiv($i, 25)))), null];
        yield 'twenty thousand ids' => [self::svg('<defs>' . self::times(20000, static fn (int $i): string => "<rect id=\"r{$i}\" width=\"1\" height=\"1\"/>") . '</defs>' . self::times(300, static fn (int $i): string => sprintf('<use href="#r%d" x="%d" y="%d"/>', $i, $i % 25, intdiv($i, 25)))), null];
        yield 'uses of uses of uses' => [self::svg('<defs><g id="a0"><rect width="1" height="1"/></g>' . self::times(25, static fn (int $i): string => sprintf('<g id="a%d"><use href="#a%d"/><use href="#a%d" x="1"/></g>', $i + 1, $i, $i)) . '</defs><use href="#a25"/>'), 'more than'];
        yield 'a use of itself' => [self::svg('<g id="a"><use href="#a"/><rect width="3" height="3"/></g><use href="#a"/>'), 'uses itself'];
        yield 'depth' => [self::svg(str_repeat('<g>', 5000) . '<rect width="5" height="5"/>' . str_repeat('</g>', 5000)), 'broken off'];
        yield 'entities in another encoding' => [mb_convert_encoding("\u{FEFF}<?xml version=\"1.0\" encoding=\"UTF-16\"?><!DOCTYPE svg [<!ENTITY a \"aaaa\"><!ENTITY b \"&a;&a;&a;\">]>" . self::svg('<text>&b;</text>'), 'UTF-16LE', 'UTF-8'), 'entities'];
    }

    #[DataProvider('drawings')]
    public function testADrawingIsReadOrRefused(string $bytes, ?string $refused): void
    {
        try {
            $mesh = Slab::of(SvgReader::read($bytes), 1.0, 0.1, 0.0);
            self::assertNull($refused, "read with {$mesh->triangleCount()} triangles");
            self::assertGreaterThan(0, $mesh->triangleCount());
        } catch (BadFile $error) {
            // What has no area in the end is refused as any other that has none.
            self::assertStringContainsString($refused ?? 'no painted area', $error->getMessage());
        }
    }

    /** A class that is said later outweighs one said before, whatever order they have in the element; an id outweighs both (CSS cascade). */
    public function testRulesKeepTheirOrder(): void
    {
        $colour = static fn (string $attributes): string => SvgReader::read(self::svg("<style>rect{fill:#010101} .b{fill:#020202} .a{fill:#030303} #i{fill:#040404} *{fill:#050505}</style><rect {$attributes} width=\"5\" height=\"5\"/>"))->shapes[0]->colour;
        self::assertSame(['#050505', '#020202', '#030303', '#030303', '#040404', '#060606'], array_map($colour, ['', 'class="b"', 'class="a b"', 'class="b a"', 'id="i" class="a b"', 'id="i" style="fill:#060606"']));
    }

    /** @return iterable<string, array{array<string, mixed>}> what differs from a triangle */
    public static function scenes(): iterable
    {
        yield 'steps back' => [['bufferViews' => [['buffer' => 0, 'byteLength' => 36, 'byteStride' => -12], ['buffer' => 0, 'byteOffset' => 36, 'byteLength' => 12]]]];
        yield 'steps shorter than an entry' => [['bufferViews' => [['buffer' => 0, 'byteLength' => 36, 'byteStride' => 4], ['buffer' => 0, 'byteOffset' => 36, 'byteLength' => 12]]]];
        yield 'a node that holds itself' => [['nodes' => [['mesh' => 0, 'children' => [0]]]]];
        yield 'a tree of nodes that doubles' => [['nodes' => [...array_map(static fn (int $i): array => ['children' => [$i + 1, $i + 1]], range(0, 29)), ['mesh' => 0]]]];
        yield 'a billion sparse values' => [['accessors' => [['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3', 'sparse' => ['count' => 1_000_000_000]], ['bufferView' => 1, 'componentType' => 5125, 'count' => 3, 'type' => 'SCALAR']]]];
        yield 'more than there can be' => [['accessors' => [['bufferView' => 0, 'componentType' => 5126, 'count' => 1_000_000_000_000, 'type' => 'VEC3'], ['bufferView' => 1, 'componentType' => 5125, 'count' => 3, 'type' => 'SCALAR']]]];
    }

    /** @param array<string, mixed> $more */
    #[DataProvider('scenes')]
    public function testASceneIsRefused(array $more): void
    {
        $json = json_encode($more + [
            'asset' => ['version' => '2.0'], 'scene' => 0, 'scenes' => [['nodes' => [0]]], 'nodes' => [['mesh' => 0]], 'meshes' => [['primitives' => [['attributes' => ['POSITION' => 0], 'indices' => 1]]]],
            'accessors' => [['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3'], ['bufferView' => 1, 'componentType' => 5125, 'count' => 3, 'type' => 'SCALAR']],
            'bufferViews' => [['buffer' => 0, 'byteLength' => 36], ['buffer' => 0, 'byteOffset' => 36, 'byteLength' => 12]], 'buffers' => [['byteLength' => 48]],
        ], JSON_THROW_ON_ERROR);
        $json .= str_repeat(' ', -strlen($json) & 3);
        $data = pack('g9V3', 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 1, 2);
        $this->expectException(BadFile::class);
        GlbReader::read('glTF' . pack('VVV', 2, 28 + strlen($json) + strlen($data), strlen($json)) . "JSON{$json}" . pack('V', strlen($data)) . "BIN\0{$data}");
    }
}
