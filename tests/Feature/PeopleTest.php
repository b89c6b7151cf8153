<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Bake;
use App\Models\Export;
use App\Models\Person;
use App\Models\Shot;
use App\Support\People;
use App\Support\ShotBook;
use Illuminate\Http\UploadedFile;
use Illuminate\Routing\Router;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\Group;
use Symfony\Component\HttpFoundation\Response;
use Tests\TestCase;

/** Beyond this machine everybody signs in, and what is not theirs is not there for them. */
final class PeopleTest extends TestCase
{
    private const HOST = 'http://yard.example:8040';

    private const PASSWORD = 'a long enough one';

    protected function setUp(): void
    {
        parent::setUp();
        config(['yard.hosts' => ['yard.example']]);
        config(['hashing.bcrypt.rounds' => 4]);
        foreach (['Ada', 'Bo', 'Cy'] as $name) {
            Person::create(['name' => $name, 'password' => self::PASSWORD]);
        }
        // Of a run less than a minute ago.
        foreach (['127.0.0.1', '10.0.0.1', '10.0.0.2'] as $from) {
            RateLimiter::clear("sign-in ada {$from}");
            RateLimiter::clear("sign-in {$from}");
        }
    }

    /** A shot of Ada's with a bake and an export, shared with Cy. */
    private function shot(): Shot
    {
        $this->actingAs($this->person('Ada'));
        $shot = app(ShotBook::class)->create('Ada’s', self::smallDocument(), 'start');
        $shot->people()->attach($this->person('Cy')->id);
        $bake = $shot->bakes()->create(['revision_id' => $shot->head_id, 'motion_hash' => str_repeat('a', 64), 'status' => 'done', 'frames' => 4]);
        Export::create(['bake_id' => $bake->id, 'format' => 'glb', 'frame' => 1, 'status' => 'queued', 'done' => 0, 'total' => 1]);

        return $shot;
    }

    private function person(string $name): Person
    {
        return Person::query()->where('name', $name)->firstOrFail();
    }

    /** @return list<array{string, string, bool}> method and address of every route that is about the shot, and whether all others are */
    private function routes(Shot $shot): array
    {
        $bake = Bake::query()->where('shot_id', $shot->id)->firstOrFail();
        $export = Export::query()->where('bake_id', $bake->id)->firstOrFail();
        $routes = [];
        foreach (app(Router::class)->getRoutes()->getRoutes() as $route) {
            foreach (array_diff($route->methods(), ['HEAD', 'OPTIONS']) as $method) {
                $uri = strtr($route->uri(), ['{shot}' => $shot->id, '{id}' => $shot->id, '{bake}' => $bake->id, '{export}' => $export->id, '{sha}' => str_repeat('b', 64), '{node}' => '0', '{format}' => 'obj', '{prop}' => 'block', '{force}' => 'gravity', '{any?}' => 'somewhere']);
                $routes[] = [$method, '/' . ltrim($uri, '/'), $uri !== $route->uri() && ! str_contains($route->uri(), '{any?}')];
            }
        }

        return $routes;
    }

    /** @return TestResponse<Response> */
    private function ask(string $method, string $uri): TestResponse
    {
        return $this->json($method, self::HOST . $uri, [], ['Sec-Fetch-Site' => 'same-origin']);
    }

    public function testEveryRouteAsNobody(): void
    {
        $shot = $this->shot();
        app('auth')->forgetGuards();
        $routes = $this->routes($shot);
        self::assertGreaterThan(45, count($routes));
        foreach ($routes as [$method, $uri]) {
            if (str_starts_with($uri, '/sign-in')) {
                continue;
            }
            $answer = $this->ask($method, $uri);
            if (str_starts_with($uri, '/api/')) {
                $answer->assertStatus(401)->assertJsonPath('title', 'Sign in first');
            } else {
                $answer->assertRedirect(self::HOST . '/sign-in?to=' . rawurlencode($uri));
            }
        }
        self::assertFalse($shot->refresh()->trashed());
    }

