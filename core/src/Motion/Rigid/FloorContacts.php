<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use YardBreak\Core\Motion\State;

/** Which shapes touch the endless floors, and where; pairs are remembered from step to step. */
final class FloorContacts
{
    /** Floors at most: pairs with them are kept by shape times this plus the floor's number. */
    private const FLOORS = 64;

    /** @var array<int, FloorPlane> numbered from 0 */
    public array $planes = [];

    /** @var array<int, ContactPair> by shape and floor */
    public array $pairs = [];

    public function __construct(private readonly RigidBodies $bodies)
    {
    }

    /** @param array<int, float> $travel how far each body may come in the step, m */
    public function find(array $travel): void
    {
        foreach ($this->planes as $number => $plane) {
            $this->findOn($number, $plane, $travel);
        }
    }

    /** @param array<int, float> $travel */
    private function findOn(int $number, FloorPlane $plane, array $travel): void
    {
        $bodies = $this->bodies;
        $R = $bodies->rotation;
        [$nx, $ny, $nz] = $plane->normal;
        $level = $ny === 1.0;
        $d = $plane->distance;
        foreach ($bodies->hull as $s => $hull) {
            $b = $bodies->shapeBody[$s];
            $margin = RigidTuning::LOOK_AHEAD * $hull->radius + $travel[$b];
            if (! $bodies->free[$b] || $bodies->asleep[$b]) {
                continue;
            }
            $cx = $bodies->cx[$s];
            $cy = $bodies->cy[$s];
            $cz = $bodies->cz[$s];
            $height = $nx * $cx + $ny * $cy + $nz * $cz - $d;
            $key = self::FLOORS * $s + $number;
            if ($height - $hull->radius > $margin) {
                unset($this->pairs[$key]);
                continue;
            }
            $r = 9 * $b;
            // The normal in the body's axes.
            $ux = $nx * $R[$r] + $ny * $R[$r + 3] + $nz * $R[$r + 6];
            $uy = $nx * $R[$r + 1] + $ny * $R[$r + 4] + $nz * $R[$r + 7];
            $uz = $nx * $R[$r + 2] + $ny * $R[$r + 5] + $nz * $R[$r + 8];
            if ($hull->round > 0.0) {
                $gap = $height - $hull->round;
                if ($gap >= $margin) {
                    unset($this->pairs[$key]);
                    continue;
                }
                $pair = $this->pairs[$key] ??= new ContactPair($s, -1 - $number, false);
                $pair->renew([-$hull->round * $ux, -$hull->round * $uy, -$hull->round * $uz], [$cx - $height * $nx, $cy - $height * $ny, $cz - $height * $nz], $hull->radius);
                continue;
            }
            $onA = $onB = [];
            $y = $hull->y;
            $z = $hull->z;
            // All points that are near: with only some, the others would sink in and take turns.
            foreach ($hull->x as $i => $px) {
                $py = $y[$i];
                $pz = $z[$i];
                $gap = $height + $ux * $px + $uy * $py + $uz * $pz;
                if ($gap < $margin) {
                    array_push($onA, $px, $py, $pz);
                    $wx = $cx + $R[$r] * $px + $R[$r + 1] * $py + $R[$r + 2] * $pz;
                    $wz = $cz + $R[$r + 6] * $px + $R[$r + 7] * $py + $R[$r + 8] * $pz;
                    if ($level) {
                        array_push($onB, $wx, $d, $wz);
                    } else {
                        $wy = $cy + $R[$r + 3] * $px + $R[$r + 4] * $py + $R[$r + 5] * $pz;
                        array_push($onB, $wx - $gap * $nx, $wy - $gap * $ny, $wz - $gap * $nz);
                    }
                }
            }
            if ($onA === []) {
                unset($this->pairs[$key]);
                continue;
            }
            $pair = $this->pairs[$key] ??= new ContactPair($s, -1 - $number, false);
            $pair->renew($onA, $onB, 1e-6 * $hull->radius);
        }
    }

    /** @return array<int, array<mixed>> */
    public function save(): array
    {
        return array_map(get_object_vars(...), $this->pairs);
    }

    /** @param array<int, State> $pairs */
    public function restore(array $pairs): void
    {
        $this->pairs = array_map(ContactPair::restored(...), $pairs);
    }
}
