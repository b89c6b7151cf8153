<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Art\Art;
use YardBreak\Core\Art\Artwork;
use YardBreak\Core\Art\Picture;
use YardBreak\Core\Art\PngOutline;
use YardBreak\Core\Art\Slab;
use YardBreak\Core\Art\SvgReader;
use YardBreak\Core\Break\BreakAgain;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\Join;
use YardBreak\Core\Break\Lock;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Break\SkinPattern;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\PlaneCuts;
use YardBreak\Core\Mesh\Primitive\GrainJar;
use YardBreak\Core\Mesh\Primitive\Lathe;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Remesh;
use YardBreak\Core\Mesh\Repair;
use YardBreak\Core\Mesh\Shell;
use YardBreak\Core\Mesh\Subdivision;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Shot\BreakSettings;
use YardBreak\Core\Shot\PatternSettings;
use YardBreak\Core\Shot\Prop;
use YardBreak\Core\Shot\Shot;
use YardBreak\Core\Shot\Source;
use YardBreak\Core\Weight\Weight;

/**
 * The stages from document to frames. Each is a pure function of its inputs; its result is stored under the hash of those
 * inputs and of the stage's own version, so nothing is computed twice and no stored result can be out of date.
 */
final class Pipeline
{
    /** Raised when a stage's result changes for the same inputs. */
    private const VERSIONS = ['prop' => 3, 'break' => 7, 'motion' => 6];

    /** Raised when a result is kept in other bytes than before, but is the same. */
    private const KEPT = 2;

    /** More would neither be drawn nor broken in reasonable time. */
    private const MOST_TRIANGLES = 2_000_000;

    /** @var array<string, int> how often each stage really ran */
    public array $runs = ['prop' => 0, 'break' => 0, 'motion' => 0];

    private readonly Patterns $patterns;

    public function __construct(private readonly StageStore $store, private readonly Assets $assets)
    {
        $this->patterns = new Patterns($assets);
    }

