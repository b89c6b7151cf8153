<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Force\Target;
use YardBreak\Core\Math\Quaternion;

/** To the nearest place of a prop's surface, where its keys put it. */
final readonly class ToSurface implements Target
{
    public function __construct(private Prop $prop, private Surfaces $surfaces)
    {
    }

    public function ways(array $x, array $y, array $z, float $frame): array
    {
        [$tree, $times] = $this->surfaces->of($this->prop, $frame);
        [$px, $py, $pz] = $this->prop->transform->positionAt($frame);
        $turn = $this->prop->transform->rotationAt($frame);
        $back = Quaternion::conjugate($turn);
        $u = $v = $w = [];
        foreach ($x as $i => $wx) {
            [$lx, $ly, $lz] = Quaternion::rotate($back, [($wx - $px) / $times, ($y[$i] - $py) / $times, ($z[$i] - $pz) / $times]);
            $tree->look($tree->nearest($lx, $ly, $lz, INF), $lx, $ly, $lz);
            $way = -$times * $tree->distance;
            [$u[$i], $v[$i], $w[$i]] = Quaternion::rotate($turn, [$way * $tree->nx, $way * $tree->ny, $way * $tree->nz]);
        }

        return [$u, $v, $w];
    }

    public function sample(float $frame): array
    {
        $transform = $this->prop->transform;

        return [(float) crc32($this->prop->id), ...$transform->positionAt($frame), ...$transform->rotationAt($frame), ...$transform->scaleAt($frame)];
    }

    public function animated(): array
    {
        return [];
    }
}
