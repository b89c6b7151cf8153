<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/**
 * Contacts on bodies that change their size. The solver knows only bodies that move and turn; so each contact on a body that
 * grows gets, for a step, a driven body of its own in its place: with the same centre and spin, and the speed that the
 * surface has at the contact.
 */
final readonly class Growth
{
    /**
     * @param list<int> $bodies of each manifold, as they really are
     * @param list<int> $driven the bodies that stand in
     */
    private function __construct(private array $bodies, public array $driven)
    {
    }

    /**
     * @param array<int, float> $im inverse masses; the stand-ins' are added
     * @param array<int, float> $ii inverse inertia; the same
     */
    public static function begin(RigidBodies $bodies, ContactSolver $solver, array &$im, array &$ii): self
    {
        if ($bodies->growth === []) {
            return new self([], []);
        }
        $real = array_values($solver->bodies);
        $driven = [];
        foreach ($real as $k => $body) {
            if (isset($bodies->growth[$body])) {
                $solver->bodies[$k] = $driven[] = count($im);
                array_push($bodies->v, ...self::velocity($bodies, $body, $solver->middle(intdiv($k, 2), $k % 2)));
                $im[] = 0.0;
                array_push($ii, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0);
            }
        }

        return new self($real, $driven);
    }

    /**
     * @param array{float, float, float} $arm from the body's centre to the contact
     *
     * @return array{float, float, float, float, float, float}
     */
    private static function velocity(RigidBodies $bodies, int $body, array $arm): array
    {
        [[$vx, $vy, $vz], [$wx, $wy, $wz]] = $bodies->velocity($body);
        [$x, $y, $z] = $bodies->growthAt($body, $arm);

        return [$vx + $x, $vy + $y, $vz + $z, $wx, $wy, $wz];
    }

    /** Puts the bodies back as they really are. */
    public function end(RigidBodies $bodies, ContactSolver $solver): void
    {
        if ($this->driven !== []) {
            $solver->bodies = $this->bodies;
            $bodies->v = array_slice($bodies->v, 0, -6 * count($this->driven));
        }
    }
}
