<?php

declare(strict_types=1);

namespace Tests\Interface;

use YardBreak\Core\Tests\Fixture\Node;

/** Runs modules of the interface in node as they are, with what they import. */
trait Modules
{
    /**
     * @param string $module below resources/ts
     * @param string $body of an async function of `m` (the module) and `input`
     *
     * @return array<mixed>
     */
    private static function module(string $module, string $body, mixed $input = null): array
    {
        $load = 'const m=await (await import(' . json_encode('file://' . __DIR__ . '/load.mjs') . ')).load(' . json_encode($module) . ');';

        return Node::run('rolldown', $load . $body, $input);
    }
}
