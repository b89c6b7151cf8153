<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Countable;
use Generator;
use IteratorAggregate;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * A list of meshes kept as bytes and read one at a time: a hundred thousand flakes as arrays would take gigabytes, as bytes
 * they take a sixth.
 *
 * @implements IteratorAggregate<int, TriangleMesh>
 */
final class PackedMeshes implements Countable, IteratorAggregate
{
    /** Bytes of a block, unless one mesh takes more: long enough to be few, short enough to grow without copying much. */
    private const BLOCK = 1 << 20;

    /** @var list<string> */
    private array $full = [];

    private string $open = '';

    /** @var list<int> which block, and where in it, each mesh begins: block times 2^32 plus place */
    private array $at = [];

    /** @param iterable<TriangleMesh> $meshes */
    public static function of(iterable $meshes): self
    {
        $packed = new self();
        foreach ($meshes as $mesh) {
            $packed->add($mesh);
        }

        return $packed;
    }

    /** Of what parts() gave, put together; the bytes are kept as they are. */
    public static function read(string $bytes, int $from, int $count): self
    {
        $packed = new self();
        $packed->open = $bytes;
        for ($k = 0; $k < $count; $k++) {
            $packed->at[] = $from;
            $from += MeshCodec::length($bytes, $from);
        }

        return $packed;
    }

    public function add(TriangleMesh $mesh): void
    {
        $bytes = MeshCodec::encode($mesh);
        if ($this->open !== '' && strlen($this->open) + strlen($bytes) > self::BLOCK) {
            $this->full[] = $this->open;
            $this->open = '';
        }
        $this->at[] = (count($this->full) << 32) | strlen($this->open);
        $this->open .= $bytes;
    }

    public function mesh(int $number): TriangleMesh
    {
        $at = $this->at[$number];

        return MeshCodec::decode($this->full[$at >> 32] ?? $this->open, $at & 0xFFFFFFFF);
    }

    public function count(): int
    {
        return count($this->at);
    }

    /** @return Generator<int, TriangleMesh> */
    public function getIterator(): Generator
    {
        foreach (array_keys($this->at) as $k) {
            yield $k => $this->mesh($k);
        }
    }

    /** @return list<string> of what was added; together they are one string that read() takes */
    public function parts(): array
    {
        return [...$this->full, $this->open];
    }
}
