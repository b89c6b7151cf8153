<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\SurfaceChange;
use YardBreak\Core\Weight\Samples;

/** A prop that is to take the shape of another one, of which there is none, or none of the same triangles, or one that stands turned against it. */
final class OtherShape extends PropCheck
{
    /** The way there is straight: turned by more than this, it would be pressed together half way, degrees. */
    private const TURNED = 90.5;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! $prop->mover->has('likens')) {
            return null;
        }
        try {
            SurfaceChange::ways($prop, new Samples([], [], []), $pipeline->surfaces);
        } catch (BreakFailed $why) {
            return new Finding('stop', "{$at}/motion/{$prop->mover->kind}/shape", $why->getMessage());
        }

        $other = $prop->others[$prop->mover->settings->string('shape')];
        $turn = Quaternion::multiply(Quaternion::conjugate($prop->transform->rotationAt(1.0)), $other->transform->rotationAt(1.0));
        $degrees = rad2deg(2.0 * acos(min(1.0, abs($turn[3]))));

        return $degrees <= self::TURNED ? null : new Finding('warn', "{$at}/motion/{$prop->mover->kind}/shape", sprintf('%s takes the shape of %s, which stands turned by %d degrees against it: its way there is straight, so that half way it is pressed together. Turn both alike, and turn the prop by keys.', $prop->name, $other->name, (int) round($degrees)));
    }
}
