<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Stage\Kind\MayIdle;
use YardBreak\Core\Stage\Pipeline;

/** A force that does nothing: it acts on nobody, has nothing to go by, or comes too late. */
final class IdleForce implements Check
{
    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        $findings = [];
        foreach ($shot->forces as $force) {
            $at = "{$force->pointer}/{$force->kind->kind}";
            $kind = Kinds::force($force->kind->kind);
            $why = is_a($kind, MayIdle::class, true) ? $kind::idle($force->kind->settings, $shot) : null;
            if ($why !== null) {
                $findings[] = new Finding('warn', $at, "{$force->name} {$why}");
            } elseif ($shot->props !== [] && array_filter($shot->props, $force->actsOn(...)) === []) {
                $findings[] = new Finding('warn', "{$force->pointer}/props", "{$force->name} acts on nothing: the props that it was to act on are not in the shot.", ['label' => 'Let it act on all', 'pointer' => "{$force->pointer}/props", 'value' => []]);
            } elseif ($force->byWeight && array_filter($shot->props, static fn (Prop $prop): bool => $force->actsOn($prop) && ! $prop->weight->isEmpty()) === []) {
                $findings[] = new Finding('warn', "{$force->pointer}/byWeight", "{$force->name} is to be as strong as the weight, but nothing that it acts on has one: it acts wholly.", ['label' => 'Let it act wholly', 'pointer' => "{$force->pointer}/byWeight", 'value' => false]);
            }
        }

        return $findings;
    }
}
