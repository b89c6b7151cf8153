<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Bake\BadBake;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\BentNormals;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\Pipeline;

/** All pieces at one frame ("frame"), in the world, as OBJ. */
final readonly class FrameObj implements Exporter
{
    /** Pieces and vertices that are written in a second. */
    private const QUICK = 5000;

    public function __construct(private Pipeline $pipeline)
    {
    }

    public function format(): array
    {
        return ['extension' => 'obj', 'type' => 'model/obj'];
    }

    public function isQuick(Manifest $manifest): bool
    {
        return $manifest->parts() <= self::QUICK;
    }

    public function write(Shot $shot, BakeReader $bake, $out, string $name, array $options, callable $progress): void
    {
        $number = $options['frame'] ?? 1;
        if ($number < 1 || $number > $shot->frames) {
            throw new BadBake("There is no frame {$number}. Choose one from 1 to {$shot->frames}.");
        }
        $frame = $bake->frame($number) ?? throw new BadBake("Frame {$number} has not been baked.");
        $done = 0;
        fwrite($out, ObjWriter::HEAD);
        $writer = new ObjWriter();
        foreach ($shot->props as $prop) {
            $broken = $this->pipeline->broken($prop);
            $places = $frame->find($prop->id, Track::VERTICES);
            if ($places !== null) {
                $from = 0;
                foreach ($broken->pieces as $p => $mesh) {
                    $bent = (new BentNormals($mesh))->bent(array_slice($places, $from, 3 * $mesh->vertexCount()));
                    $from += 3 * $mesh->vertexCount();
                    fwrite($out, $writer->object(Looks::pieceName($prop, $p, count($broken->pieces)), $bent));
                }
                continue;
            }
            $poses = $frame->of($prop->id, Track::POSE);
            $scales = $frame->find($prop->id, Track::SCALE);
            $lives = $frame->find($prop->id, Track::LIFE);
            foreach ($broken->pieces as $p => $mesh) {
                // What is gone is left out.
                $life = $lives[$p] ?? 1.0;
                $scale = [$life * ($scales[3 * $p] ?? 1.0), $life * ($scales[3 * $p + 1] ?? 1.0), $life * ($scales[3 * $p + 2] ?? 1.0)];
                if (min($scale) > 0.0) {
                    $posed = self::posed($mesh, $broken->centre($p), array_slice($poses, 7 * $p, 7), $scale);
                    fwrite($out, $writer->object(Looks::pieceName($prop, $p, count($broken->pieces)), $posed));
                }
                $progress(++$done, $bake->manifest->pieces());
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
