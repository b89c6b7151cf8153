<?php

/**
 * A disk that runs full at every stage of a bake: before it is queued, while the pieces are stored, in the middle of the frames,
 * at a checkpoint, at the last write. A yard on a small disk of its own in memory is given a new shot each time and a little more
 * room than the time before; the bake must end in words or wait, nothing stored before may be lost, and as soon as there is room
 * again the same bake must come out with the same bytes as one that never wanted for any. Needs root (it mounts a tmpfs).
 * One JSON line a round, and a last one. Usage: bin/php tests/Bench/disk-full.php [rounds=40] [megabytes=48]
 */

declare(strict_types=1);

use Tests\Bench\RunningYard;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

require __DIR__ . '/../../vendor/autoload.php';

$rounds = (int) ($argv[1] ?? 40);
$megabytes = (int) ($argv[2] ?? 48);
$disk = sys_get_temp_dir() . '/yard-disk-' . bin2hex(random_bytes(4));
mkdir($disk);
exec('mount -t tmpfs -o size=' . $megabytes . 'm tmpfs ' . escapeshellarg($disk), $lines, $failed);
if ($failed !== 0) {
    fwrite(STDERR, "A disk in memory cannot be mounted here; this needs root.\n");
    exit(2);
}
$ballast = "{$disk}/ballast";
/** Leaves so many bytes on the disk. */
$leave = static function (int $bytes) use ($disk, $ballast): void {
    @unlink($ballast);
    clearstatcache();
    $file = fopen($ballast, 'wb');
    $most = (int) disk_free_space($disk) - $bytes;
    for ($done = 0; $done < $most; $done += 65536) {
        if (@fwrite($file, str_repeat("\1", min(65536, $most - $done))) === false) {
            break;
        }
    }
    fclose($file);
};
$ended = static function (RunningYard $yard, string $path, float $seconds): array {
    $until = microtime(true) + $seconds;
    do {
        usleep(100_000);
        [, $bake] = $yard->say('GET', $path);
    } while (! in_array($bake['status'] ?? '', ['done', 'cancelled', 'failed'], true) && microtime(true) < $until);

    return $bake;
};
$yard = new RunningYard(in: $disk);
$wrong = [];
$ways = [];
try {
    [, $shot] = $yard->say('POST', '/api/shots', ['name' => 'Full']);
    $path = "/api/shots/{$shot['id']}";
    $head = (string) $shot['head']['id'];
    $save = static function (array $document) use ($yard, $path, &$head): int {
        [$status, $now] = $yard->say('PUT', "{$path}/document", ['document' => $document], $head);
        $head = (string) ($now['head']['id'] ?? $head);

        return $status;
    };
    // What a bake takes when there is room.
    $save(RunningYard::document(1000, 400, 120));
    $before = (int) disk_free_space($disk);
    [, $bake] = $yard->say('POST', "{$path}/bakes");
    $bake = $ended($yard, "/api/bakes/{$bake['id']}", 120.0);
    $takes = $before - (int) disk_free_space($disk);
    for ($k = 0; $k < $rounds; $k++) {
        $document = RunningYard::document(2000 + $k, 400, 120);
        if ($save($document) !== 200) {
            $wrong[] = "round {$k}: not saved though there was room";
        }
        $room = intdiv($takes * $k, 2 * max(1, $rounds - 1));
        $leave($room);
        [$status, $bake] = $yard->say('POST', "{$path}/bakes");
        $said = (string) ($bake['detail'] ?? '');
        $state = 'not queued';
        if ($status < 300) {
            $bake = $ended($yard, "/api/bakes/{$bake['id']}", 12.0);
            $state = (string) ($bake['status'] ?? 'gone');
            $said = (string) ($bake['error'] ?? $bake['waiting'] ?? '');
        }
        // A change that cannot be stored is refused, and the one before is still there.
        $other = RunningYard::document(9000 + $k, 400, 120);
        $saved = $room > 400_000 ? null : $save($other);
        [$seen, $now] = $yard->say('GET', $path);
        $seed = $now['document']['props'][0]['break']['cellular']['seed'] ?? null;
        if ($seen !== 200 || $seed !== ($saved === 200 ? 9000 : 2000) + $k) {
            $wrong[] = "round {$k}: the shot reads {$seen}, seed " . json_encode($seed);
        }
        unlink($ballast);
        if ($saved === 200) {
            $save($document);
        }
        // There is room again: by itself where it was waiting, or asked for once more.
        [$status, $bake] = $yard->say('POST', "{$path}/bakes");
        $bake = $status < 300 ? $ended($yard, "/api/bakes/{$bake['id']}", 120.0) : $bake;
        if (($bake['status'] ?? '') !== 'done') {
            $wrong[] = "round {$k}: with room again it is " . json_encode($bake);
        } else {
            Baker::bake(new Pipeline(new MemoryStore(), new NoAssets()), Shot::read(Schema::load()->complete($document)), '/dev/shm/yard-reference');
            if (hash_file('sha256', "{$yard->folder}/store/bakes/{$bake['id']}.frames") !== hash_file('sha256', '/dev/shm/yard-reference')) {
                $wrong[] = "round {$k}: other bytes";
            }
            unlink('/dev/shm/yard-reference');
        }
        $ways["{$state}: {$said}"] = ($ways["{$state}: {$said}"] ?? 0) + 1;
        echo json_encode(['room_kB' => intdiv($room, 1000), 'bake' => $state, 'said' => $said, 'save' => $saved, 'wrong' => count($wrong)], JSON_UNESCAPED_UNICODE), "\n";
        // Room for the next round.
        [, $shots] = $yard->say('POST', '/api/store/empty', ['what' => 'computed']);
    }
    echo json_encode(['rounds' => $rounds, 'a_bake_takes_kB' => intdiv($takes, 1000), 'ended' => $ways, 'wrong' => $wrong], JSON_UNESCAPED_UNICODE), "\n";
} finally {
    $yard->end();
    exec('umount ' . escapeshellarg($disk));
    rmdir($disk);
}
