<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/** PHP 8.2's JIT has computed wrong results in its default mode; in ours every kernel must agree with plain PHP to the bit. */
final class JitTest extends TestCase
{
    #[Group('slow')]
    public function testKernelsAgreeWithAndWithoutJit(): void
    {
        self::assertSame('1054', ini_get('opcache.jit'), 'tests run with the project’s settings: use bin/test or bin/php');
        $run = static function (string $mode): array {
            exec(sprintf(
                '%s -d opcache.enable_cli=%d -d opcache.jit=%s -d opcache.jit_buffer_size=128M -d opcache.file_update_protection=0 %s 2>&1',
                escapeshellarg(PHP_BINARY),
                $mode === 'plain' ? 0 : 1,
                $mode === 'plain' ? 'disable' : $mode,
                escapeshellarg(__DIR__ . '/jit-digest.php'),
            ), $lines, $status);
            self::assertSame(0, $status, implode("\n", $lines));

            return $lines;
        };
        $plain = $run('plain');
        self::assertCount(getenv('YARD_BREAK_LONG') ? 29 : 15, $plain);
        self::assertSame($plain, $run('1054'));
    }
}
