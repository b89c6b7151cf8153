<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Refusal;

/** A file that other departments get of a finished bake. */
interface Exporter
{
    /** @return array{extension: string, type: string, ofOneFrame: bool} how files end, their media type, and whether they show one frame alone */
    public function format(): array;

    /** Whether it is written in about a second. */
    public function isQuick(Manifest $manifest): bool;

    /**
     * Written as it is made; no more than a part of the bake is held in memory.
     *
     * @param resource $out
     * @param array<string, int> $options as the exporter knows them
     * @param callable(int, int): void $progress how much is done, of how much
     *
     * @throws Refusal
     */
    public function write(Shot $shot, BakeReader $bake, $out, string $name, array $options, callable $progress): void;
}
