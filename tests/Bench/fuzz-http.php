<?php

/**
 * Every route, asked badly: wrong methods, numbers, texts, documents and bodies, mutated from what is right. Nothing may be
 * answered with 500, none may take long, and the shot that is asked about must be there at the end. A JSON line for each
 * request that goes wrong, and a last one. Usage: bin/php tests/Bench/fuzz-http.php [requests=10000] [seed=1]
 */

declare(strict_types=1);

use Tests\Bench\RunningYard;

require __DIR__ . '/../../vendor/autoload.php';

$requests = (int) ($argv[1] ?? 10000);
mt_srand((int) ($argv[2] ?? 1));
$yard = new RunningYard();
$routes = array_map(static fn (array $route): array => [explode('|', $route['method'])[0], '/' . ltrim($route['uri'], '/')], json_decode((string) shell_exec('bin/php artisan route:list --json --path=api'), true, flags: JSON_THROW_ON_ERROR));
/** @param list<mixed> $of */
$one = static fn (array $of): mixed => $of[mt_rand(0, count($of) - 1)];
$odd = [null, true, false, 0, -1, 1, 3, 1e308, -1e-308, 0.5, 99999999999, '', 'x', "\0", '../../etc', "\xff\xfe", str_repeat('y', 5000), [], [[]], ['a' => 1], [1, 2, 3], '2026-11-27', 'NaN', '1e999', '<b>', "' or 1=1", '/props/0', '%00'];
/** A value somewhere in it is another one, gone, twice, or under another name. */
$mutated = static function (mixed $value, int $depth = 0) use (&$mutated, $one, $odd): mixed {
    if (! is_array($value) || $value === [] || mt_rand(0, 9) === 0) {
        return $one($odd);
    }
    $key = $one(array_keys($value));
    switch (mt_rand(0, 11)) {
        case 0: unset($value[$key]);
            break;
        case 1: $value['odd'] = $one($odd);
            break;
        case 2: $value = array_is_list($value) ? [...$value, ...$value] : $value;
            break;
        default: $value[$key] = $depth > 12 ? $one($odd) : $mutated($value[$key], $depth + 1);
    }

    return $value;
};
/** Bytes of it are others, or gone. */
$damaged = static function (string $bytes): string {
    for ($n = mt_rand(1, 6); $n > 0 && $bytes !== ''; $n--) {
        $at = mt_rand(0, strlen($bytes) - 1);
        $bytes = match (mt_rand(0, 3)) {
            0 => substr_replace($bytes, chr(mt_rand(0, 255)), $at, 1),
            1 => substr_replace($bytes, '', $at, mt_rand(1, 20)),
            2 => substr_replace($bytes, substr($bytes, $at, mt_rand(1, 50)), $at, 0),
            default => substr($bytes, 0, $at),
        };
    }

    return $bytes;
};
try {
    [, $shot] = $yard->say('POST', '/api/shots', ['name' => 'Fuzz']);
    $path = "/api/shots/{$shot['id']}";
    [, $seeded] = $yard->say('GET', '/api/shots');
    $documents = [];
    foreach ($seeded['shots'] ?? $seeded as $card) {
        [, $full] = $yard->say('GET', "/api/shots/{$card['id']}");
        $documents[] = $full['document'];
    }
    $small = RunningYard::document(1);
    [, $saved] = $yard->say('PUT', "{$path}/document", ['document' => $small], (string) $shot['head']['id']);
    [, $bake] = $yard->say('POST', "{$path}/bakes");
    while (in_array($bake['status'], ['queued', 'running'], true)) {
        usleep(100_000);
        [, $bake] = $yard->say('GET', "/api/bakes/{$bake['id']}");
    }
    $head = (string) $saved['head']['id'];
    $statuses = [];
    $faults = $longest = 0;
    $slowest = '';
    for ($n = 0; $n < $requests; $n++) {
        [$method, $uri] = $one($routes);
        $uri = (string) preg_replace_callback('/\{(\w+)\??\}/', static fn (array $name): string => mt_rand(0, 7) === 0
            ? rawurlencode((string) json_encode($one($odd), JSON_INVALID_UTF8_SUBSTITUTE))
            : match ($name[1]) {
                'shot' => (string) $shot['id'], 'bake' => (string) $bake['id'], 'prop' => 'block', 'format' => $one(['glb', 'zip', 'obj', 'ply', 'x']), 'export' => (string) mt_rand(0, 3), 'sha' => str_repeat('a', 64), 'force' => 'gravity', default => (string) mt_rand(0, 9),
            }, $uri);
        // What ends the shot or the bake would leave nothing to ask about.
        if (($method === 'DELETE' && mt_rand(0, 1) === 0) || str_contains($uri, 'sign-')) {
            continue;
        }
        if ($method === 'DELETE') {
            $uri = (string) preg_replace('/\d+/', '999', $uri);
        }
        if (mt_rand(0, 2) === 0) {
            $query = [];
            foreach (['frame', 'weight', 'source', 'name', 'value', 'axis', 'x', 'from', 'to', 'as', 'at', 'pieces', 'level', 'place', 'token', 'detail', 'set'] as $name) {
                if (mt_rand(0, 3) === 0) {
                    $query[$name] = $one($odd);
                }
            }
            $uri .= '?' . http_build_query($query);
        }
        $body = null;
        $headers = [];
        if (in_array($method, ['POST', 'PUT', 'PATCH'], true)) {
            $document = mt_rand(0, 3) === 0 || $documents === [] ? $small : $one($documents);
            for ($times = mt_rand(1, 3); $times > 0; $times--) {
                $document = $mutated($document);
            }
            $fields = ['document' => $document, 'name' => $one($odd), 'frame' => $one($odd), 'format' => $one(['glb', 'x', null, []]), 'weight' => $one($odd), 'people' => $one($odd), 'pinned' => $one($odd), 'prop' => $one(['block', 'x', [], 7])];
            $body = (string) json_encode(mt_rand(0, 5) === 0 ? $one($odd) : $fields, JSON_INVALID_UTF8_SUBSTITUTE | JSON_PARTIAL_OUTPUT_ON_ERROR);
            $body = mt_rand(0, 4) === 0 ? $damaged($body) : $body;
            $headers[] = 'If-Match: ' . $one(["\"{$head}\"", '"0"', 'x', '', '"99999999999999999999"']);
            if (str_ends_with($uri, '/assets') && mt_rand(0, 3) > 0) {
                $file = $damaged((string) $one(["v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 3 1 4\n", '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L9 0L9 9z"/></svg>', "ply\nformat ascii 1.0\nelement vertex 0\nend_header\n"]));
                $body = "--part\r\nContent-Disposition: form-data; name=\"file\"; filename=\"" . $one(['a.obj', 'a.svg', 'a.ply', 'a', '.', 'a.glb', 'a.stl']) . "\"\r\n\r\n{$file}\r\n--part\r\nContent-Disposition: form-data; name=\"as\"\r\n\r\n" . $one(['mesh', 'art', 'picture', 'font', 'x']) . "\r\n--part--\r\n";
                $headers[] = 'Content-Type: multipart/form-data; boundary=part';
            }
        }
        [$status, $answer, $took] = $yard->ask($method, $uri, $body, $headers);
        $statuses[$status] = ($statuses[$status] ?? 0) + 1;
        if ($took > $longest) {
            [$longest, $slowest] = [$took, "{$method} {$uri}"];
        }
        if ($status === 0 || ($status >= 500 && $status !== 503)) {
            $faults++;
            echo json_encode(['status' => $status, 'request' => "{$method} {$uri}", 'body' => substr((string) $body, 0, 600), 'headers' => $headers, 'answer' => substr($answer, 0, 300)], JSON_INVALID_UTF8_SUBSTITUTE), "\n";
        }
        if ($status === 200 && str_ends_with((string) strtok($uri, '?'), '/document')) {
            $head = (string) json_decode($answer, true)['head']['id'];
            // Back to what can be previewed fast.
            [, $saved] = $yard->say('PUT', "{$path}/document", ['document' => $small], $head);
            $head = (string) ($saved['head']['id'] ?? $head);
        }
    }
    ksort($statuses);
    [$there] = $yard->say('GET', $path);
    echo json_encode(['requests' => $requests, 'statuses' => $statuses, 'faults' => $faults, 'longest_s' => round($longest, 2), 'which' => substr($slowest, 0, 200), 'shot_is_there' => $there === 200]), "\n";
} finally {
    $yard->end();
}
