<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\Edit;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\GrainJar;
use YardBreak\Core\Mesh\Primitive\Lathe;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Repair;
use YardBreak\Core\Mesh\Subdivision;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Shot\BreakSettings;
use YardBreak\Core\Shot\PieceEdit;
use YardBreak\Core\Shot\Prop;
use YardBreak\Core\Shot\Shot;
use YardBreak\Core\Shot\Source;

/**
 * The stages from document to frames. Each is a pure function of its inputs; its result is stored under the hash of those
 * inputs and of the stage's own version, so nothing is computed twice and no stored result can be out of date.
 */
final class Pipeline
{
    /** Raised when a stage's result changes for the same inputs. */
    private const VERSIONS = ['prop' => 2, 'break' => 4, 'motion' => 4];

    /** More would neither be drawn nor broken in reasonable time. */
    private const MOST_TRIANGLES = 2_000_000;

    /** @var array<string, int> how often each stage really ran */
    public array $runs = ['prop' => 0, 'break' => 0, 'motion' => 0];

    public function __construct(private readonly StageStore $store, private readonly Assets $assets)
    {
    }

    public function preparedHash(Source $source): string
    {
        $inputs = get_object_vars($source);
        // The name is for people; the file's content is what counts.
        unset($inputs['fileName']);

        return self::hash('prop', $inputs);
    }

    /**
     * The prop's mesh in metres, y up, with corner normals, standing about its own origin.
     *
     * @throws BadFile
     */
    public function prepared(Source $source): TriangleMesh
    {
        $hash = $this->preparedHash($source);
        $stored = $this->store->get($hash);
        if ($stored !== null) {
            return MeshCodec::decode($stored)[0];
        }
        $this->runs['prop']++;
        $mesh = $this->source($source);
        if ($source->kind === 'file' && $source->repair) {
            $repair = Repair::of($mesh);
            $mesh = $repair->mesh;
            $this->store->put(self::reportHash($hash), json_encode($repair->done, JSON_THROW_ON_ERROR));
        }
        $mesh = self::divided($mesh, $source);
        $scale = $source->kind === 'file' ? $source->metresPerUnit : 1.0;
        if ($source->size > 0.0) {
            $scale = $source->size / max(1e-12, $mesh->size());
        }
        $turn = $source->kind === 'file' && $source->up === 'z'
            ? Quaternion::fromDegrees(-90.0, 0.0, 0.0)
            : Quaternion::IDENTITY;
        if ($scale !== 1.0 || $turn !== Quaternion::IDENTITY) {
            $mesh = $mesh->transformed($scale, $turn, [0.0, 0.0, 0.0]);
        }
        if ($mesh->normals === null) {
            $mesh = Normals::computed($mesh);
        }
        $this->store->put($hash, MeshCodec::encode([$mesh]));

        return $mesh;
    }

    /** @return list<string>|null what the repair of the file did, in words; null if it was not asked for */
    public function repairs(Source $source): ?array
    {
        if ($source->kind !== 'file' || ! $source->repair) {
            return null;
        }
        $this->prepared($source);
        $done = json_decode($this->store->get(self::reportHash($this->preparedHash($source))) ?? '[]', true);

        return is_array($done) ? array_values(array_filter($done, is_string(...))) : [];
    }

    private static function reportHash(string $hash): string
    {
        return hash('sha256', "repair of {$hash}");
    }

    private static function divided(TriangleMesh $mesh, Source $source): TriangleMesh
    {
        $times = $source->divide + $source->smooth;
        if ($mesh->triangleCount() * 4 ** $times > self::MOST_TRIANGLES) {
            throw new BadFile(sprintf('Divided that often the mesh would have %s triangles; at most %s are allowed. Divide it less.', number_format($mesh->triangleCount() * 4 ** $times), number_format(self::MOST_TRIANGLES)));
        }
        for ($k = 0; $k < $source->divide; $k++) {
            $mesh = Subdivision::flat($mesh);
        }
        for ($k = 0; $k < $source->smooth; $k++) {
            $mesh = Subdivision::smooth($mesh);
        }

        return $mesh;
    }

