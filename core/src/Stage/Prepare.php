<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\Progress;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Parting;
use YardBreak\Core\Mesh\PlaneCuts;
use YardBreak\Core\Mesh\Remesh;
use YardBreak\Core\Mesh\Shell;
use YardBreak\Core\Mesh\Subdivision;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Kind\Kinds;

/**
 * The prop's mesh in metres, y up, with corner normals, about its own origin.
 *
 * @implements Stage<SourceMesh>
 */
final readonly class Prepare implements Stage
{
    /** More would neither be drawn nor broken in reasonable time. */
    private const MOST_TRIANGLES = 2_000_000;

    public function __construct(private Prop $prop, private Assets $assets)
    {
    }

    public function name(): string
    {
        return 'prop';
    }

    public function version(): int
    {
        return 6;
    }

    public function inputs(): array
    {
        $prepare = $this->prop->prepare->inForce();

        return [$this->prop->source->kind, $this->prop->source->settings->inForce(), array_diff_key($prepare, $this->crease() === null ? ['shading' => true] : [])];
    }

    public function run(Progress $progress): SourceMesh
    {
        $source = Kinds::source($this->prop->source->kind)::mesh($this->prop->source->settings, $this->assets);
        // Before all else, so that whatever is made of it finds two faces at each edge.
        $mesh = Parting::whereCrowded($source->mesh);
        $prepare = $this->prop->prepare;
        if ($prepare->int('cutLines') > 0) {
            $mesh = PlaneCuts::random($mesh, $prepare->int('cutLines'), $prepare->int('cutSeed'));
        }
        $mesh = self::divided($mesh, $prepare);
        if ($prepare->float('size') > 0.0) {
            $mesh = $mesh->transformed($prepare->float('size') / max(1e-12, $mesh->size()), Quaternion::IDENTITY, [0.0, 0.0, 0.0]);
        }
        if ($prepare->int('even') > 0) {
            $mesh = Remesh::to($mesh, $prepare->int('even'));
        }
        if ($prepare->float('shell') > 0.0) {
            $mesh = Shell::of($mesh, $prepare->float('shell'), $prepare->float('shellGap'));
        }

        $crease = $this->crease() ?? ($mesh->normals === null ? Normals::CREASE_DEGREES : null);

        return new SourceMesh($crease === null ? $mesh : Normals::computed($mesh, $crease), $source->repairs);
    }

    /** @return float|null angle from which edges look sharp, degrees; null: as they come */
    private function crease(): ?float
    {
        return match ($this->prop->prepare->string('shading')) {
            'sharp' => 0.0,
            'round' => 180.0,
            'angle' => $this->prop->prepare->float('crease'),
            default => null,
        };
    }

    private static function divided(TriangleMesh $mesh, Settings $prepare): TriangleMesh
    {
        $times = $prepare->int('divide') + $prepare->int('smooth');
        if ($mesh->triangleCount() * 4 ** $times > self::MOST_TRIANGLES) {
            throw new BadFile(sprintf('Divided that often the mesh would have %s triangles; at most %s are allowed. Divide it less.', number_format($mesh->triangleCount() * 4 ** $times), number_format(self::MOST_TRIANGLES)));
        }
        for ($k = 0; $k < $prepare->int('divide'); $k++) {
            $mesh = Subdivision::flat($mesh);
        }
        for ($k = 0; $k < $prepare->int('smooth'); $k++) {
            $mesh = Subdivision::smooth($mesh);
        }

        return $mesh;
    }

    /** The length of what the repair did, that, then the mesh. */
    public function encode(mixed $result): array
    {
        $repairs = json_encode($result->repairs, JSON_THROW_ON_ERROR);

        return [pack('V', strlen($repairs)) . $repairs, MeshCodec::encode($result->mesh)];
    }

    public function decode(string $bytes): SourceMesh
    {
        /** @var array{1: int} $length */
        $length = unpack('V', $bytes);
        $repairs = json_decode(substr($bytes, 4, $length[1]), true, 4, JSON_THROW_ON_ERROR);

        return new SourceMesh(
            MeshCodec::decode($bytes, 4 + $length[1]),
            is_array($repairs) ? array_values(array_filter($repairs, is_string(...))) : null,
        );
    }
}
