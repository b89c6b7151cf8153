<?php

declare(strict_types=1);

namespace Tests\Bench;

use RuntimeException;
use Tests\Processes;

/** Yard Break as bin/start runs it, on a database and a store of its own, for benches that treat it badly. */
final class RunningYard
{
    public readonly string $folder;

    public readonly int $port;

    /** @var resource */
    private $process;

    /**
     * @param array<string, string> $environment beside its own
     * @param string|null $in folder in which it makes its own; null: wherever temporary files go
     */
    public function __construct(array $environment = [], ?string $in = null)
    {
        $this->folder = ($in ?? sys_get_temp_dir()) . '/yard-bench-' . bin2hex(random_bytes(6));
        mkdir($this->folder);
        touch("{$this->folder}/yard.sqlite");
        $this->port = Processes::freePort();
        $this->process = Processes::start(['bin/start', "--port={$this->port}"], "{$this->folder}/start.log", Processes::environment($this->folder) + $environment);
        if (! $this->answersWithin(120.0)) {
            throw new RuntimeException('It never answered: ' . file_get_contents("{$this->folder}/start.log"));
        }
    }

    public function end(): void
    {
        proc_terminate($this->process, SIGTERM);
        $until = microtime(true) + 10.0;
        while (proc_get_status($this->process)['running'] && microtime(true) < $until) {
            usleep(100_000);
        }
        proc_close($this->process);
        exec('rm -rf ' . escapeshellarg($this->folder));
    }

    /**
     * @param string|null $body bytes, or null for none
     * @param list<string> $headers
     *
     * @return array{int, string, float} status (0: nobody answered), body, seconds
     */
    public function ask(string $method, string $path, ?string $body = null, array $headers = [], int $patience = 60): array
    {
        $curl = curl_init();
        curl_setopt_array($curl, [
            CURLOPT_URL => "http://127.0.0.1:{$this->port}{$path}", CURLOPT_CUSTOMREQUEST => $method, CURLOPT_RETURNTRANSFER => true, CURLOPT_TIMEOUT => $patience, CURLOPT_PATH_AS_IS => true,
            CURLOPT_HTTPHEADER => ['Accept: application/json', 'Expect:', ...$body === null || preg_grep('/^Content-Type:/i', $headers) !== [] ? [] : ['Content-Type: application/json'], ...$headers],
        ]);
        if ($body !== null) {
            curl_setopt($curl, CURLOPT_POSTFIELDS, $body);
        }
        $begin = microtime(true);
        $answer = curl_exec($curl);

        return [(int) curl_getinfo($curl, CURLINFO_RESPONSE_CODE), is_string($answer) ? $answer : '', microtime(true) - $begin];
    }

    /**
     * @param array<string, mixed>|null $body
     *
     * @return array{int, array<mixed>} status and what was said; told to come again, it does
     */
    public function say(string $method, string $path, ?array $body = null, ?string $basedOn = null): array
    {
        do {
            [$status, $answer] = $this->ask($method, $path, $body === null ? null : json_encode($body, JSON_THROW_ON_ERROR), $basedOn === null ? [] : ["If-Match: \"{$basedOn}\""]);
            if ($status === 503) {
                usleep(300_000);
            }
        } while ($status === 503);
        $said = json_decode($answer, true);

        return [$status, is_array($said) ? $said : []];
    }

    public function answersWithin(float $seconds): bool
    {
        $until = microtime(true) + $seconds;
        do {
            if ($this->ask('GET', '/api/shots', patience: 5)[0] === 200) {
                return true;
            }
            usleep(50_000);
        } while (microtime(true) < $until && proc_get_status($this->process)['running']);

        return false;
    }

    /** @return array<int, string> what runs below bin/start, by number: the program's name */
    public function parts(): array
    {
        $parts = [];
        $below = [proc_get_status($this->process)['pid']];
        while ($below !== []) {
            $pid = array_pop($below);
            foreach (array_filter(explode("\n", (string) shell_exec("pgrep -P {$pid}"))) as $child) {
                $parts[(int) $child] = trim((string) @file_get_contents("/proc/{$child}/comm"));
                $below[] = (int) $child;
            }
        }

        return $parts;
    }

    /** @return float what its processes hold in memory of their own, MB */
    public function memory(): float
    {
        $sum = 0;
        foreach (array_keys($this->parts()) as $pid) {
            preg_match('/^RssAnon:\s+(\d+)/m', (string) @file_get_contents("/proc/{$pid}/status"), $found);
            $sum += (int) ($found[1] ?? 0);
        }

        return round($sum / 1024, 1);
    }

    /** @return float MB below its folder */
    public function size(string $part): float
    {
        return round((float) shell_exec('du -sk ' . escapeshellarg("{$this->folder}/{$part}") . ' 2>/dev/null | cut -f1') / 1024, 1);
    }

    /** @return array<string, mixed> a small shot: a box in pieces that falls */
    public static function document(int $seed, int $frames = 20, int $pieces = 20): array
    {
        return ['version' => 2, 'frames' => $frames, 'props' => [[
            'id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 1]],
            'position' => ['y' => 0.4], 'break' => ['cellular' => ['pieces' => $pieces, 'seed' => $seed]], 'motion' => ['rigid' => ['before' => 'falls']],
        ]]];
    }
}
