<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Support\Shield;
use Illuminate\Routing\Route;
use Illuminate\Routing\Router;
use PHPUnit\Framework\Attributes\DataProvider;
use Tests\TestCase;

/** Nobody but this machine's browser, from our own pages, gets to do anything; every answer says so. */
final class ShieldTest extends TestCase
{
    /** @return list<array{string, string}> method and address of every route of the application */
    private static function routes(): array
    {
        $routes = [];
        foreach (app(Router::class)->getRoutes()->getRoutes() as $route) {
            foreach (array_diff($route->methods(), ['HEAD', 'OPTIONS']) as $method) {
                $routes[] = [$method, '/' . (string) preg_replace('/\{[^}]+\}/', str_repeat('a', 64), $route->uri())];
            }
        }

        return $routes;
    }

    public function testEveryRouteRefusesAnotherHostAndSaysWhatMayBeLoaded(): void
    {
        $routes = self::routes();
        self::assertGreaterThan(35, count($routes));
        foreach ($routes as [$method, $uri]) {
            $answer = $this->json($method, "http://evil.example{$uri}");
            self::assertSame(403, $answer->getStatusCode(), "{$method} {$uri}");
            foreach (Shield::HEADERS as $name => $value) {
                self::assertSame($value, $answer->headers->get($name), "{$method} {$uri}: {$name}");
            }
        }
    }

    public function testNoChangeComesFromAnotherPage(): void
    {
        foreach (self::routes() as [$method, $uri]) {
            foreach ([['Origin' => 'http://evil.example'], ['Sec-Fetch-Site' => 'cross-site'], ['Sec-Fetch-Site' => 'same-site'], ['Origin' => 'null']] as $headers) {
                $answer = $this->json($method, $uri, [], $headers);
                self::assertSame($method !== 'GET', $answer->getStatusCode() === 403, "{$method} {$uri} " . json_encode($headers));
            }
        }
        $this->postJson('/api/shots', ['name' => 'Mine'], ['Sec-Fetch-Site' => 'same-origin'])->assertCreated();
    }

    /** @return iterable<string, array{string, bool}> */
    public static function hosts(): iterable
    {
        yield 'the usual' => ['127.0.0.1:8040', true];
        yield 'by name' => ['localhost', true];
        yield 'the newer kind' => ['[::1]:8040', true];
        yield 'none' => ['', false];
        yield 'one that begins like it' => ['127.0.0.1.evil.example', false];
        yield 'one that ends like it' => ['evil.example:127.0.0.1', false];
        yield 'with a name before it' => ['me@localhost', false];
        yield 'of the network' => ['192.168.0.7', false];
        yield 'a port too many' => ['localhost:80:80', false];
    }

    #[DataProvider('hosts')]
    public function testOnlyThisMachineIsOurs(string $host, bool $ours): void
    {
        self::assertSame($ours, Shield::isOurs($host));
    }
}
