<?php

/**
 * Thirty hard meshes through every pattern, two counts and so many seeds; the written files are read back by a checker that
 * has nothing of the product. One JSON line for what is refused or wrong, and a last one with the counts.
 * Usage: bin/php core/bench/hard.php [seeds] [mesh or pattern, part of its name]
 */

declare(strict_types=1);

use YardBreak\Core\Break\BreachPattern;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\CoursesPattern;
use YardBreak\Core\Break\Cutter;
use YardBreak\Core\Break\DrawnPattern;
use YardBreak\Core\Break\FacesPattern;
use YardBreak\Core\Break\FlakesPattern;
use YardBreak\Core\Break\GrainPattern;
use YardBreak\Core\Break\HalvingPattern;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Break\StarterWeb;
use YardBreak\Core\Break\WebPattern;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Parting;
use YardBreak\Core\Mesh\Repair;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Tests\Fixture\HardMeshes;
use YardBreak\Core\Tests\Fixture\WrittenPieces;

require __DIR__ . '/../../vendor/autoload.php';
ini_set('memory_limit', '2G');

/** @return array<string, callable(int): object> */
$patterns = static function (TriangleMesh $mesh, int $k): array {
    $s = $mesh->size();
    [$low, $high] = $mesh->bounds();
    $middle = array_map(static fn (float $a, float $b): float => 0.5 * ($a + $b), $low, $high);
    $d = (MassProperties::of($mesh)->volume / (25.0 * $k)) ** (1.0 / 3.0);

    return [
        'cellular' => static fn (int $seed): object => new CellularPattern(30 * $k, $seed, 0.3),
        'web' => static fn (int $seed): object => new WebPattern($seed, [$middle], [0.1, 0.2, 1.0], 9 * $k, 4 * $k, 0.4 * $s, 1.3, 0.4, false),
        'web, even' => static fn (int $seed): object => new WebPattern($seed, [$middle], [0.0, 0.0, 1.0], 9 * $k, 4 * $k, 0.4 * $s, 1.3, 0.0, false),
        'bricks' => static fn (int $seed): object => new CoursesPattern(CoursesPattern::BRICK, $seed, [0.0, 1.0, 0.0], 2.0 * $d, $d, 0.0, 0.5, 0.0, 0.2),
        'round courses' => static fn (int $seed): object => new CoursesPattern(CoursesPattern::ROUND, $seed, [0.0, 1.0, 0.0], 2.0 * $d, $d, 0.0, 0.5, 0.0, 0.0),
        'hexagons' => static fn (int $seed): object => new CoursesPattern(CoursesPattern::HEXAGON, $seed, [0.0, 1.0, 0.0], 1.5 * $d, $d, 0.0, 0.5, 0.0, 0.0),
        'halving' => static fn (int $seed): object => new HalvingPattern(0, 16 * $k, $seed, 0.0),
        'wandering' => static fn (int $seed): object => new HalvingPattern($k > 1 ? 4 : 3, 0, $seed, 0.05),
        'grain' => static fn (int $seed): object => new GrainPattern(20 * $k, $seed, 0.3, [0.0, 1.0, 0.0], 5.0, 0.6),
        'breach' => static fn (int $seed): object => new BreachPattern($seed, [Cutter::about(Cutter::BALL, [$middle[0], $middle[1], $high[2]], [0.0, 0.0, 1.0], 0.25 * $s)], 0.3, 0.1 * $s / sqrt($k), 6 * $k, 0, 0.0),
        'drawn' => static fn (int $seed): object => new DrawnPattern(StarterWeb::lines($mesh, 2, 7 * $k, 4 * $k, $seed), 2),
        'flakes' => static fn (int $seed): object => new FlakesPattern(60 * $k, $seed, 0.5, 0.005 * $s, 0.002 * $s, false),
        'every face' => static fn (int $seed): object => new FacesPattern($seed, 3 * $k, 0, 0.004 * $s, 0.0, false),
    ];
};

$seeds = (int) ($argv[1] ?? 1);
$only = $argv[2] ?? '';
$counts = ['passed' => 0, 'refused' => 0, 'wrong' => 0];
$begin = hrtime(true);
foreach (HardMeshes::all() as $name => $make) {
    // As the stage that prepares a prop does.
    $mesh = Normals::computed(Parting::whereCrowded($make()));
    $volume = MassProperties::of($mesh)->volume;
    $repaired = Repair::of($mesh);
    $changed = abs(MassProperties::of($repaired->mesh)->volume / $volume - 1.0);
    if ($changed > 1e-9) {
        echo json_encode(['mesh' => $name, 'wrong' => 'repair', 'changed' => $changed, 'done' => $repaired->done]), "\n";
        $counts['wrong']++;
    }
    foreach ([1, 4] as $k) {
        foreach ($patterns($mesh, $k) as $label => $pattern) {
            if (! str_contains("{$name} {$label}", $only)) {
                continue;
            }
            for ($seed = 1; $seed <= $seeds; $seed++) {
                $case = ['mesh' => $name, 'pattern' => $label, 'size' => $k, 'seed' => $seed];
                $start = hrtime(true);
                try {
                    $cut = $pattern($seed);
                    $fills = $cut instanceof Pattern;
                    $taken = 0.0;
                    $pieces = [];
                    if ($fills) {
                        $broken = (new Breaker())->break($mesh, $cut);
                        $taken = $broken->discarded;
                        $pieces = array_map(static fn (object $piece): TriangleMesh => $piece->mesh, $broken->pieces);
                    } else {
                        foreach ($cut->flakes($mesh, new Progress()) as $flake) {
                            $pieces[] = $flake;
                        }
                    }
                } catch (BreakFailed $refusal) {
                    $counts['refused']++;
                    echo json_encode([...$case, 'refused' => $refusal->getMessage()]), "\n";
                    continue;
                } catch (Throwable $fault) {
                    $counts['wrong']++;
                    echo json_encode([...$case, 'wrong' => $fault::class . ': ' . $fault->getMessage()]), "\n";
                    continue;
                }
                $seconds = (hrtime(true) - $start) / 1e9;
                $named = [];
                foreach ($pieces as $p => $piece) {
                    $named[] = ["piece-{$p}", new TriangleMesh($piece->x, $piece->y, $piece->z, $piece->triangles)];
                }
                $written = new WrittenPieces(ObjWriter::write($named));
                $missing = $fills ? (array_sum($written->volumes) + $taken) / $volume - 1.0 : 0.0;
                if ($written->faults !== [] || abs($missing) > 1e-9 || $pieces === []) {
                    $counts['wrong']++;
                    echo json_encode([...$case, 'pieces' => count($pieces), 'wrong' => $written->faults, 'missing' => $missing, 's' => round($seconds, 2)]), "\n";
                } else {
                    $counts['passed']++;
                }
                if ($seconds > 5.0) {
                    echo json_encode([...$case, 'pieces' => count($pieces), 'slow_s' => round($seconds, 1)]), "\n";
                }
            }
        }
    }
}
echo json_encode($counts + ['s' => round((hrtime(true) - $begin) / 1e9, 1), 'peak_mb' => (int) (memory_get_peak_usage() / 1e6)]), "\n";