    public function preparedHash(Source $source): string
    {
        $inputs = get_object_vars($source);
        // The name is for people; the file's content is what counts.
        unset($inputs['fileName']);
        if ($source->cutLines === 0) {
            unset($inputs['cutSeed']);
        }
        if ($source->shell <= 0.0) {
            unset($inputs['shellGap']);
        }

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
        $stored = $this->store->get(self::key($hash));
        if ($stored !== null) {
            return MeshCodec::decode($stored);
        }
        $this->runs['prop']++;
        $mesh = $this->source($source);
        if ($source->kind === 'file' && $source->repair) {
            $repair = Repair::of($mesh);
            $mesh = $repair->mesh;
            $this->store->put(self::reportHash($hash), json_encode($repair->done, JSON_THROW_ON_ERROR));
        }
        if ($source->cutLines > 0) {
            $mesh = PlaneCuts::random($mesh, $source->cutLines, $source->cutSeed);
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
        if ($source->even > 0) {
            $mesh = Remesh::to($mesh, $source->even);
        }
        if ($source->shell > 0.0) {
            $mesh = Shell::of($mesh, $source->shell, $source->shellGap);
        }
        if ($mesh->normals === null) {
            $mesh = Normals::computed($mesh);
        }
        $this->store->put(self::key($hash), MeshCodec::encode($mesh));

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
            'art' => Slab::of($this->artwork($s), $s->height, $s->slab, $s->bevel),
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

    /** @throws BadFile */
    public function artwork(Source $s): Artwork
    {
        $bytes = (string) file_get_contents($this->path($s));

        return Art::isPicture($bytes) ? PngOutline::of(Picture::read($bytes)) : SvgReader::read($bytes);
    }

    /**
     * What a slab of flat art shows on its face, as a PNG; null if it shows none.
     *
     * @throws BadFile
     */
    public function facePicture(Source $s): ?string
    {
        return $s->kind === 'art' && $s->painted ? Art::face((string) file_get_contents($this->path($s))) : null;
    }

    private function file(Source $s): TriangleMesh
    {
        return MeshReader::read($this->path($s), $s->fileName === '' ? 'mesh.obj' : $s->fileName);
    }

    private function path(Source $s): string
    {
        $path = $s->asset === '' ? null : $this->assets->path($s->asset);
        if ($path === null) {
            throw new BadFile($s->asset === '' ? $s->kind === 'art' ? 'No art has been brought in yet. Choose an SVG or a PNG.' : 'No file has been brought in yet. Upload a mesh, or choose a shape.' : "The file “{$s->fileName}” is missing from the store. Upload it again.");
        }

        return $path;
    }

    /** @throws BadFile if a picture is missing */
    public function brokenHash(Prop $prop): string
    {
        $pattern = $this->pattern($prop->break->how, $prop);
        $inputs = match (true) {
            $pattern === null => ['whole'],
            $pattern instanceof SkinPattern => [$pattern::class, get_object_vars($pattern)],
            default => [$pattern::class, get_object_vars($pattern), serialize($this->breaker($prop->break, $prop))],
        };

        return self::hash('break', [$this->preparedHash($prop->source), $inputs]);
    }

    /** @param Prop|null $prop the one that is broken; null: a mesh of its own, without turn or weight */
    private function pattern(PatternSettings $how, ?Prop $prop): Pattern|SkinPattern|null
    {
        return $prop === null ? $this->patterns->of($how) : $this->patterns->of(
            $how,
            $prop->turnAt(1.0),
            fn (int $frame): WeightDensity => new WeightDensity(
                fn (): Weight => PropWeight::of($prop, $this->prepared($prop->source)->bounds()),
                $frame,
                [PropWeight::inputs($prop), $prop->timing->release === 'blow' ? [$prop->break->how->at, $prop->break->how->places] : null],
            ),
        );
    }

    private function breaker(BreakSettings $b, ?Prop $prop): Breaker
    {
        $edits = $locks = [];
        foreach ($b->edits as $edit) {
            if ($edit->kind === 'join') {
                $edits[] = new Join($edit->at, $edit->to);
                continue;
            }
            $pattern = $this->pattern($edit->with, $prop);
            if ($pattern instanceof Pattern) {
                if ($edit->kind === 'lock') {
                    $locks[] = new Lock($edit->at, $pattern);
                } else {
                    $edits[] = new BreakAgain($edit->at, $pattern);
                }
            }
        }

        return new Breaker(
            0.01 * $b->smallest,
            $b->thinnest,
            $b->roughness,
            $b->roughness > 0.0 ? $b->fineness : 0.0,
            $b->roughness > 0.0 ? $b->how->seed : 0,
            $b->roughness > 0.0 ? (['x' => 0, 'y' => 1, 'z' => 2][$b->fibres] ?? null) : null,
            $edits,
            $locks,
        );
    }

    /**
     * @throws BadFile
     * @throws BreakFailed
     */
    public function broken(Prop $prop, Progress $progress = new Progress()): BrokenProp
    {
        $hash = $this->brokenHash($prop);
        $mesh = $this->prepared($prop->source);

        return $this->storedBreak($hash, $mesh) ?? $this->store->alone($hash, function () use ($hash, $mesh, $prop, $progress): BrokenProp {
            $stored = $this->storedBreak($hash, $mesh);
            if ($stored !== null) {
                return $stored;
            }
            $this->runs['break']++;
            $broken = $this->brokenMesh($mesh, $prop->break, $hash, $progress, $prop);
            $this->store->put(self::key($hash), ...$broken->encode());

            return $broken;
        });
    }

    private static function key(string $hash): string
    {
        return hash('sha256', 'kept ' . self::KEPT . " {$hash}");
    }

    /** @phpstan-impure another process may have stored it meanwhile */
    private function storedBreak(string $hash, TriangleMesh $mesh): ?BrokenProp
    {
        $stored = $this->store->get(self::key($hash));

        return $stored === null ? null : BrokenProp::decode($hash, $stored, $mesh->bounds());
    }

    /**
     * Breaks a mesh as it is.
     *
     * @param Prop|null $prop the one it belongs to, if any: how it stands and its weight may matter
     *
     * @throws BadFile
     * @throws BreakFailed
     */
    public function brokenMesh(TriangleMesh $mesh, BreakSettings $break, string $hash = '', Progress $progress = new Progress(), ?Prop $prop = null): BrokenProp
    {
        $pattern = $this->pattern($break->how, $prop);

        return match (true) {
            $pattern === null => BrokenProp::whole($hash, $mesh),
            $pattern instanceof SkinPattern => BrokenProp::skin($hash, $mesh, $pattern->flakes($mesh, $progress)),
            default => BrokenProp::of($hash, $this->breaker($break, $prop)->break($mesh, $pattern, $progress), $mesh->bounds()),
        };
    }

    /** Of everything that decides the frames: the same hash means the same bytes. */
    public function motionHash(Shot $shot): string
    {
        $props = [];
        foreach ($shot->props as $prop) {
            $tracks = array_map(static fn ($value): array => $value->keys(), [...$prop->place, ...$prop->turn]);
            $props[] = [
                $prop->id,
                $this->brokenHash($prop),
                $tracks,
                PropWeight::inputs($prop),
                get_object_vars($prop->motion),
            ];
        }

        return self::hash('motion', [
            $shot->fps, $shot->frames, $shot->gravity->keys(), $shot->settleSpeed,
            $shot->floorOn ? [$shot->floorHeight, $shot->floorFriction, $shot->floorBounce] : null,
            $props,
        ]);
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
            $broken[] = $this->broken($prop);
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