    private function source(Source $s): TriangleMesh
    {
        return match ($s->kind) {
            'file' => $this->file($s),
            'box' => Solids::box($s->width, $s->height, $s->depth, $s->divisions),
            'ball' => Solids::ball(0.5 * $s->width, max(2, $s->divisions)),
            'cylinder' => Solids::cylinder(0.5 * $s->width, $s->height, max(6, 6 * $s->divisions), $s->divisions),
            'cone' => Solids::cone(0.5 * $s->width, $s->height, max(6, 6 * $s->divisions), $s->divisions),
            'pyramid' => Solids::pyramid($s->width, $s->height),
            'torus' => Solids::torus(0.5 * ($s->width - min($s->tube, 0.49 * $s->width)), 0.5 * min($s->tube, 0.49 * $s->width), max(6, 6 * $s->divisions), max(6, 3 * $s->divisions)),
            'lathe' => self::lathe($s),
            'sheet' => Solids::sheet($s->width, $s->depth, $s->divisions),
            'jar' => GrainJar::mesh($s->height, min($s->wall, 0.08 * $s->height)),
            default => throw new BadFile("There is no shape “{$s->kind}”."),
        };
    }

    private static function lathe(Source $s): TriangleMesh
    {
        foreach ($s->profile as $k => [$radius]) {
            if ($radius < 0.0) {
                throw new BadFile('Profile point ' . ($k + 1) . ' has a negative radius. Radii are measured from the axis: use 0 or more.');
            }
        }
        $last = count($s->profile) - 1;
        for ($k = 1; $k < $last; $k++) {
            if ($s->profile[$k][0] === 0.0) {
                throw new BadFile('Profile point ' . ($k + 1) . ' lies on the axis. Only the first and the last point may.');
            }
        }
        if (($s->profile[0][0] === 0.0) !== ($s->profile[$last][0] === 0.0)) {
            throw new BadFile('The profile starts on the axis but does not end there (or the other way round). Let both ends lie on the axis, or neither.');
        }

        return Lathe::turn($s->profile, max(6, 6 * $s->divisions));
    }

    private function file(Source $s): TriangleMesh
    {
        $path = $s->asset === '' ? null : $this->assets->path($s->asset);
        if ($path === null) {
            throw new BadFile($s->asset === '' ? 'No file has been brought in yet. Upload a mesh, or choose a shape.' : "The file “{$s->fileName}” is missing from the store. Upload it again.");
        }

        return MeshReader::read($path, $s->fileName === '' ? 'mesh.obj' : $s->fileName);
    }

    public function brokenHash(Source $source, BreakSettings $break): string
    {
        $pattern = Patterns::of($break);
        $inputs = $pattern === null ? ['whole'] : [$pattern::class, get_object_vars($pattern), serialize(self::breaker($break))];

        return self::hash('break', [$this->preparedHash($source), $inputs]);
    }

    private static function breaker(BreakSettings $b): Breaker
    {
        return new Breaker(
            0.01 * $b->smallest,
            $b->thinnest,
            $b->roughness,
            $b->roughness > 0.0 ? $b->fineness : 0.0,
            $b->roughness > 0.0 ? $b->seed : 0,
            array_map(
                static fn (PieceEdit $edit): Edit => $edit->kind === 'join' ? new Edit($edit->at, $edit->to) : new Edit($edit->at, null, $edit->pieces, $edit->seed),
                $b->edits,
            ),
        );
    }

    /**
     * @throws BadFile
     * @throws BreakFailed
     */
    public function broken(Source $source, BreakSettings $break, Progress $progress = new Progress()): BrokenProp
    {
        $hash = $this->brokenHash($source, $break);
        $mesh = $this->prepared($source);

        return $this->storedBreak($hash, $mesh) ?? $this->store->alone($hash, fn (): BrokenProp => $this->storedBreak($hash, $mesh)
            ?? $this->newBreak($hash, $mesh, $break, $progress));
    }

