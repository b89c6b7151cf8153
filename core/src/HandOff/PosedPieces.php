<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use Generator;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\BentNormals;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\BrokenProp;

/** The pieces of a prop as they are at a frame, in the world. */
final class PosedPieces
{
    /** @return Generator<int, TriangleMesh> by number; what is gone is left out */
    public static function at(Prop $prop, BrokenProp $broken, Frame $frame): Generator
    {
        $places = $frame->find($prop->id, Track::VERTICES);
        if ($places !== null) {
            $from = 0;
            foreach ($broken->pieces as $p => $mesh) {
                yield $p => (new BentNormals($mesh))->bent(array_slice($places, $from, 3 * $mesh->vertexCount()));
                $from += 3 * $mesh->vertexCount();
            }

            return;
        }
        $poses = $frame->of($prop->id, Track::POSE);
        $scales = $frame->find($prop->id, Track::SCALE);
        $lives = $frame->find($prop->id, Track::LIFE);
        foreach ($broken->pieces as $p => $mesh) {
            $life = $lives[$p] ?? 1.0;
            $scale = [$life * ($scales[3 * $p] ?? 1.0), $life * ($scales[3 * $p + 1] ?? 1.0), $life * ($scales[3 * $p + 2] ?? 1.0)];
            if (min($scale) > 0.0) {
                yield $p => self::posed($mesh, $broken->centre($p), array_slice($poses, 7 * $p, 7), $scale);
            }
        }
    }

    /**
     * @param array{float, float, float} $centre
     * @param array<int, float|int> $pose
     * @param array{float, float, float} $scale along the piece's own axes
     */
    private static function posed(TriangleMesh $mesh, array $centre, array $pose, array $scale): TriangleMesh
    {
        $turn = Quaternion::normalized([(float) $pose[3], (float) $pose[4], (float) $pose[5], (float) $pose[6]]);
        [$x, $y, $z] = Quaternion::rotate($turn, [$scale[0] * $centre[0], $scale[1] * $centre[1], $scale[2] * $centre[2]]);

        return $mesh->scaled($scale)->transformed(1.0, $turn, [$pose[0] - $x, $pose[1] - $y, $pose[2] - $z]);
    }
}
