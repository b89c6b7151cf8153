<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Bake\BadBake;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\Pipeline;

/** All pieces at one frame ("frame"), in the world, as OBJ. */
final readonly class FrameObj implements Exporter
{
    public function __construct(private Pipeline $pipeline)
    {
    }

    public function format(): array
    {
        return ['extension' => 'obj', 'type' => 'model/obj'];
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
            $poses = $frame->of($prop->id, Track::POSE);
            foreach ($broken->pieces as $p => $mesh) {
                $posed = self::posed($mesh, $broken->centre($p), array_slice($poses, 7 * $p, 7));
                fwrite($out, $writer->object(Looks::pieceName($prop, $p, count($broken->pieces)), $posed));
                $progress(++$done, $bake->manifest->pieces());
            }
        }
    }

    /**
     * @param array{float, float, float} $centre
     * @param array<int, float|int> $pose
     */
    private static function posed(TriangleMesh $mesh, array $centre, array $pose): TriangleMesh
    {
        $turn = Quaternion::normalized([(float) $pose[3], (float) $pose[4], (float) $pose[5], (float) $pose[6]]);
        [$x, $y, $z] = Quaternion::rotate($turn, $centre);

        return $mesh->transformed(1.0, $turn, [$pose[0] - $x, $pose[1] - $y, $pose[2] - $z]);
    }
}
