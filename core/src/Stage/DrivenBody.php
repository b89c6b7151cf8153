<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Motion\Rigid\RigidWorld;

/** A piece that goes its own way in the world of hard pieces: a body that is driven. */
final class DrivenBody
{
    private readonly int $body;

    /** @var list<int> */
    private array $shapes = [];

    public function __construct(RigidWorld $world, private readonly DrivenPiece $piece, int $group)
    {
        $solid = $piece->solid(1.0);
        $inertia = $solid->inertia($piece->piece());
        [$place, $turn] = $piece->centreAt(1.0);
        $this->body = $world->bodies->addBody($inertia, $place, $turn, false);
        foreach ($solid->shapes($piece->piece()) as $part) {
            [$x, $y, $z] = $part->centre;
            $this->shapes[] = $world->bodies->addShape($this->body, $part->hull, [$x - $inertia->centre[0], $y - $inertia->centre[1], $z - $inertia->centre[2]], $group, $piece->friction(), $piece->restitution);
        }
    }

    /** Sends it on its way from one frame to the next step's. */
    public function drive(RigidWorld $world, float $from, float $to, float $dt): void
    {
        [$was, $will] = [$this->piece->scaleAt($from), $this->piece->scaleAt($to)];
        $world->bodies->growFrom($this->body, $was, $will, $dt);
        if ($was !== $will) {
            $world->wakeNeighbours($this->body);
        }
        $world->bodies->drive($this->body, $this->piece->centreAt($from), $this->piece->centreAt($to), $dt);
    }

    /** It has the size that it has at a frame, after a step that ends there. */
    public function grow(RigidWorld $world, float $frame): void
    {
        $solid = $this->piece->solid($frame);
        [$cx, $cy, $cz] = $solid->centre($this->piece->piece());
        foreach ($solid->shapes($this->piece->piece()) as $n => $part) {
            if ($world->bodies->hull[$this->shapes[$n]] !== $part->hull) {
                [$x, $y, $z] = $part->centre;
                $world->bodies->fitShape($this->shapes[$n], $part->hull, [$x - $cx, $y - $cy, $z - $cz]);
            }
        }
    }
}
