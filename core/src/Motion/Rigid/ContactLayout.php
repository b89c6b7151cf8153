<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/** Lays the contacts that were found out for the solver: flat rows, in the world's axes. */
final readonly class ContactLayout
{
    public function __construct(
        private RigidBodies $bodies,
        private ContactFinder $finder,
    ) {
    }

    /**
     * Lays the contacts out for the solver.
     *
     * @param list<int> $moving
     * @param array<int, bool>|null $pressed bodies on which something else than shapes may press in the step; null: all
     *
     * @return array{ContactSolver, array<int, float>, array<int, float>}
     */
    public function gather(array $moving, ?array $pressed): array
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
        $left = $this->pressed($moving, $pressed);
        foreach ($this->finder->live as $pair) {
            if ($left !== null && ! isset($left[$this->bodies->shapeBody[$pair->a]])) {
                // Siblings that have come apart may keep no overlap when they meet again: by then they have been laid out with a gap.
                continue;
            }
            if ($pair->count > 0 && ($im[$this->bodies->shapeBody[$pair->a]] > 0.0 || $im[$this->bodies->shapeBody[$pair->b]] > 0.0)) {
                $solver->pairs[] = $pair;
            }
        }
        foreach ($this->finder->floors->pairs as $pair) {
            if ($im[$this->bodies->shapeBody[$pair->a]] > 0.0) {
                $solver->pairs[] = $pair;
            }
        }
        // Two passes: one loop over all of it would be too long for a trace of the JIT.
        $this->layManifolds($solver);
        $this->layPoints($solver);

        return [$solver, $im, $ii];
    }

    /**
     * @param list<int> $moving
     * @param array<int, bool>|null $pressed
     *
     * @return array<int, bool>|null bodies on which anything may press in the step; null: all
     */
    private function pressed(array $moving, ?array $pressed): ?array
    {
        if ($pressed === null || $this->finder->clear === []) {
            return null;
        }
        foreach ($this->finder->floors->pairs as $pair) {
            $pressed[$this->bodies->shapeBody[$pair->a]] = true;
        }

        return FreeFlight::pressed($this->finder->live, $this->finder->clear, $this->bodies->shapeBody, array_fill_keys($moving, true), $pressed);
    }

    private function layManifolds(ContactSolver $solver): void
    {
        $bodies = $this->bodies;
        $R = $bodies->rotation;
        $shapeBody = $bodies->shapeBody;
        $frictions = $bodies->friction;
        $bounces = $bodies->bounce;
        $M = $B = [];
        $F = [0];
        $points = 0;
        foreach ($solver->pairs as $pair) {
            $sa = $pair->a;
            $sb = $pair->b;
            $B[] = $a = $shapeBody[$sa];
            if ($sb < 0) {
                $B[] = RigidBodies::FLOOR;
                // Normals point from a to b: into the floor.
                $plane = $this->finder->floors->planes[-1 - $sb];
                $nx = $plane->normal[0] === 0.0 ? 0.0 : -$plane->normal[0];
                $ny = -$plane->normal[1];
                $nz = $plane->normal[2] === 0.0 ? 0.0 : -$plane->normal[2];
                $friction = $plane->friction;
                $bounce = $plane->restitution;
            } else {
                $B[] = $shapeBody[$sb];
                [$ux, $uy, $uz] = $pair->normal;
                $r = 9 * $a;
                $nx = $R[$r] * $ux + $R[$r + 1] * $uy + $R[$r + 2] * $uz;
                $ny = $R[$r + 3] * $ux + $R[$r + 4] * $uy + $R[$r + 5] * $uz;
                $nz = $R[$r + 6] * $ux + $R[$r + 7] * $uy + $R[$r + 8] * $uz;
                $friction = $frictions[$sb];
                $bounce = $bounces[$sb];
            }
            $M[] = $nx;
            $M[] = $ny;
            $M[] = $nz;
            // A tangent that changes smoothly with the normal.
            if ($nx > 0.6 || $nx < -0.6) {
                $l = 1.0 / sqrt($nx * $nx + $ny * $ny);
                $M[] = -$ny * $l;
                $M[] = $nx * $l;
                $M[] = 0.0;
            } else {
                $l = 1.0 / sqrt($ny * $ny + $nz * $nz);
                $M[] = 0.0;
                $M[] = $nz * $l;
                $M[] = -$ny * $l;
            }
            $M[] = sqrt($frictions[$sa] * $friction);
            $M[] = $bounces[$sa] > $bounce ? $bounces[$sa] : $bounce;
            $points += $pair->count;
            $F[] = $points;
        }
        $solver->manifold = $M;
        $solver->bodies = $B;
        $solver->first = $F;
    }

    private function layPoints(ContactSolver $solver): void
    {
        $bodies = $this->bodies;
        $R = $bodies->rotation;
        $X = $bodies->p;
        $O = $bodies->offset;
        $M = $solver->manifold;
        $B = $solver->bodies;
        $P = array_fill(0, 12 * $solver->first[count($solver->first) - 1], 0.0);
        $L = [];
        $p = 0;
        $c = 0;
        foreach ($solver->pairs as $pair) {
            $a = $B[2 * $c];
            $b = $B[2 * $c + 1];
            $r = 9 * $a;
            $r0 = $R[$r];
            $r1 = $R[$r + 1];
            $r2 = $R[$r + 2];
            $r3 = $R[$r + 3];
            $r4 = $R[$r + 4];
            $r5 = $R[$r + 5];
            $r6 = $R[$r + 6];
            $r7 = $R[$r + 7];
            $r8 = $R[$r + 8];
            // Body 0, the floor, lies unturned at the origin: its points are in the world already.
            $r = 9 * $b;
            $q0 = $R[$r];
            $q1 = $R[$r + 1];
            $q2 = $R[$r + 2];
            $q3 = $R[$r + 3];
            $q4 = $R[$r + 4];
            $q5 = $R[$r + 5];
            $q6 = $R[$r + 6];
            $q7 = $R[$r + 7];
            $q8 = $R[$r + 8];
            $dx = $X[3 * $b] - $X[3 * $a];
            $dy = $X[3 * $b + 1] - $X[3 * $a + 1];
            $dz = $X[3 * $b + 2] - $X[3 * $a + 2];
            $o = 3 * $pair->a;
            $ox = $O[$o];
            $oy = $O[$o + 1];
            $oz = $O[$o + 2];
            if ($pair->b >= 0) {
                $o = 3 * $pair->b;
                $sx = $O[$o];
                $sy = $O[$o + 1];
                $sz = $O[$o + 2];
            } else {
                $sx = $sy = $sz = 0.0;
            }
            $k = 8 * $c;
            $nx = $M[$k];
            $ny = $M[$k + 1];
            $nz = $M[$k + 2];
            $c++;
            $least = INF;
            $onA = $pair->onA;
            $onB = $pair->onB;
            $end = 3 * $pair->count;
            foreach ($pair->impulse as $l) {
                $L[] = $l;
            }
            for ($k = 0; $k < $end; $k += 3) {
                // From the body's centre, in the world's axes.
                $x = $ox + $onA[$k];
                $y = $oy + $onA[$k + 1];
                $z = $oz + $onA[$k + 2];
                $ax = $r0 * $x + $r1 * $y + $r2 * $z;
                $ay = $r3 * $x + $r4 * $y + $r5 * $z;
                $az = $r6 * $x + $r7 * $y + $r8 * $z;
                $x = $sx + $onB[$k];
                $y = $sy + $onB[$k + 1];
                $z = $sz + $onB[$k + 2];
                $bx = $q0 * $x + $q1 * $y + $q2 * $z;
                $by = $q3 * $x + $q4 * $y + $q5 * $z;
                $bz = $q6 * $x + $q7 * $y + $q8 * $z;
                // How far b's place is from a's; both sides act at the middle between them.
                $x = $bx + $dx - $ax;
                $y = $by + $dy - $ay;
                $z = $bz + $dz - $az;
                $gap = $nx * $x + $ny * $y + $nz * $z;
                if ($gap < $least) {
                    $least = $gap;
                }
                $x *= 0.5;
                $y *= 0.5;
                $z *= 0.5;
                $P[$p] = $ax + $x;
                $P[$p + 1] = $ay + $y;
                $P[$p + 2] = $az + $z;
                $P[$p + 3] = $bx - $x;
                $P[$p + 4] = $by - $y;
                $P[$p + 5] = $bz - $z;
                $P[$p + 6] = $gap;
                $p += 12;
            }
            $pair->deepest = -$least;
            if ($pair->siblings) {
                $overlap = $least < 0.0 ? -$least : 0.0;
                $pair->allowed = $keep = $pair->allowed === null || $overlap < $pair->allowed ? $overlap : $pair->allowed;
                $pair->deepest -= $keep;
                for ($i = $solver->first[$c - 1]; $i < $solver->first[$c]; $i++) {
                    $P[12 * $i + 6] += $keep;
                }
            }
        }
        $solver->point = $P;
        $solver->impulse = $L;
    }
}
