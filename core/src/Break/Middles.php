<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\MassProperties;

/** The middles of a fracture's pieces. Changes made by hand find their piece by its middle, so they outlive small changes of the break. */
final readonly class Middles
{
    /** @param list<array{float, float, float}> $places by piece */
    private function __construct(private array $places)
    {
    }

    public static function of(Fracture $fracture): self
    {
        $faces = new PieceFaces($fracture);
        $places = [];
        for ($piece = 0; $piece < $fracture->pieces; $piece++) {
            $places[] = MassProperties::of($faces->mesh($piece)[0])->centre;
        }

        return new self($places);
    }

    /** @param array{float, float, float} $place */
    public function nearest(array $place): int
    {
        $best = 0;
        $least = INF;
        foreach ($this->places as $k => [$x, $y, $z]) {
            $d = ($x - $place[0]) ** 2 + ($y - $place[1]) ** 2 + ($z - $place[2]) ** 2;
            if ($d < $least) {
                $least = $d;
                $best = $k;
            }
        }

        return $best;
    }
}
