<?php

/**
 * A long day on one server: edits, each with a preview and its checks, and bakes; memory and store are to stay bounded.
 * One JSON line every hundred edits, and a last one. Usage: bin/php tests/Bench/soak.php [edits=2000] [bakes=200]
 */

declare(strict_types=1);

use Tests\Bench\RunningYard;

require __DIR__ . '/../../vendor/autoload.php';

$edits = (int) ($argv[1] ?? 2000);
$bakes = (int) ($argv[2] ?? 200);
// A hundred megabytes for what was computed, so that it has to make room on the way.
$yard = new RunningYard(['YARD_ROOM_COMPUTED' => '100000000', 'YARD_ROOM_BAKES' => '3']);
try {
    [, $shot] = $yard->say('POST', '/api/shots', ['name' => 'Soak']);
    $path = "/api/shots/{$shot['id']}";
    $revision = (string) $shot['head']['id'];
    $slowest = ['save' => 0.0, 'preview' => 0.0, 'bake' => 0.0];
    $wrong = [];
    $baked = 0;
    $begin = microtime(true);
    for ($n = 1; $n <= $edits; $n++) {
        $document = RunningYard::document($n);
        $document['props'][0]['source'] = ['kind' => 'ball', 'ball' => ['width' => 0.3, 'divisions' => 16]];
        $at = microtime(true);
        [$status, $said] = $yard->say('PUT', "{$path}/document", ['document' => $document], $revision);
        $slowest['save'] = max($slowest['save'], microtime(true) - $at);
        if ($status !== 200) {
            $wrong[] = "save {$n}: {$status}";
            continue;
        }
        $revision = (string) $said['head']['id'];
        $at = microtime(true);
        foreach (["{$path}/props/block/mesh", "{$path}/checks"] as $look) {
            [$status] = $yard->say('GET', $look);
            if ($status !== 200) {
                $wrong[] = "{$look} {$n}: {$status}";
            }
        }
        $slowest['preview'] = max($slowest['preview'], microtime(true) - $at);
        if ($n * $bakes >= ($baked + 1) * $edits) {
            $baked++;
            $at = microtime(true);
            [, $bake] = $yard->say('POST', "{$path}/bakes");
            $id = $bake['id'] ?? 0;
            while (in_array($bake['status'] ?? '', ['queued', 'running'], true) && microtime(true) < $at + 120.0) {
                usleep(100_000);
                [, $bake] = $yard->say('GET', "/api/bakes/{$id}");
            }
            $slowest['bake'] = max($slowest['bake'], microtime(true) - $at);
            if (($bake['status'] ?? '') !== 'done') {
                $wrong[] = "bake {$n}: " . ($bake['status'] ?? 'none');
            }
        }
        if ($n % 100 === 0 || $n === $edits) {
            echo json_encode(['edits' => $n, 'bakes' => $baked, 'memory_mb' => $yard->memory(), 'store_mb' => $yard->size('store'), 'database_mb' => $yard->size('yard.sqlite'), 'slowest_s' => array_map(static fn (float $s): float => round($s, 2), $slowest), 'wrong' => count($wrong)]), "\n";
            $slowest = ['save' => 0.0, 'preview' => 0.0, 'bake' => 0.0];
        }
    }
    echo json_encode(['minutes' => round((microtime(true) - $begin) / 60.0, 1), 'wrong' => array_slice($wrong, 0, 20)]), "\n";
} finally {
    $yard->end();
}
