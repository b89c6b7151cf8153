<?php

/**
 * Makes the pile scene: the Voronoi pieces of a 1 m cube, each scaled 0.98 about its centre, the cube's bottom 1 m above
 * the floor. Usage: bin/php core/bench/scene.php COUNT > scene.json
 */

declare(strict_types=1);

use YardBreak\Core\Break\CellComplex;
use YardBreak\Core\Break\CellDiagramBuilder;
use YardBreak\Core\Break\MeshCutter;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\Primitive\Solids;

require __DIR__ . '/../../vendor/autoload.php';

$count = (int) ($argv[1] ?? 64);
$stream = RandomStream::named(12345, 'pile', $count);
$x = $y = $z = [];
for ($i = 0; $i < $count; $i++) {
    [$x[], $y[], $z[]] = [$stream->between(-0.5, 0.5), $stream->between(-0.5, 0.5), $stream->between(-0.5, 0.5)];
}
$complex = CellComplex::voronoi($x, $y, $z, [-0.6, -0.6, -0.6], [0.6, 0.6, 0.6]);
$bodies = [];
foreach (MeshCutter::cut(Solids::box(1, 1, 1), CellDiagramBuilder::voronoi($x, $y, $z, $complex)) as $piece) {
    [$cx, $cy, $cz] = $piece->mass->centre;
    $vertices = [];
    foreach ($piece->mesh->x as $i => $px) {
        $vertices[] = [0.98 * ($px - $cx), 0.98 * ($piece->mesh->y[$i] - $cy), 0.98 * ($piece->mesh->z[$i] - $cz)];
    }
    $bodies[] = ['position' => [$cx, $cy + 1.5, $cz], 'vertices' => $vertices, 'faces' => array_chunk($piece->mesh->triangles, 3), 'volume' => 0.98 ** 3 * $piece->mass->volume, 'mass' => 1000 * 0.98 ** 3 * $piece->mass->volume];
}
echo json_encode([
    'name' => "pile-{$count}", 'gravity' => [0, -9.81, 0], 'dt' => 1 / 60, 'steps' => 240, 'density' => 1000, 'friction' => 0.6, 'restitution' => 0.1,
    'floor' => ['y' => 0, 'halfExtents' => [20, 1, 20], 'center' => [0, -1, 0]], 'bodies' => $bodies,
]);