    #[Group('slow')]
    public function testEveryRouteAsAnotherAndAsOneItIsSharedWith(): void
    {
        $shot = $this->shot();
        $ofTheShot = array_filter($this->routes($shot), static fn (array $route): bool => $route[2]);
        self::assertGreaterThan(35, count($ofTheShot));
        $this->actingAs($this->person('Bo'));
        foreach ($ofTheShot as [$method, $uri]) {
            $this->ask($method, $uri)->assertStatus(404)->assertJsonPath('title', 'Not found');
        }
        self::assertSame([], $this->ask('GET', '/api/shots')->assertOk()->json('shots'));
        self::assertStringNotContainsString('Ada’s', (string) $this->ask('GET', '/api/store')->assertOk()->getContent());

        $this->actingAs($this->person('Cy'));
        self::assertSame(['Ada’s'], array_column((array) $this->ask('GET', '/api/shots')->json('shots'), 'name'));
        foreach ($ofTheShot as [$method, $uri]) {
            if (str_contains($uri, '/assets/')) {
                continue;
            }
            $status = $this->ask($method, $uri)->getStatusCode();
            $onlyTheOwners = $uri === "/api/shots/{$shot->id}" && $method === 'DELETE' || str_ends_with($uri, '/people');
            // What is not there for its own reasons (no picture yet, not deleted) may say so.
            self::assertSame($onlyTheOwners, $status === 403, "{$method} {$uri}: {$status}");
            self::assertNotSame(401, $status, "{$method} {$uri}");
        }
        self::assertFalse($shot->refresh()->trashed(), 'one it is shared with cannot delete it');

        $this->actingAs($this->person('Ada'));
        $this->ask('DELETE', "/api/shots/{$shot->id}")->assertNoContent();
        $this->actingAs($this->person('Cy'));
        $this->ask('POST', "/api/shots/{$shot->id}/restore")->assertStatus(403);
        $this->actingAs($this->person('Ada'));
        $this->ask('POST', "/api/shots/{$shot->id}/restore")->assertOk();
    }

    public function testSharingAndCopies(): void
    {
        $shot = $this->shot();
        $share = fn (mixed $names) => $this->putJson(self::HOST . "/api/shots/{$shot->id}/people", ['people' => $names], ['Sec-Fetch-Site' => 'same-origin']);
        $this->actingAs($this->person('Ada'));
        foreach (['Bo', ['Bo', 'Nobody'], [['Bo']], null, ['Ada']] as $bad) {
            $share($bad)->assertStatus(422);
        }
        self::assertSame(['Cy'], $shot->people()->pluck('name')->all(), 'nothing half-changed');
        $share(['Bo'])->assertOk()->assertJsonPath('people', ['Bo']);
        $this->actingAs($this->person('Cy'));
        $this->ask('GET', "/api/shots/{$shot->id}")->assertStatus(404);
        $this->actingAs($this->person('Bo'));
        $this->ask('GET', "/api/shots/{$shot->id}")->assertOk()->assertJsonPath('owner', 'Ada')->assertJsonPath('mine', false);
        $copy = $this->ask('POST', "/api/shots/{$shot->id}/duplicate")->assertCreated()->assertJsonPath('owner', 'Bo')->assertJsonPath('people', [])->json('id');
        $this->actingAs($this->person('Ada'));
        $this->ask('GET', "/api/shots/{$copy}")->assertStatus(404);

        // One from before anybody signed in is everybody's, and stays so.
        $old = Shot::findOrFail($shot->id);
        $old->update(['owner_id' => null]);
        $share(['Bo'])->assertStatus(409);
        foreach (['Ada', 'Bo', 'Cy'] as $name) {
            $this->actingAs($this->person($name));
            $this->ask('GET', "/api/shots/{$shot->id}")->assertOk()->assertJsonPath('owner', null)->assertJsonPath('mine', true);
        }
    }

