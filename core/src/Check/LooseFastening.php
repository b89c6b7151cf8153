<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Joint;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Fastenings;
use YardBreak\Core\Stage\Kind\JoinsBent;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Stage\Pipeline;

/** A fastening that holds nothing: its props are not chosen, not there, of the wrong kind or too far from each other, or what it holds is held anyway. */
final class LooseFastening implements Check
{
    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        $findings = [];
        $fastenings = new Fastenings($shot, $pipeline->surfaces);
        foreach ($shot->joints as $joint) {
            $kind = Kinds::joint($joint->kind->kind);
            if (is_a($kind, JoinsBent::class, true)) {
                $findings[] = $this->unheld($joint, $shot, $fastenings) ?? $this->outOfReach($joint, $shot, $fastenings, $kind::within($joint->kind->settings)) ?? $this->idle($joint, $shot);
            }
        }

        return array_values(array_filter($findings));
    }

    private function unheld(Joint $joint, Shot $shot, Fastenings $fastenings): ?Finding
    {
        foreach (['prop' => [$joint->prop, 'fastens', 'cloth or as something soft', 'Hold'], 'other' => [$joint->other, 'joins', 'hard pieces', 'Fasten it to']] as $field => [$id, $trait, $what, $do]) {
            $prop = $shot->prop($id);
            if ($prop !== null && $prop->mover->has($trait)) {
                continue;
            }
            $text = match (true) {
                $prop !== null => "{$joint->name} does not hold: {$prop->name} does not move as {$what}.",
                $id !== '' => "{$joint->name} holds nothing: a prop that it was to hold is not in the shot.",
                default => "{$joint->name} holds nothing yet: no prop is chosen that moves as {$what}.",
            };
            $fit = array_values(array_filter($shot->props, static fn (Prop $prop): bool => $prop->mover->has($trait)));
            $best = count($fit) === 1 ? $fit[0] : ($field === 'other' ? self::nearest($shot->prop($joint->prop), $fit, $fastenings) : null);

            return new Finding('warn', "{$joint->pointer}/{$field}", $text, $best === null ? null : ['label' => "{$do} {$best->name}", 'pointer' => "{$joint->pointer}/{$field}", 'value' => $best->id]);
        }

        return null;
    }

    /** @param list<Prop> $fit */
    private static function nearest(?Prop $prop, array $fit, Fastenings $fastenings): ?Prop
    {
        if ($prop === null) {
            return null;
        }
        $best = null;
        $least = INF;
        foreach ($fit as $other) {
            $apart = self::apart($prop, $other, $fastenings);
            if ($apart !== null && $apart < $least) {
                [$least, $best] = [$apart, $other];
            }
        }

        return $best;
    }

    private static function apart(Prop $prop, Prop $other, Fastenings $fastenings): ?float
    {
        try {
            return $fastenings->apart($prop, $other);
        } catch (Refusal) {
            // It has no mesh, which another check says.
            return null;
        }
    }

    private function outOfReach(Joint $joint, Shot $shot, Fastenings $fastenings, float $within): ?Finding
    {
        $prop = $shot->prop($joint->prop);
        $other = $shot->prop($joint->other);
        $apart = $prop === null || $other === null ? null : self::apart($prop, $other, $fastenings);
        if ($prop === null || $other === null || $apart === null || $apart <= $within) {
            return null;
        }
        // A little more, so that not one vertex alone is reached.
        $enough = ceil(1100.0 * $apart + 1.0) / 1000.0;

        return new Finding('warn', "{$joint->pointer}/{$joint->kind->kind}/within", sprintf('%s holds nothing: at the first frame %s is %s m away from %s where it is nearest.', $joint->name, $prop->name, round($apart, 3), $other->name), [
            'label' => "Hold from {$enough} m", 'pointer' => "{$joint->pointer}/{$joint->kind->kind}/within", 'value' => $enough,
        ]);
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
