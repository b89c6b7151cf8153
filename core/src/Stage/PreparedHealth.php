<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Mesh\Health;

/**
 * Health of a prop's mesh at a size, and what the repair of its file did: asked for at every edit, while large meshes take a
 * second to look through.
 *
 * @phpstan-import-type Facts from Health
 *
 * @implements Stage<array{health: Facts, repairs: list<string>|null}>
 */
final readonly class PreparedHealth implements Stage
{
    /**
     * @param string $prepared hash of the mesh
     * @param Closure(): SourceMesh $mesh
     * @param array{float, float, float} $scale how many times as large, along each axis
     */
    public function __construct(private string $prepared, private Closure $mesh, private array $scale)
    {
    }

    public function name(): string
    {
        return 'health';
    }

    public function version(): int
    {
        return 1;
    }

    public function inputs(): array
    {
        return [$this->prepared, $this->scale];
    }

    public function run(Progress $progress): array
    {
        $source = ($this->mesh)();

        return ['health' => Health::of($source->mesh->scaled($this->scale)), 'repairs' => $source->repairs];
    }

    public function encode(mixed $result): array
    {
        return [json_encode($result, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION)];
    }

    public function decode(string $bytes): array
    {
        /** @var array{health: Facts, repairs: list<string>|null} $result */
        $result = json_decode($bytes, true, 8, JSON_THROW_ON_ERROR);

        return $result;
    }
}
