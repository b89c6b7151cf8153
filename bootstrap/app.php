<?php

declare(strict_types=1);

use App\Http\Middleware\ComputesInTurn;
use App\Http\Middleware\OurPagesOnly;
use App\Http\Middleware\SignedIn;
use App\Http\Middleware\TheirsOnly;
use App\Support\Busy;
use App\Support\Problem;
use Illuminate\Cookie\Middleware\AddQueuedCookiesToResponse;
use Illuminate\Cookie\Middleware\EncryptCookies;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Foundation\Http\Middleware\ConvertEmptyStringsToNull;
use Illuminate\Foundation\Http\Middleware\TrimStrings;
use Illuminate\Foundation\Http\Middleware\ValidateCsrfToken;
use Illuminate\Http\Middleware\HandleCors;
use Illuminate\Http\Request;
use Illuminate\Session\Middleware\StartSession;
use Illuminate\View\Middleware\ShareErrorsFromSession;

return Application::configure(basePath: dirname(__DIR__))
    ->withRouting(web: __DIR__ . '/../routes/web.php', api: __DIR__ . '/../routes/api.php')
    ->withCommands([__DIR__ . '/../app/Console/Commands'])
    ->withMiddleware(function (Middleware $middleware): void {
        // Documents are stored as they are sent: empty texts and spaces stay.
        $middleware->remove([HandleCors::class, ConvertEmptyStringsToNull::class, TrimStrings::class]);
        $middleware->prepend(OurPagesOnly::class);
        // Who asks, and nothing else: under which names it is reached was said at the start.
        $middleware->trustProxies(headers: Request::HEADER_X_FORWARDED_FOR);
        $middleware->append(ComputesInTurn::class);
        $middleware->web(remove: [EncryptCookies::class, AddQueuedCookiesToResponse::class, StartSession::class, ShareErrorsFromSession::class, ValidateCsrfToken::class], prepend: SignedIn::class);
        $middleware->api(prepend: SignedIn::class, append: TheirsOnly::class);
    })
    ->withExceptions(function (Exceptions $exceptions): void {
        // What was refused in words is no fault of ours: a log that is full of it hides what is.
        $exceptions->dontReportWhen(static fn (Throwable $error): bool => $error instanceof Busy || Problem::from($error)->getStatusCode() < 500);
        $exceptions->render(fn (Throwable $error, Request $request) => $request->is('api/*') ? Problem::from($error) : null);
    })
    ->create();
