<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Bake;
use App\Support\FileAssets;
use App\Support\ShotBook;
use Illuminate\Support\Facades\Artisan;
use Tests\TestCase;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\Pipeline;

/** What a prop is at a frame becomes a mesh of its own. */
final class FreezeTest extends TestCase
{
    /** @param array<mixed> $document */
    private function baked(array $document): Bake
    {
        $shot = app(ShotBook::class)->create('To freeze', $document, 'start');
        $id = $this->postJson("/api/shots/{$shot->id}/bakes")->assertCreated()->json('id');
        Artisan::call('queue:work', ['--stop-when-empty' => true, '--sleep' => 0]);

        return Bake::findOrFail($id);
    }

    /** @return array{TriangleMesh, array{x: float, y: float, z: float}} */
    private function frozen(Bake $bake, string $prop, int $frame): array
    {
        $answer = $this->postJson("/api/bakes/{$bake->id}/freeze", ['prop' => $prop, 'frame' => $frame])->assertCreated()->json();

        return [MeshReader::read((string) app(FileAssets::class)->path($answer['asset']), $answer['name']), $answer['middle']];
    }

    public function testHardPiecesKeepTheirShapeTheirPlaceAndTheirLooks(): void
    {
        $bake = $this->baked(self::smallDocument());
        [$mesh, $middle] = $this->frozen($bake, 'block', 20);
        $broken = app(Pipeline::class)->broken(ShotDocument::read($bake->revision->document)->props[0]);
        self::assertSame(array_sum(array_map(static fn (TriangleMesh $piece): int => $piece->triangleCount(), iterator_to_array($broken->pieces, false))), $mesh->triangleCount());
        $mass = MassProperties::of($mesh);
        self::assertEqualsWithDelta(0.3 ** 3, $mass->volume, 1e-7);
        self::assertTrue(Topology::of($mesh)->isWatertight());
        // The middle of all of it is where the bake has it: the mean of the pieces, by their volumes.
        $sum = [0.0, 0.0, 0.0];
        $poses = BakeReader::open($bake->framesPath())->frame(20)?->of('block', Track::POSE) ?? [];
        foreach ($broken->mass as $k => $piece) {
            foreach ($sum as $axis => $value) {
                $sum[$axis] = $value + $piece->volume * $poses[7 * $k + $axis] / 0.3 ** 3;
            }
        }
        self::assertEqualsWithDelta($sum, [$mass->centre[0] + $middle['x'], $mass->centre[1] + $middle['y'], $mass->centre[2] + $middle['z']], 1e-5);
        $looks = array_count_values($mesh->looks ?? []);
        $were = array_count_values(array_merge(...array_map(static fn (TriangleMesh $piece): array => $piece->looks ?? [], iterator_to_array($broken->pieces, false))));
        self::assertGreaterThan(0, $looks[TriangleMesh::LOOK_INNER] ?? 0);
        self::assertEqualsCanonicalizing($were, $looks);
        // As a prop it can be broken into what it was.
        $again = ShotDocument::read(['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['kind' => 'file', 'file' => ['asset' => $this->postJson("/api/bakes/{$bake->id}/freeze", ['prop' => 'block', 'frame' => 20])->json('asset'), 'fileName' => 'a.obj']], 'break' => ['pattern' => 'parts']]]]);
        self::assertCount(6, app(Pipeline::class)->broken($again->props[0])->pieces);
    }

    /** A sheet of patches is one surface again where it has not torn. */
    public function testClothIsAsItHangs(): void
    {
        $bake = $this->baked(['version' => 2, 'frames' => 6, 'planes' => [], 'props' => [[
            'id' => 'sail', 'name' => 'Sail', 'source' => ['kind' => 'sheet', 'sheet' => ['divisions' => 8]], 'position' => ['y' => 2], 'break' => ['pattern' => 'patches', 'patches' => ['count' => 5]], 'release' => ['trigger' => 'never'],
            'motion' => ['mover' => 'cloth', 'cloth' => ['tears' => 50, 'hold' => [['source' => 'rim']]]],
        ]]]);
        [$mesh, $middle] = $this->frozen($bake, 'sail', 6);
        self::assertSame([81, 128], [$mesh->vertexCount(), $mesh->triangleCount()]);
        self::assertCount(1, Topology::parts($mesh));
        $places = BakeReader::open($bake->framesPath())->frame(6)?->of('sail', Track::VERTICES) ?? [];
        $y = array_column(array_chunk($places, 3), 1);
        self::assertEqualsWithDelta([min($y), max($y)], [min($mesh->y) + $middle['y'], max($mesh->y) + $middle['y']], 1e-4);
    }

    public function testWhatCannotBeFrozenIsSaid(): void
    {
        $bake = $this->baked(self::smallDocument());
        $freeze = fn (mixed $prop, mixed $frame) => $this->postJson("/api/bakes/{$bake->id}/freeze", ['prop' => $prop, 'frame' => $frame]);
        $freeze('ghost', 3)->assertStatus(422)->assertJsonPath('errors.0.pointer', '/prop');
        $freeze(['block'], 3)->assertStatus(422)->assertJsonPath('errors.0.pointer', '/prop');
        $freeze('block', '3')->assertStatus(422)->assertJsonPath('errors.0.pointer', '/frame');
        foreach ([0, -1, 21] as $frame) {
            $freeze('block', $frame)->assertStatus(422)->assertJsonPath('detail', "Frame {$frame} has not been baked. Choose one from 1 to 20.");
        }
    }
}