    /** A picture is there for whom brought it in, and for whom sees a shot with it. */
    public function testFilesAreTheirsToo(): void
    {
        $shot = $this->shot();
        $png = base64_decode('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', true);
        $this->actingAs($this->person('Bo'));
        $sha = $this->post(self::HOST . '/api/assets', ['file' => UploadedFile::fake()->createWithContent('a.png', (string) $png), 'as' => 'picture'], ['Sec-Fetch-Site' => 'same-origin', 'Accept' => 'application/json'])->assertCreated()->json('asset');
        assert(is_string($sha));
        $this->ask('GET', "/api/assets/{$sha}")->assertOk();
        $this->actingAs($this->person('Cy'));
        $this->ask('GET', "/api/assets/{$sha}")->assertStatus(404);
        $document = $shot->head->document ?? [];
        $document['props'][0]['break'] = ['pattern' => 'picture', 'picture' => ['picture' => ['asset' => $sha, 'fileName' => 'a.png']]];
        $shot->head?->update(['document' => $document]);
        $this->ask('GET', "/api/assets/{$sha}")->assertOk();
    }

    /** The door itself, with sessions as a browser has them. */
    #[Group('slow')]
    public function testTheDoor(): void
    {
        $door = self::HOST . '/sign-in';
        $this->withMiddleware()->get($door . '?to=/shots/1')->assertOk()->assertSee('Password');
        $this->get(self::HOST . '/shots/1')->assertRedirect("{$door}?to=%2Fshots%2F1");
        $in = fn (string $name, string $password, string $to = '/') => $this->post($door, ['name' => $name, 'password' => $password, 'to' => $to], ['Sec-Fetch-Site' => 'same-origin']);
        $in('Ada', 'something else')->assertStatus(422)->assertSee('do not go together');
        $in('Nobody', self::PASSWORD)->assertStatus(422)->assertSee('do not go together');
        foreach (['//evil.example', 'https://evil.example', '/\\evil.example', 'javascript:alert(1)', "/a\r\nX: y"] as $elsewhere) {
            $in('Ada', self::PASSWORD, $elsewhere)->assertRedirect(self::HOST);
            $this->post(self::HOST . '/api/sign-out', [], ['Sec-Fetch-Site' => 'same-origin'])->assertNoContent();
        }
        $before = session()->getId();
        $answer = $in('Ada', self::PASSWORD, '/shots/1')->assertRedirect(self::HOST . '/shots/1');
        self::assertNotSame($before, session()->getId(), 'a session made before is not the one signed in with');
        $cookie = $answer->getCookie('yard', false);
        self::assertTrue($cookie?->isHttpOnly());
        self::assertSame('strict', $cookie->getSameSite());
        $this->ask('GET', '/api/me')->assertOk()->assertJsonPath('name', 'Ada')->assertJsonPath('people', ['Ada', 'Bo', 'Cy']);
        $this->post(self::HOST . '/api/sign-out', [], ['Sec-Fetch-Site' => 'same-origin'])->assertNoContent();
        $this->ask('GET', '/api/me')->assertStatus(401);
    }

    /** Behind what speaks TLS one who guesses keeps nobody else out; who is not behind it can claim what they like. */
    #[Group('slow')]
    public function testWhoAsksIsTakenFromTheProxyAlone(): void
    {
        $in = fn (string $from, string $password) => $this->post(self::HOST . '/sign-in', ['name' => 'Ada', 'password' => $password], ['Sec-Fetch-Site' => 'same-origin', 'X-Forwarded-For' => $from, 'X-Forwarded-Host' => 'evil.example']);
        for ($try = 0; $try < 5; $try++) {
            $in("10.0.0.{$try}", 'wrong')->assertStatus(422);
        }
        $in('10.0.0.9', self::PASSWORD)->assertStatus(429);
        $this->travel(61)->seconds();
        config(['trustedproxy.proxies' => ['127.0.0.1']]);
        for ($try = 0; $try < 5; $try++) {
            $in('10.0.0.1', 'wrong')->assertStatus(422);
        }
        $in('10.0.0.1', self::PASSWORD)->assertStatus(429);
        $in('10.0.0.2', self::PASSWORD)->assertRedirect(self::HOST);
    }

