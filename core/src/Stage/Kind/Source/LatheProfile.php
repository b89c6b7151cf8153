<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Source;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Mesh\Primitive\Lathe;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Kind\SourceKind;
use YardBreak\Core\Stage\SourceMesh;

/** An outline turned about the upright axis. */
final class LatheProfile implements SourceKind
{
    public static function mesh(Settings $settings, Assets $assets): SourceMesh
    {
        $profile = $settings->points('profile');
        foreach ($profile as $k => [$radius]) {
            if ($radius < 0.0) {
                throw new BadFile('Profile point ' . ($k + 1) . ' has a negative radius. Radii are measured from the axis: use 0 or more.');
            }
        }
        $last = count($profile) - 1;
        for ($k = 1; $k < $last; $k++) {
            if ($profile[$k][0] === 0.0) {
                throw new BadFile('Profile point ' . ($k + 1) . ' lies on the axis. Only the first and the last point may.');
            }
        }

        return new SourceMesh(Lathe::turn($profile, max(6, 6 * $settings->int('divisions'))));
    }
}
