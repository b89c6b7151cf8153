<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Support\Busy;
use App\Support\Problem;
use App\Support\StoreFull;
use Illuminate\Contracts\Debug\ExceptionHandler;
use PHPUnit\Framework\Attributes\DataProvider;
use RuntimeException;
use Tests\TestCase;
use Throwable;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Format\BadFile;

/** The log holds what is a fault of ours or of the machine, not what was refused in words. */
final class LogTest extends TestCase
{
    /** @return iterable<string, array{Throwable, bool}> */
    public static function errors(): iterable
    {
        yield 'a bad document' => [new BadDocument([['pointer' => '/fps', 'detail' => 'It must be a number.']]), false];
        yield 'a bad file' => [new BadFile('It is not a mesh.'), false];
        yield 'a break that fails' => [new BreakFailed('It is an open sheet.'), false];
        yield 'a conflict' => [new Problem(409, 'Changed', 'It has changed since.'), false];
        yield 'others first' => [new Busy(), false];
        yield 'a full disk' => [StoreFull::whileKeeping('A mesh'), true];
        yield 'a fault' => [new RuntimeException('No such table.'), true];
    }

    #[DataProvider('errors')]
    public function testOnlyFaultsAreLogged(Throwable $error, bool $logged): void
    {
        $handler = $this->app?->make(ExceptionHandler::class) ?? self::fail();
        self::assertSame($logged, $handler->shouldReport($error));
    }
}
