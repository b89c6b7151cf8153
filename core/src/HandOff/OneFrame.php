<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use Generator;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** All pieces at one frame ("frame"). */
final readonly class OneFrame implements Exporter
{
    /** Pieces and vertices that are written in a second. */
    private const QUICK = 5000;

    /** @param class-string<MeshFile> $file */
    public function __construct(private Pipeline $pipeline, private string $file)
    {
    }

    public function format(): array
    {
        return ['extension' => $this->file::extension(), 'type' => $this->file::type(), 'ofOneFrame' => true];
    }

    public function isQuick(Manifest $manifest): bool
    {
        return $manifest->parts() <= self::QUICK;
    }

    public function write(Shot $shot, BakeReader $bake, $out, string $name, array $options, callable $progress): void
    {
        $pieces = StandingPieces::at($this->pipeline, $shot, $bake, $options['frame'] ?? 1);
        foreach ($this->file::parts(self::told($pieces, $bake->manifest->parts(), $progress)) as $part) {
            fwrite($out, $part);
        }
    }

    /**
     * @param iterable<array{string, TriangleMesh}> $pieces
     * @param callable(int, int): void $progress
     *
     * @return Generator<int, array{string, TriangleMesh}>
     */
    private static function told(iterable $pieces, int $all, callable $progress): Generator
    {
        $done = 0;
        foreach ($pieces as $piece) {
            yield $piece;
            $progress(min(++$done, $all), $all);
        }
    }
}
