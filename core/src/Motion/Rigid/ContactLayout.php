<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/** Lays the contacts that were found out for the solver: flat rows, in the world's axes. */
final readonly class ContactLayout
{
    public function __construct(
        private RigidBodies $bodies,
        private ContactFinder $finder,
        private float $floorFriction,
        private float $floorBounce,
    ) {
    }

    /**
     * Lays the contacts out for the solver.
     *
     * @param list<int> $moving
     *
     * @return array{ContactSolver, array<int, float>, array<int, float>}
     */
    public function gather(array $moving): array
    {
        $bodies = count($this->bodies->mass);
        $im = array_fill(0, $bodies, 0.0);
        $ii = array_fill(0, 6 * $bodies, 0.0);
        foreach ($moving as $b) {
            $im[$b] = 1.0 / $this->bodies->mass[$b];
        }
        Integrator::worldInverse($this->bodies->rotation, $this->bodies->inverse, $moving, $ii);
        $this->finder->forgetImpulses();
        $solver = new ContactSolver();
        foreach ($this->finder->pairs as $pair) {
            if ($pair->count > 0 && $pair->seen === $this->finder->steps) {
                $a = $this->bodies->shapeBody[$pair->a];
                $b = $this->bodies->shapeBody[$pair->b];
                if ($im[$a] > 0.0 || $im[$b] > 0.0) {
                    $this->addManifold($solver, $pair, $a, $b);
                }
            }
        }
        foreach ($this->finder->floorPairs as $s => $pair) {
            $a = $this->bodies->shapeBody[$s];
            if ($im[$a] > 0.0) {
                $this->addManifold($solver, $pair, $a, RigidBodies::FLOOR);
            }
        }

        return [$solver, $im, $ii];
    }

    private function addManifold(ContactSolver $solver, ContactPair $pair, int $a, int $b): void
    {
        $sa = $pair->a;
        $sb = $pair->b;
        $ra = 9 * $a;
        $R = $this->bodies->rotation;
        if ($sb < 0) {
            [$nx, $ny, $nz] = [0.0, -1.0, 0.0];
            $friction = sqrt($this->bodies->friction[$sa] * $this->floorFriction);
            $bounce = max($this->bodies->bounce[$sa], $this->floorBounce);
        } else {
            [$ux, $uy, $uz] = $pair->normal;
            $nx = $R[$ra] * $ux + $R[$ra + 1] * $uy + $R[$ra + 2] * $uz;
            $ny = $R[$ra + 3] * $ux + $R[$ra + 4] * $uy + $R[$ra + 5] * $uz;
            $nz = $R[$ra + 6] * $ux + $R[$ra + 7] * $uy + $R[$ra + 8] * $uz;
            $friction = sqrt($this->bodies->friction[$sa] * $this->bodies->friction[$sb]);
            $bounce = max($this->bodies->bounce[$sa], $this->bodies->bounce[$sb]);
        }
        // A tangent that changes smoothly with the normal.
        if ($nx > 0.6 || $nx < -0.6) {
            $l = 1.0 / sqrt($nx * $nx + $ny * $ny);
            [$tx, $ty, $tz] = [-$ny * $l, $nx * $l, 0.0];
        } else {
            $l = 1.0 / sqrt($ny * $ny + $nz * $nz);
            [$tx, $ty, $tz] = [0.0, $nz * $l, -$ny * $l];
        }
        array_push($solver->manifold, $nx, $ny, $nz, $tx, $ty, $tz, $friction, $bounce);
        array_push($solver->bodies, $a, $b);
        $pax = $this->bodies->p[3 * $a];
        $pay = $this->bodies->p[3 * $a + 1];
        $paz = $this->bodies->p[3 * $a + 2];
        $pbx = $this->bodies->p[3 * $b];
        $pby = $this->bodies->p[3 * $b + 1];
        $pbz = $this->bodies->p[3 * $b + 2];
        $rb = 9 * $b;
        $gaps = [];
        $least = INF;
        $rows = [];
        for ($k = 0, $end = 3 * $pair->count; $k < $end; $k += 3) {
            $x = $pair->onA[$k];
            $y = $pair->onA[$k + 1];
            $z = $pair->onA[$k + 2];
            $ax = $this->bodies->cx[$sa] + $R[$ra] * $x + $R[$ra + 1] * $y + $R[$ra + 2] * $z;
            $ay = $this->bodies->cy[$sa] + $R[$ra + 3] * $x + $R[$ra + 4] * $y + $R[$ra + 5] * $z;
            $az = $this->bodies->cz[$sa] + $R[$ra + 6] * $x + $R[$ra + 7] * $y + $R[$ra + 8] * $z;
            $x = $pair->onB[$k];
            $y = $pair->onB[$k + 1];
            $z = $pair->onB[$k + 2];
            if ($sb < 0) {
                [$bx, $by, $bz] = [$x, $y, $z];
            } else {
                $bx = $this->bodies->cx[$sb] + $R[$rb] * $x + $R[$rb + 1] * $y + $R[$rb + 2] * $z;
                $by = $this->bodies->cy[$sb] + $R[$rb + 3] * $x + $R[$rb + 4] * $y + $R[$rb + 5] * $z;
                $bz = $this->bodies->cz[$sb] + $R[$rb + 6] * $x + $R[$rb + 7] * $y + $R[$rb + 8] * $z;
            }
            $gap = $nx * ($bx - $ax) + $ny * ($by - $ay) + $nz * ($bz - $az);
            if ($gap < $least) {
                $least = $gap;
            }
            // Both sides act at the middle between the two places.
            $mx = 0.5 * ($ax + $bx);
            $my = 0.5 * ($ay + $by);
            $mz = 0.5 * ($az + $bz);
            $rows[] = [$mx - $pax, $my - $pay, $mz - $paz, $mx - $pbx, $my - $pby, $mz - $pbz, $gap];
        }
        $keep = 0.0;
        if ($pair->siblings) {
            $overlap = $least < 0.0 ? -$least : 0.0;
            $pair->allowed = $pair->allowed === null ? $overlap : min($pair->allowed, $overlap);
            $keep = $pair->allowed;
        }
        $pair->deepest = -$least - $keep;
        foreach ($rows as [$r0, $r1, $r2, $r3, $r4, $r5, $gap]) {
            array_push($solver->point, $r0, $r1, $r2, $r3, $r4, $r5, $gap + $keep, 0.0, 0.0, 0.0, 0.0, 0.0);
        }
        array_push($solver->impulse, ...$pair->impulse);
        $solver->first[] = count($solver->impulse) / 3 | 0;
        $solver->pairs[] = $pair;
    }
}
