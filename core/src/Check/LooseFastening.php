<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Joint;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Kind\JoinsBent;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Stage\Pipeline;

/** A fastening that holds nothing: its props are not chosen, not there, of the wrong kind or too far from each other, or what it holds is held anyway. */
final class LooseFastening implements Check
{
    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        $findings = [];
        foreach ($shot->joints as $joint) {
            $kind = Kinds::joint($joint->kind->kind);
            if (is_a($kind, JoinsBent::class, true)) {
                $findings[] = $this->unheld($joint, $shot) ?? $this->apart($joint, $shot, $pipeline, $kind::within($joint->kind->settings)) ?? $this->idle($joint, $shot);
            }
        }

        return array_values(array_filter($findings));
    }

    private function unheld(Joint $joint, Shot $shot): ?Finding
    {
        foreach (['prop' => [$joint->prop, 'fastens', 'cloth or soft thing', 'Hold'], 'other' => [$joint->other, 'joins', 'prop of hard pieces', 'Fasten it to']] as $field => [$id, $trait, $what, $do]) {
            $prop = $shot->prop($id);
            if ($prop !== null && $prop->mover->has($trait)) {
                continue;
            }
            $fit = array_values(array_filter($shot->props, static fn (Prop $prop): bool => $prop->mover->has($trait)));
            $text = match (true) {
                $prop !== null => "{$joint->name} does not hold: {$prop->name} is no {$what}.",
                $id !== '' => "{$joint->name} holds nothing: a prop that it was to hold is not in the shot.",
                default => "{$joint->name} holds nothing yet: no {$what} is chosen.",
            };

            return new Finding('warn', "{$joint->pointer}/{$field}", $text, count($fit) === 1 ? ['label' => "{$do} {$fit[0]->name}", 'pointer' => "{$joint->pointer}/{$field}", 'value' => $fit[0]->id] : null);
        }

        return null;
    }

    private function apart(Joint $joint, Shot $shot, Pipeline $pipeline, float $within): ?Finding
    {
        $prop = $shot->prop($joint->prop);
        $other = $shot->prop($joint->other);
        if ($prop === null || $other === null) {
            return null;
        }
        try {
            $off = $this->off($prop, $other, $pipeline);
        } catch (Refusal) {
            // It has no mesh, which another check says.
            return null;
        }
        if ($off <= $within) {
            return null;
        }
        // A little more, so that not one vertex alone is reached.
        $enough = ceil(1100.0 * $off + 1.0) / 1000.0;

        return new Finding('warn', "{$joint->pointer}/{$joint->kind->kind}/within", sprintf('%s holds nothing: at the first frame %s is %s m away from %s where it is nearest.', $joint->name, $prop->name, round($off, 3), $other->name), [
            'label' => "Hold from {$enough} m", 'pointer' => "{$joint->pointer}/{$joint->kind->kind}/within", 'value' => $enough,
        ]);
    }

    /** @return float how far the nearest vertex of the one is outside the other at the first frame, m */
    private function off(Prop $prop, Prop $other, Pipeline $pipeline): float
    {
        [$tree, $times] = $pipeline->surfaces->of($other, 1.0);
        $back = Quaternion::conjugate($other->transform->rotationAt(1.0));
        $mesh = $pipeline->prepared($prop);
        $best = INF;
        foreach ($mesh->x as $v => $x) {
            [$x, $y, $z] = Vector::times(Quaternion::rotate($back, Vector::minus($prop->transform->carried([$x, $mesh->y[$v], $mesh->z[$v]], 1.0), $other->transform->positionAt(1.0))), 1.0 / $times);
            $triangle = $tree->nearest($x, $y, $z, INF);
            if ($triangle >= 0) {
                $tree->look($triangle, $x, $y, $z);
                $best = min($best, $times * $tree->distance);
            }
        }

        return $best;
    }

    /** What is held all over stays where it is, but for its fastened places. */
    private function idle(Joint $joint, Shot $shot): ?Finding
    {
        $prop = $shot->prop($joint->prop);
        if ($prop === null || ! $prop->neverLetsGo() || $prop->startsFree() || ! $prop->held()->isEmpty()) {
            return null;
        }

        return new Finding('warn', "{$prop->pointer}/release/trigger", "{$prop->name} is held all over for the whole shot: only where {$joint->name} holds it would it go along.", [
            'label' => 'Let go at frame 1', 'pointer' => "{$prop->pointer}/release", 'value' => ['trigger' => 'frame', 'frame' => ['frame' => 1]],
        ]);
    }
}