    /** @phpstan-impure another process may have stored it meanwhile */
    private function storedBreak(string $hash, TriangleMesh $mesh): ?BrokenProp
    {
        $stored = $this->store->get($hash);

        return $stored === null ? null : BrokenProp::decode($hash, $stored, $mesh->bounds());
    }

    private function newBreak(string $hash, TriangleMesh $mesh, BreakSettings $break, Progress $progress): BrokenProp
    {
        $this->runs['break']++;
        $broken = $this->brokenMesh($mesh, $break, $hash, $progress);
        $this->store->put($hash, $broken->encode());

        return $broken;
    }

    /**
     * Breaks a mesh as it is.
     *
     * @throws BreakFailed
     */
    public function brokenMesh(TriangleMesh $mesh, BreakSettings $break, string $hash = '', Progress $progress = new Progress()): BrokenProp
    {
        $pattern = Patterns::of($break);

        return $pattern === null
            ? new BrokenProp($hash, [$mesh], $mesh->bounds())
            : BrokenProp::of($hash, self::breaker($break)->break($mesh, $pattern, $progress), $mesh->bounds());
    }

    /** Of everything that decides the frames: the same hash means the same bytes. */
    public function motionHash(Shot $shot): string
    {
        $props = [];
        foreach ($shot->props as $prop) {
            $tracks = array_map(static fn ($value): array => $value->keys(), [...$prop->place, ...$prop->turn]);
            $props[] = [
                $prop->id,
                $this->brokenHash($prop->source, $prop->break),
                $tracks,
                self::timingInputs($prop),
                get_object_vars($prop->motion),
            ];
        }

        return self::hash('motion', [
            $shot->fps, $shot->frames, $shot->gravity->keys(), $shot->settleSpeed,
            $shot->floorOn ? [$shot->floorHeight, $shot->floorFriction, $shot->floorBounce] : null,
            $props,
        ]);
    }

    /** @return list<mixed> only what matters to the way of letting go that is chosen */
    private static function timingInputs(Prop $prop): array
    {
        $t = $prop->timing;

        return match ($t->release) {
            'frame', 'cue' => ['at', $t->frame],
            'contact' => ['contact', $t->contactSpeed, $t->within],
            'sweep' => ['sweep', $t->axis, $t->backwards, $t->from, $t->to, $t->softness, $t->threshold],
            default => ['never'],
        };
    }

    /**
     * Computes the frames, one by one.
     *
     * @param (callable(): void)|null $tick called at least once a step; what it throws ends the computation
     *
     * @return iterable<int, Frame> by frame number, from 1
     *
     * @throws BadFile
     * @throws BreakFailed
     */
    public function frames(Shot $shot, ?callable $tick = null): iterable
    {
        $broken = [];
        foreach ($shot->props as $prop) {
            $broken[] = $this->broken($prop->source, $prop->break);
        }
        $this->runs['motion']++;
        foreach ((new RigidStage($shot, $broken, $tick))->frames() as $number => $frame) {
            yield $number => $frame;
        }
    }

    /** @return array{vertices: int, triangles: int, watertight: bool, openEdges: int, crowdedEdges: int, parts: int, volume: float, bounds: array{array{float, float, float}, array{float, float, float}}} */
    public function health(TriangleMesh $mesh): array
    {
        $topology = Topology::of($mesh);

        return [
            'vertices' => $mesh->vertexCount(),
            'triangles' => $mesh->triangleCount(),
            'watertight' => $topology->isWatertight(),
            'openEdges' => $topology->openEdgeCount(),
            'crowdedEdges' => $topology->crowdedEdgeCount(),
            'parts' => $topology->parts,
            'volume' => MassProperties::of($mesh)->volume,
            'bounds' => $mesh->bounds(),
        ];
    }

    private static function hash(string $stage, mixed $inputs): string
    {
        return hash('sha256', $stage . self::VERSIONS[$stage] . serialize($inputs));
    }
}
