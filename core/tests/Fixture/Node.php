<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

use PHPUnit\Framework\TestCase;

/** Runs a reference library of npm on an input. */
final class Node
{
    /**
     * @param string $body of an async function of `input`; what it returns comes back
     *
     * @return array<mixed>
     */
    public static function run(string $package, string $body, mixed $input): array
    {
        $root = dirname(__DIR__, 3);
        if (! is_dir("{$root}/node_modules/{$package}")) {
            TestCase::fail("npm package {$package} is not installed: bin/prepare --with-tests installs it.");
        }
        $file = "{$root}/storage/node-" . getmypid() . '.mjs';
        file_put_contents("{$file}.json", json_encode($input, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION));
        file_put_contents($file, "import{readFileSync}from'node:fs';import{createRequire}from'node:module';const require=createRequire(import.meta.url);const input=JSON.parse(readFileSync(process.argv[2],'utf8'));console.log(JSON.stringify(await (async()=>{{$body}})()))");
        exec('cd ' . escapeshellarg($root) . ' && node ' . escapeshellarg($file) . ' ' . escapeshellarg("{$file}.json") . ' 2>&1', $lines, $failed);
        array_map(unlink(...), [$file, "{$file}.json"]);
        TestCase::assertSame(0, $failed, implode("\n", $lines));
        $answer = json_decode(implode('', $lines), true);

        return is_array($answer) ? $answer : [];
    }
}
