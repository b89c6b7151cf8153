<?php

declare(strict_types=1);

namespace Tests\Process;

use App\Support\Shield;
use App\Support\ShotBook;
use PHPUnit\Framework\Attributes\Group;
use Tests\Processes;
use Tests\TestCase;

/** The real web server: what it says of built files, who it talks to, and that neither work nor a dead process stops it. */
#[Group('slow')]
final class ServerTest extends TestCase
{
    use Awaits;

    /** @var resource|null */
    private $server = null;

    private int $port = 0;

    protected function setUp(): void
    {
        parent::setUp();
        $this->port = Processes::freePort();
        $this->server = Processes::start(['bin/serve', (string) $this->port], "{$this->folder}/server.log", ['YARD_COMPUTING' => '1'] + Processes::environment($this->folder));
        $this->until(fn (): bool => $this->ask('/api/shots')[0] === 200, 'the server');
    }

    protected function tearDown(): void
    {
        if ($this->server !== null) {
            $pid = proc_get_status($this->server)['pid'];
            proc_terminate($this->server);
            proc_close($this->server);
            $this->until(fn (): bool => $this->ask('/api/shots')[0] === 0, "the server {$pid} to end");
        }
        parent::tearDown();
    }

    /**
     * @param list<string> $headers
     *
     * @return array{int, array<string, string>} status (0: nobody answers) and headers
     */
    private function ask(string $path, array $headers = []): array
    {
        $found = [];
        $curl = curl_init("http://127.0.0.1:{$this->port}{$path}");
        self::assertNotFalse($curl);
        curl_setopt_array($curl, [CURLOPT_RETURNTRANSFER => true, CURLOPT_HTTPHEADER => $headers, CURLOPT_TIMEOUT => 60, CURLOPT_PATH_AS_IS => true, CURLOPT_HEADERFUNCTION => static function ($curl, string $line) use (&$found): int {
            $parts = explode(':', $line, 2);
            if (count($parts) === 2) {
                $found[strtolower($parts[0])] = trim($parts[1]);
            }

            return strlen($line);
        }]);
        curl_exec($curl);

        return [(int) curl_getinfo($curl, CURLINFO_RESPONSE_CODE), $found];
    }

    public function testBuiltFilesSayWhatEveryAnswerSaysAndOtherHostsGetNothing(): void
    {
        $files = glob(dirname(__DIR__, 2) . '/public/build/assets/*.js') ?: [];
        self::assertNotSame([], $files);
        foreach (['/', '/build/assets/' . basename($files[0])] as $path) {
            [$status, $headers] = $this->ask($path);
            self::assertSame(200, $status);
            foreach (Shield::HEADERS as $name => $value) {
                self::assertSame($value, $headers[strtolower($name)] ?? null, "{$name} of {$path}");
            }
            self::assertArrayNotHasKey('x-powered-by', $headers);
            self::assertStringNotContainsString('/', $headers['server'] ?? '', 'no version');
            self::assertSame(403, $this->ask($path, ['Host: elsewhere.test'])[0]);
        }
        self::assertStringContainsString('immutable', $this->ask('/build/assets/' . basename($files[0]))[1]['cache-control'] ?? '');
        foreach (['/build/../../.env', '/build/..%2f..%2f.env', '/build/assets/../../../.env'] as $path) {
            self::assertNotSame(200, $this->ask($path)[0], $path);
        }
    }

    /** Whatever of it is killed, it answers again within seconds, and one process that dies takes no other with it. */
    public function testADeadProcessIsReplaced(): void
    {
        $pid = proc_get_status($this->server ?? self::fail())['pid'];
        $below = static function (int $pid) use (&$below): array {
            $children = array_map(intval(...), array_filter(explode("\n", (string) shell_exec("pgrep -P {$pid}"))));

            return array_merge($children, ...array_map($below, $children));
        };
        /** @var list<int> $all */
        $all = $below($pid);
        $programs = [];
        foreach ($all as $one) {
            $name = trim((string) @file_get_contents("/proc/{$one}/comm"));
            if (preg_match('/^(php|nginx)/', $name) === 1) {
                $programs[$name][] = $one;
            }
        }
        self::assertNotSame([], $programs);
        foreach ($programs as $ofOne) {
            foreach (array_slice($ofOne, 0, 2) as $process) {
                posix_kill($process, SIGKILL);
                $this->until(fn (): bool => $this->ask('/api/shots')[0] === 200, 'an answer', 8.0);
            }
        }
    }

    /** One preview is made at a time here; the others are told to come again, and the rest of the site answers meanwhile. */
    public function testPreviewsWaitForTheirTurnAndNobodyForThem(): void
    {
        $paths = [];
        for ($k = 0; $k < 14; $k++) {
            $document = self::smallDocument();
            $document['props'][0]['source'] = ['kind' => 'ball', 'ball' => ['width' => 1.0, 'divisions' => 12]];
            $document['props'][0]['break'] = ['cellular' => ['pieces' => 300, 'seed' => $k]];
            $paths[] = "http://127.0.0.1:{$this->port}/api/shots/" . app(ShotBook::class)->create("Shot {$k}", $document, 'start')->id . '/props/block/mesh';
        }
        $multi = curl_multi_init();
        $start = static function (string $path) use ($multi): void {
            $curl = curl_init($path);
            self::assertNotFalse($curl);
            curl_setopt_array($curl, [CURLOPT_RETURNTRANSFER => true, CURLOPT_HEADER => true, CURLOPT_PRIVATE => $path]);
            curl_multi_add_handle($multi, $curl);
        };
        array_map($start, $paths);
        [$done, $sentAway, $meanwhile] = [0, 0, 0];
        $end = microtime(true) + 100.0;
        while ($done < count($paths) && microtime(true) < $end) {
            curl_multi_exec($multi, $running);
            while (($info = curl_multi_info_read($multi)) !== false) {
                $curl = $info['handle'];
                assert($curl instanceof \CurlHandle);
                $status = curl_getinfo($curl, CURLINFO_RESPONSE_CODE);
                if ($status === 503) {
                    self::assertStringContainsString('Retry-After: 1', (string) curl_multi_getcontent($curl));
                    $sentAway++;
                    $start((string) curl_getinfo($curl, CURLINFO_PRIVATE));
                } else {
                    self::assertSame(200, $status, (string) curl_multi_getcontent($curl));
                    $done++;
                }
                curl_multi_remove_handle($multi, $curl);
            }
            if ($done < count($paths) && $this->ask('/api/shots')[0] === 200) {
                $meanwhile++;
            }
            usleep(20_000);
        }
        self::assertSame(count($paths), $done);
        self::assertGreaterThan(0, $sentAway);
        // More previews at once than there are processes: without turns nobody else would get a word in.
        self::assertGreaterThan(count($paths), $meanwhile);
    }
}
