<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Joint;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Kind\JoinsHard;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Stage\Pipeline;

/** A joint that holds nothing: its props are not chosen, not there or not hard, or it stands beside them. */
final class LooseJoint implements Check
{
    /** A joint may stand off a prop by this share of its size. */
    private const BESIDE = 0.25;

    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        $findings = [];
        $props = array_column($shot->props, null, 'id');
        foreach ($shot->joints as $joint) {
            $kind = Kinds::joint($joint->kind->kind);
            if (! is_a($kind, JoinsHard::class, true)) {
                continue;
            }
            $finding = $this->unheld($joint, $props) ?? $this->beside($joint, $kind::places($joint->kind->settings), $props, $pipeline);
            if ($finding !== null) {
                $findings[] = $finding;
            }
        }

        return $findings;
    }

    /** @param array<string, Prop> $props */
    private function unheld(Joint $joint, array $props): ?Finding
    {
        $hard = array_filter($props, static fn (Prop $prop): bool => $prop->mover->has('joins'));
        if ($joint->prop === '') {
            $only = count($hard) === 1 ? reset($hard) : null;

            return new Finding('warn', "{$joint->pointer}/prop", "{$joint->name} holds nothing yet: no prop is chosen.", $only === null ? null : ['label' => "Hold {$only->name}", 'pointer' => "{$joint->pointer}/prop", 'value' => $only->id]);
        }
        foreach (['prop' => $joint->prop, 'other' => $joint->other] as $field => $id) {
            if ($id !== '' && ! isset($props[$id])) {
                return new Finding('warn', "{$joint->pointer}/{$field}", "{$joint->name} holds nothing: a prop that it was to hold is not in the shot.", $field === 'other' ? ['label' => 'Hang it on a place', 'pointer' => "{$joint->pointer}/other", 'value' => ''] : null);
            }
            if ($id !== '' && ! isset($hard[$id])) {
                return new Finding('warn', "{$joint->pointer}/{$field}", "{$joint->name} does not hold {$props[$id]->name}: only what moves as hard pieces can be held by a joint.");
            }
        }
        if ($joint->prop === $joint->other) {
            return new Finding('warn', "{$joint->pointer}/other", "{$joint->name} was to join {$props[$joint->prop]->name} to itself.", ['label' => 'Hang it on a place', 'pointer' => "{$joint->pointer}/other", 'value' => '']);
        }
        $still = array_filter([$props[$joint->prop], $props[$joint->other] ?? null], static fn (?Prop $prop): bool => $prop !== null && ($prop->startsFree() || ! $prop->neverLetsGo()));

        return $still !== [] ? null : new Finding('warn', "{$joint->pointer}/prop", "{$joint->name} has nothing to hold back: {$props[$joint->prop]->name} is held for the whole shot.");
    }

    /**
     * @param array{array{float, float, float}, array{float, float, float}} $places
     * @param array<string, Prop> $props
     */
    private function beside(Joint $joint, array $places, array $props, Pipeline $pipeline): ?Finding
    {
        [$from, $to] = $places;
        foreach ([[$joint->prop, $from], [$joint->other, $to]] as [$id, $place]) {
            if ($id === '') {
                continue;
            }
            try {
                [$off, $size] = $this->off($props[$id], $place, $pipeline);
            } catch (Refusal) {
                // It has no mesh, which another check says.
                continue;
            }
            if ($off > self::BESIDE * $size) {
                return new Finding('warn', "{$joint->pointer}/{$joint->kind->kind}", sprintf('%s holds %s at a place %s m beside it. Pick the place on it.', $joint->name, $props[$id]->name, round($off, 2)));
            }
        }

        return null;
    }

    /**
     * @param array{float, float, float} $place m
     *
     * @return array{float, float} how far it is from the box round a prop at the first frame, and how large that is, m
     */
    private function off(Prop $prop, array $place, Pipeline $pipeline): array
    {
        [$low, $high] = $pipeline->prepared($prop)->scaled($prop->transform->scaleAt(1.0))->bounds();
        $own = Quaternion::rotate(Quaternion::conjugate($prop->transform->rotationAt(1.0)), Vector::minus($place, $prop->transform->positionAt(1.0)));
        $off = 0.0;
        for ($axis = 0; $axis < 3; $axis++) {
            $off += max(0.0, $low[$axis] - $own[$axis], $own[$axis] - $high[$axis]) ** 2;
        }

        return [sqrt($off), Vector::distance($low, $high)];
    }
}
