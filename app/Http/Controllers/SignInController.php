<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Support\Ask;
use App\Support\People;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\RateLimiter;

/** The door: name and password in, a session out. */
final class SignInController
{
    /** Wrong passwords for one name from one address, and from one address for all names, before one has to wait. */
    private const TRIES = 5;
    private const ALL_TRIES = 30;

    private const WAIT_SECONDS = 60;

    public function show(Request $request): View|RedirectResponse
    {
        return ! People::signIn() || Auth::check() ? redirect(self::inside($request)) : view('sign-in', ['to' => self::inside($request), 'wrong' => null, 'name' => '']);
    }

    public function store(Request $request): Response|RedirectResponse
    {
        $name = trim(Ask::text($request, 'name'));
        $keys = ['sign-in ' . mb_strtolower($name) . ' ' . $request->ip() => self::TRIES, 'sign-in ' . $request->ip() => self::ALL_TRIES];
        foreach ($keys as $key => $tries) {
            if (RateLimiter::tooManyAttempts($key, $tries)) {
                return self::again($request, $name, 'That was wrong too often. Try again in ' . RateLimiter::availableIn($key) . ' seconds.', 429);
            }
        }
        if (! Auth::attempt(['name' => $name, 'password' => Ask::text($request, 'password')])) {
            foreach (array_keys($keys) as $key) {
                RateLimiter::hit($key, self::WAIT_SECONDS);
            }

            return self::again($request, $name, 'Name and password do not go together.', 422);
        }
        RateLimiter::clear(array_key_first($keys));
        $request->session()->regenerate();

        return redirect(self::inside($request));
    }

    public function destroy(Request $request): Response
    {
        if (People::signIn()) {
            Auth::logout();
            $request->session()->invalidate();
            $request->session()->regenerateToken();
        }

        return new Response('', 204);
    }

    private static function again(Request $request, string $name, string $wrong, int $status): Response
    {
        return new Response(view('sign-in', ['to' => self::inside($request), 'wrong' => $wrong, 'name' => mb_substr($name, 0, 40)]), $status);
    }

    /** Where one wanted to go: a page of ours, never another's. */
    private static function inside(Request $request): string
    {
        $to = Ask::text($request, 'to', '/');

        return preg_match('~^/(?![/\\\\])[\w\-/.]*$~D', $to) === 1 ? $to : '/';
    }
}
