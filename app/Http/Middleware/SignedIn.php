<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Support\People;
use App\Support\Problem;
use Closure;
use Illuminate\Cookie\Middleware\AddQueuedCookiesToResponse;
use Illuminate\Cookie\Middleware\EncryptCookies;
use Illuminate\Foundation\Http\Middleware\ValidateCsrfToken;
use Illuminate\Http\Request;
use Illuminate\Pipeline\Pipeline;
use Illuminate\Session\Middleware\StartSession;
use Illuminate\Support\Facades\Auth;
use Symfony\Component\HttpFoundation\Response;

/** Beyond this machine nobody gets anywhere but to the door; on it there are neither sessions nor doors. */
final class SignedIn
{
    public const DOOR = 'sign-in';

    public function __construct(private readonly Pipeline $pipeline)
    {
    }

    public function handle(Request $request, Closure $next): Response
    {
        if (! People::signIn()) {
            $response = $next($request);
        } else {
            $response = $this->pipeline
                ->send($request)
                ->through([EncryptCookies::class, AddQueuedCookiesToResponse::class, StartSession::class, ValidateCsrfToken::class])
                ->then(static fn (Request $request): Response => self::through($request, $next));
        }
        assert($response instanceof Response);

        return $response;
    }

    private static function through(Request $request, Closure $next): Response
    {
        if (Auth::guest() && ! $request->is(self::DOOR)) {
            return $request->is('api/*')
                ? Problem::from(new Problem(401, 'Sign in first', 'You are not signed in, or have been away for long. Sign in, and go on where you were.'))
                : redirect('/' . self::DOOR . '?to=' . rawurlencode($request->getPathInfo()));
        }
        $response = $next($request);
        assert($response instanceof Response);

        return $response;
    }
}
