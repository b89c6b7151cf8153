<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests;

use PHPUnit\Framework\TestCase;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use SplFileInfo;

/** Arrows point one way: which part of core may use which, and that only the registry knows the classes of kinds. */
final class ArchitectureTest extends TestCase
{
    private const ROOT = __DIR__ . '/..';

    /** Parts from the ground up: each uses only those in rows above its own. */
    private const LAYERS = [
        ['Refusal', 'Math'],
        ['Mesh', 'Plane'],
        ['Format', 'Force'],
        ['Art'],
        ['Break', 'Weight', 'Motion'],
        ['Document'],
        ['Stage'],
        ['Bake', 'Check'],
        ['HandOff'],
    ];

    /** @return iterable<string, list<string>> by file: what it uses of core, by full name without the root */
    private static function uses(): iterable
    {
        /** @var SplFileInfo $file */
        foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator(self::ROOT . '/src')) as $file) {
            if ($file->getExtension() === 'php') {
                $text = (string) file_get_contents($file->getPathname());
                preg_match_all('/^use (?:function )?YardBreak\\\\Core\\\\([\w\\\\]+)/m', $text, $uses);
                yield substr((string) realpath($file->getPathname()), strlen((string) realpath(self::ROOT . '/src')) + 1) => $uses[1];
            }
        }
    }

    public function testArrowsPointOneWay(): void
    {
        $height = [];
        foreach (self::LAYERS as $level => $parts) {
            foreach ($parts as $part) {
                $height[$part] = $level;
            }
        }
        $wrong = [];
        $seen = 0;
        foreach (self::uses() as $file => $uses) {
            $own = explode('.', explode('/', $file)[0])[0];
            self::assertArrayHasKey($own, $height, "{$file}: a part that is in no layer");
            foreach ($uses as $use) {
                $other = explode('\\', $use)[0];
                $seen++;
                if ($other !== $own && $height[$other] >= $height[$own]) {
                    $wrong[] = "{$file} uses {$use}";
                }
            }
        }
        self::assertGreaterThan(500, $seen);
        self::assertSame([], $wrong);
    }

    public function testCoreKnowsNoFrameworkAndNoChance(): void
    {
        foreach (self::uses() as $file => $uses) {
            $text = (string) file_get_contents(self::ROOT . "/src/{$file}");
            self::assertDoesNotMatchRegularExpression('/^use (Illuminate|App|Laravel)\\\\/m', $text, $file);
            self::assertDoesNotMatchRegularExpression('/\b(mt_rand|rand|random_int|random_bytes|shuffle|array_rand|time|date)\(/', $text, $file);
        }
    }

    /** Classes of kinds are reached through the registry: nothing depends on one of them. */
    public function testNobodyElseUsesTheClassOfAKind(): void
    {
        foreach (self::uses() as $file => $uses) {
            foreach ($uses as $use) {
                if (preg_match('/^Stage\\\\Kind\\\\(Source|Pattern|Weight|Trigger|Force|Mover)\\\\(\w+)$/', $use) === 1) {
                    self::assertTrue(str_starts_with($file, 'Stage/Kind/') || in_array($file, self::KNOWN, true), "{$file} names {$use}");
                }
            }
        }
    }

    /** The face picture of a slab of flat art is read of the art itself. */
    private const KNOWN = ['Stage/Pipeline.php'];
}
