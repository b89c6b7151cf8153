<?php

declare(strict_types=1);

namespace Tests\Process;

use App\Models\Person;
use App\Support\ShotBook;
use PHPUnit\Framework\Attributes\Group;
use Tests\Processes;
use Tests\TestCase;

/** The real server at another address than this machine's own: nothing without signing in, and no change without what only our pages can read. */
#[Group('slow')]
final class DoorTest extends TestCase
{
    private const ADDRESS = '127.0.0.2';

    /** @var resource|null */
    private $server = null;

    private int $port = 0;

    /** Of the last answer. */
    private string $headers = '';

    protected function setUp(): void
    {
        parent::setUp();
        $this->port = Processes::freePort(self::ADDRESS);
        Person::create(['name' => 'Ada', 'password' => 'a long enough one']);
    }

    /**
     * @param array<string, string> $more of the environment
     * @param bool $own PHP's own server, as where nginx cannot be had
     */
    private function start(array $more = [], bool $own = false): void
    {
        $root = dirname(__DIR__, 2);
        $command = $own ? ["{$root}/bin/php", '-S', self::ADDRESS . ":{$this->port}", '../support/router.php'] : ["{$root}/bin/serve", (string) $this->port, self::ADDRESS];
        $this->server = Processes::start($command, "{$this->folder}/server.log", $more + ['YARD_HOSTS' => self::ADDRESS] + Processes::environment($this->folder), $own ? "{$root}/public" : null);
        Processes::await(fn (): bool => in_array($this->ask('GET', '/api/me')[0], [401, 403], true), 20.0);
    }

    private function stop(): void
    {
        if ($this->server !== null) {
            proc_terminate($this->server);
            proc_close($this->server);
        }
        $this->server = null;
    }

    protected function tearDown(): void
    {
        $this->stop();
        parent::tearDown();
    }

    /**
     * @param list<string> $headers
     *
     * @return array{int, string, string} status, answer, and where it leads
     */
    private function ask(string $method, string $path, string $body = '', array $headers = []): array
    {
        $curl = curl_init('http://' . self::ADDRESS . ":{$this->port}{$path}");
        self::assertNotFalse($curl);
        $this->headers = '';
        $jar = "{$this->folder}/cookies";
        curl_setopt_array($curl, [CURLOPT_RETURNTRANSFER => true, CURLOPT_CUSTOMREQUEST => $method, CURLOPT_HTTPHEADER => $headers, CURLOPT_COOKIEFILE => $jar, CURLOPT_COOKIEJAR => $jar, CURLOPT_TIMEOUT => 60, CURLOPT_HEADERFUNCTION => function ($curl, string $line): int {
            $this->headers .= $line;

            return strlen($line);
        }] + ($body === '' ? [] : [CURLOPT_POSTFIELDS => $body]));
        $answer = (string) curl_exec($curl);
        $leads = curl_getinfo($curl, CURLINFO_REDIRECT_URL);

        return [(int) curl_getinfo($curl, CURLINFO_RESPONSE_CODE), $answer, is_string($leads) ? $leads : ''];
    }

    /** What a page of ours reads from its cookies and sends along. */
    private function token(): string
    {
        preg_match('/\tXSRF-TOKEN\t(\S+)/', (string) file_get_contents("{$this->folder}/cookies"), $found);

        return 'X-XSRF-TOKEN: ' . rawurldecode($found[1] ?? '');
    }

    /** What stands before it speaks TLS: all leads to the address that is in the address bar, and the cookies go over TLS only. */
    public function testBehindTls(): void
    {
        $this->start(['YARD_HOSTS' => 'yard.example', 'YARD_URL' => 'https://yard.example']);
        $host = ['Host: yard.example'];
        self::assertSame('https://yard.example/sign-in?to=%2Fshots%2Fx', $this->ask('GET', '/shots/x', '', $host)[2]);
        self::assertSame(1, preg_match('~href="https://yard\.example/build/assets/[\w-]+\.css"~', $this->ask('GET', '/sign-in', '', $host)[1]));
        self::assertMatchesRegularExpression('/^set-cookie: yard=[^\n]*; secure;/mi', $this->headers);
        // A change from there is ours; from the address behind it, or from elsewhere, it is not.
        self::assertSame(419, $this->ask('POST', '/sign-in', 'name=Ada', [...$host, 'Origin: https://yard.example'])[0]);
        self::assertSame(403, $this->ask('POST', '/sign-in', 'name=Ada', [...$host, 'Origin: https://evil.example'])[0]);
    }

    /** Built files are given out under the same names by whatever server, and under no others. */
    public function testTheDoorHasItsStyle(): void
    {
        $start = function (bool $own): void {
            $this->start(own: $own);
            self::assertSame(1, preg_match('~href="[^"]*(/build/assets/[\w-]+\.css)"~', $this->ask('GET', '/sign-in')[1], $found));
            self::assertSame(200, $this->ask('GET', $found[1] ?? '')[0], $own ? 'PHP’s own' : 'nginx');
            self::assertSame(403, $this->ask('GET', $found[1] ?? '', '', ['Host: elsewhere.test'])[0]);
        };
        $start(true);
        $this->stop();
        $start(false);
    }

    public function testInAndOutAgain(): void
    {
        $this->start();
        $shot = app(ShotBook::class)->create('Everybody’s', self::smallDocument(), 'start');
        $home = 'http://' . self::ADDRESS . ":{$this->port}";
        self::assertSame(401, $this->ask('GET', "/api/shots/{$shot->id}")[0]);
        self::assertSame([302, "{$home}/sign-in?to=%2F"], array_values(array_intersect_key($this->ask('GET', '/'), [0 => true, 2 => true])));
        [$status, $page] = $this->ask('GET', '/sign-in');
        self::assertSame(200, $status);
        self::assertStringNotContainsString('<script', $page);
        self::assertSame(1, preg_match('/name="_token" value="([^"]+)"/', $page, $found));
        self::assertSame(419, $this->ask('POST', '/sign-in', 'name=Ada&password=a+long+enough+one')[0], 'a form of another page');
        $form = '_token=' . rawurlencode($found[1] ?? '') . '&name=Ada&to=/&password=';
        self::assertSame(422, $this->ask('POST', '/sign-in', $form . 'wrong')[0]);
        [$status, , $leads] = $this->ask('POST', '/sign-in', $form . 'a+long+enough+one');
        self::assertSame([302, $home], [$status, rtrim($leads, '/')]);

        self::assertSame(200, $this->ask('GET', "/api/shots/{$shot->id}")[0]);
        [$status, $answer] = $this->ask('GET', '/');
        self::assertSame(200, $status);
        self::assertStringContainsString('id="root"', $answer);
        $new = ['Content-Type: application/json', 'Accept: application/json'];
        self::assertSame(419, $this->ask('POST', '/api/shots', '{"name":"Mine"}', $new)[0], 'without what only our pages can read');
        self::assertSame(419, $this->ask('POST', '/api/shots', '{"name":"Mine"}', [...$new, 'X-XSRF-TOKEN: forged'])[0]);
        [$status, $answer] = $this->ask('POST', '/api/shots', '{"name":"Mine"}', [...$new, $this->token()]);
        self::assertSame(201, $status, $answer);
        self::assertSame('Ada', json_decode($answer, true)['owner'] ?? null);

        self::assertSame(204, $this->ask('POST', '/api/sign-out', '', [$this->token()])[0]);
        self::assertSame(401, $this->ask('GET', "/api/shots/{$shot->id}")[0]);
        self::assertSame(403, $this->ask('GET', '/api/me', '', ['Host: elsewhere.test'])[0]);
    }
}