    #[Group('slow')]
    public function testWhoTriesTooOftenWaits(): void
    {
        $in = fn (string $password) => $this->post(self::HOST . '/sign-in', ['name' => 'Ada', 'password' => $password], ['Sec-Fetch-Site' => 'same-origin']);
        for ($try = 0; $try < 5; $try++) {
            $in("wrong {$try}")->assertStatus(422);
        }
        $in(self::PASSWORD)->assertStatus(429)->assertSee('Try again in');
        $this->travel(61)->seconds();
        $in(self::PASSWORD)->assertRedirect(self::HOST);
    }

    public function testOnThisMachineAloneNobodySignsIn(): void
    {
        $shot = $this->shot();
        app('auth')->forgetGuards();
        config(['yard.hosts' => []]);
        $this->getJson('http://127.0.0.1:8040/api/me')->assertOk()->assertExactJson(['name' => null, 'people' => []])->assertCookieMissing('yard');
        $this->getJson("http://127.0.0.1:8040/api/shots/{$shot->id}")->assertOk();
        $this->getJson(self::HOST . '/api/me')->assertStatus(403);
        $this->get('http://127.0.0.1:8040/sign-in')->assertRedirect('http://127.0.0.1:8040');
        self::assertNull(People::me());
    }

    #[Group('slow')]
    public function testPeopleAreKeptByTheCommand(): void
    {
        $shot = $this->shot();
        self::assertSame(0, Artisan::call('yard:person'));
        self::assertSame("Ada\nBo\nCy\n", Artisan::output());
        foreach (['', ' Di', "D\ni", str_repeat('x', 41), '../x'] as $bad) {
            self::assertSame(2, Artisan::call('yard:person', ['name' => $bad, '--no-interaction' => true]), json_encode($bad) ?: '');
        }
        self::assertSame(2, Artisan::call('yard:person', ['name' => 'Eve', '--remove' => true]));
        self::assertTrue(Hash::check(self::PASSWORD, $this->person('Ada')->password));
        self::assertStringStartsWith('$2y$', $this->person('Ada')->password, 'only its hash is kept');
        // Nothing of theirs is laid open without being asked for.
        foreach ([[], ['--to' => 'Eve'], ['--to' => 'Ada'], ['--to' => 'Bo', '--everybody' => true]] as $whose) {
            self::assertSame(2, Artisan::call('yard:person', ['name' => 'Ada', '--remove' => true, ...$whose]));
            self::assertSame($this->person('Ada')->id, $shot->refresh()->owner_id);
        }
        self::assertSame(0, Artisan::call('yard:person', ['name' => 'Ada', '--remove' => true, '--to' => 'Bo']));
        self::assertSame($this->person('Bo')->id, $shot->refresh()->owner_id);
        self::assertSame(0, Artisan::call('yard:person', ['name' => 'Bo', '--remove' => true, '--everybody' => true]));
        self::assertNull($shot->refresh()->owner_id);
        self::assertSame(0, Artisan::call('yard:person', ['name' => 'Cy', '--remove' => true]), 'who has none just goes');
        // As it is used: one line from a pipe.
        exec('echo "hunter two is long" | DB_DATABASE=' . escapeshellarg(config()->string('database.connections.sqlite.database')) . ' ' . escapeshellarg(base_path('bin/php')) . ' ' . escapeshellarg(base_path('artisan')) . ' yard:person Di 2>&1', $lines, $code);
        self::assertSame([0, ['Di can sign in.']], [$code, $lines]);
        self::assertTrue(Hash::check('hunter two is long', $this->person('Di')->password));
    }
}
