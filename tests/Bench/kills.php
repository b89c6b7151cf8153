<?php

/**
 * Parts of a running yard are killed without warning, at random moments while shots are saved, files are sent, previews made,
 * bakes and exports run. Nothing that was acknowledged may be lost, every bake and export must end, and within five seconds of
 * each death it must answer again. One JSON line a kill, and a last one. Usage: bin/php tests/Bench/kills.php [kills=50] [seed=1]
 */

declare(strict_types=1);

use Tests\Bench\RunningYard;

require __DIR__ . '/../../vendor/autoload.php';

$kills = (int) ($argv[1] ?? 50);
mt_srand((int) ($argv[2] ?? 1));
$yard = new RunningYard();
/** Leaves one to kill of each program in turn: nginx's and PHP's masters and workers, the workers of the queue. */
$victim = static function (int $turn) use ($yard): array {
    $parts = array_filter($yard->parts(), static fn (string $name): bool => preg_match('/^(php|nginx)/', $name) === 1);
    $names = array_values(array_unique($parts));
    sort($names);
    $name = $names[$turn % max(1, count($names))] ?? '';
    $of = array_keys(array_filter($parts, static fn (string $part): bool => $part === $name));

    return [$of === [] ? 0 : $of[mt_rand(0, count($of) - 1)], $name];
};
try {
    [, $shot] = $yard->say('POST', '/api/shots', ['name' => 'Kills']);
    $path = "/api/shots/{$shot['id']}";
    $head = (string) $shot['head']['id'];
    $counts = ['saves' => 0, 'refused' => 0, 'uploads' => 0, 'bakes' => 0, 'exports' => 0];
    $lost = $stuck = $slow = [];
    /** @var array<string, string> $assets */
    $assets = [];
    $jobs = [];
    $worst = 0.0;
    for ($k = 0; $k < $kills; $k++) {
        // What goes on while it happens: a child that does one thing after the other until it is told to end.
        $stop = "{$yard->folder}/stop-{$k}";
        $child = pcntl_fork();
        if ($child === 0) {
            for ($n = 0; ! file_exists($stop); $n++) {
                $yard->ask('GET', "{$path}/props/block/mesh?at={$n}", patience: 5);
            }
            posix_kill(getmypid(), SIGKILL);
        }
        $until = microtime(true) + mt_rand(300, 1500) / 1000.0;
        $killed = false;
        for ($n = 0; $n < 12; $n++) {
            if (! $killed && microtime(true) >= $until) {
                [$pid, $name] = $victim($k);
                if ($pid > 0) {
                    posix_kill($pid, SIGKILL);
                }
                $killed = true;
                $at = microtime(true);
                $back = $yard->answersWithin(20.0);
                $took = microtime(true) - $at;
                $worst = max($worst, $took);
                if (! $back || $took > 5.0) {
                    $slow[] = "kill {$k} of {$name}: " . round($took, 1);
                }
            }
            $document = RunningYard::document(100 * $k + $n, 600, 200);
            [$status, $answer] = $yard->ask('PUT', "{$path}/document", json_encode(['document' => $document], JSON_THROW_ON_ERROR), ["If-Match: \"{$head}\""]);
            if ($status === 200) {
                $head = (string) json_decode($answer, true)['head']['id'];
                $counts['saves']++;
                $last = $document;
            } else {
                // Not acknowledged: it is there whole, or not at all.
                $counts['refused']++;
                $yard->answersWithin(20.0);
                [, $now] = $yard->say('GET', $path);
                $seed = $now['document']['props'][0]['break']['cellular']['seed'] ?? null;
                if ($seed !== $document['props'][0]['break']['cellular']['seed'] && (! isset($last) || $seed !== $last['props'][0]['break']['cellular']['seed'])) {
                    $lost[] = "kill {$k}, save {$n}";
                }
                $head = (string) ($now['head']['id'] ?? $head);
                $last = $now['document'];
            }
            if ($n === 3) {
                $obj = "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 3 1 4\n# {$k}\n";
                $body = "--part\r\nContent-Disposition: form-data; name=\"file\"; filename=\"{$k}.obj\"\r\n\r\n{$obj}\r\n--part--\r\n";
                [$status, $answer] = $yard->ask('POST', '/api/assets', $body, ['Content-Type: multipart/form-data; boundary=part']);
                if ($status === 201) {
                    $assets[(string) json_decode($answer, true)['asset']] = $obj;
                    $counts['uploads']++;
                }
            }
            if ($n === 5) {
                [$status, $bake] = $yard->say('POST', "{$path}/bakes");
                if ($status === 201) {
                    $jobs[] = "/api/bakes/{$bake['id']}";
                    $counts['bakes']++;
                }
            }
        }
        touch($stop);
        pcntl_waitpid($child, $state);
        // The newest bake must end; those that another replaced were cancelled.
        $until = microtime(true) + 60.0;
        do {
            [, $bake] = $jobs === [] ? [0, ['status' => 'done']] : $yard->say('GET', $jobs[count($jobs) - 1]);
            usleep(100_000);
        } while (! in_array($bake['status'] ?? '', ['done', 'cancelled', 'failed'], true) && microtime(true) < $until);
        if (($bake['status'] ?? '') !== 'done') {
            $stuck[] = "kill {$k}: bake " . ($bake['status'] ?? 'gone');
        }
        if ($k % 5 === 4 && $jobs !== []) {
            [$status, $export] = $yard->say('POST', $jobs[count($jobs) - 1] . '/exports', ['format' => 'glb']);
            if ($status === 201 && isset($export['id'])) {
                $id = $export['id'];
                $counts['exports']++;
                [$pid] = $victim($k);
                posix_kill($pid, SIGKILL);
                $until = microtime(true) + 30.0;
                do {
                    usleep(100_000);
                    [, $export] = $yard->say('GET', "/api/exports/{$id}");
                } while (! in_array($export['status'] ?? '', ['done', 'cancelled', 'failed'], true) && microtime(true) < $until);
                if (($export['status'] ?? '') !== 'done') {
                    $stuck[] = "kill {$k}: export " . ($export['status'] ?? 'gone');
                }
            }
        }
        [, $now] = $yard->say('GET', $path);
        if (isset($last) && ($now['document']['props'][0]['break']['cellular']['seed'] ?? null) !== $last['props'][0]['break']['cellular']['seed']) {
            $lost[] = "kill {$k}";
        }
        echo json_encode(['kill' => $k + 1, 'of' => $name ?? '', 'saves' => $counts['saves'], 'answers_after_s' => round($took ?? 0.0, 2), 'lost' => count($lost), 'stuck' => count($stuck)]), "\n";
    }
    foreach ($assets as $sha => $bytes) {
        $found = trim((string) shell_exec('find ' . escapeshellarg("{$yard->folder}/store/assets") . " -name '*{$sha}*' -type f"));
        if ($found === '' || ! str_contains((string) file_get_contents($found), $bytes)) {
            $lost[] = "upload {$sha}";
        }
    }
    echo json_encode(['kills' => $kills, ...$counts, 'longest_until_an_answer_s' => round($worst, 2), 'lost' => $lost, 'stuck' => $stuck, 'slow' => $slow]), "\n";
} finally {
    $yard->end();
}
