<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Pipeline;

/** A check that looks at one prop at a time; props whose mesh cannot be made are {@see UnusableMesh}'s. */
abstract class PropCheck implements Check
{
    /** @param string $at JSON Pointer to the prop */
    abstract protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding;

    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        $findings = [];
        foreach ($shot->props as $prop) {
            try {
                $finding = $this->of($prop, $prop->pointer, $shot, $pipeline->prepared($prop), $pipeline);
            } catch (Refusal) {
                // It, or one that it looks at, has no mesh.
                continue;
            }
            if ($finding !== null) {
                $findings[] = $finding;
            }
        }

        return $findings;
    }

    /** Whether a prop's pieces will ever be moved by what acts on them. */
    protected static function moves(Prop $prop): bool
    {
        return $prop->startsFree() || ! $prop->held()->isEmpty() || ! $prop->neverLetsGo();
    }

    /**
     * Whether one is over the other at the first frame, so that they may meet.
     *
     * @param array{array{float, float, float}, array{float, float, float}} $one
     * @param array{array{float, float, float}, array{float, float, float}} $other
     */
    protected static function mayMeet(array $one, array $other): bool
    {
        return $one[0][0] < $other[1][0] && $other[0][0] < $one[1][0] && $one[0][2] < $other[1][2] && $other[0][2] < $one[1][2];
    }

    /** @return array{array{float, float, float}, array{float, float, float}} low and high corner in the shot at the first frame */
    protected static function box(Prop $prop, TriangleMesh $mesh): array
    {
        [$low, $high] = $mesh->bounds();
        $corners = [];
        foreach ([$low[0], $high[0]] as $x) {
            foreach ([$low[1], $high[1]] as $y) {
                foreach ([$low[2], $high[2]] as $z) {
                    $corners[] = $prop->transform->carried([$x, $y, $z], 1.0);
                }
            }
        }

        return [
            [min(array_column($corners, 0)), min(array_column($corners, 1)), min(array_column($corners, 2))],
            [max(array_column($corners, 0)), max(array_column($corners, 1)), max(array_column($corners, 2))],
        ];
    }
}
