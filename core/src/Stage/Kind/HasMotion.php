<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\FileMotion;
use YardBreak\Core\Stage\MovingMesh;

/**
 * A source that may say how its mesh moves.
 *
 * @phpstan-import-type Keys from FileMotion
 */
interface HasMotion
{
    /**
     * @return list<string> names of its motions, of which one may be chosen
     *
     * @throws BadFile
     */
    public static function clips(Settings $settings, Assets $assets): array;

    /**
     * How long something moves, s; 0: nothing does.
     *
     * @param string $clip which of its motions; '': all of them together
     *
     * @throws BadFile
     */
    public static function lasts(Settings $settings, Assets $assets, string $clip): float;

    /**
     * Vertex by vertex.
     *
     * @param string $clip which of its motions; '': all of them together
     * @param float $size the longest side that it is scaled to, m; 0: it is not scaled
     *
     * @throws BadFile if it says nothing
     */
    public static function moving(Settings $settings, Assets $assets, string $clip, float $size): MovingMesh;

    /**
     * As keys of the prop.
     *
     * @param string $clip which of its motions; '': all of them together
     * @param float $size the longest side that it is scaled to, its way with it, m; 0: it is not scaled
     *
     * @return array{position: Keys, rotation: Keys, scale: Keys}
     *
     * @throws BadFile if it says nothing, or more than keys can tell
     */
    public static function motion(Settings $settings, Assets $assets, string $clip, float $size, float $fps): array;
}
