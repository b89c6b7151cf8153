<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Bake\Pipeline;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Refusal;
use YardBreak\Core\Shot\Prop;
use YardBreak\Core\Shot\Shot;

/** Why would nothing move, or not as meant? Looked at before a bake, in an artist's words. */
final class Checks
{
    /** Hard pieces that bake in reasonable time. */
    private const MANY = 600;

    /** @return list<Finding> the gravest first */
    public static function of(Shot $shot, Pipeline $pipeline): array
    {
        $findings = [];
        if ($shot->props === []) {
            return [new Finding('stop', '/props', 'The shot is empty. Add a prop first.')];
        }
        $someMove = false;
        foreach ($shot->props as $k => $prop) {
            array_push($findings, ...self::prop($shot, $prop, $k, $pipeline));
            $someMove = $someMove || $prop->motion->falls || $prop->timing->release !== 'never' || $prop->isKeyed();
        }
        if (! $someMove) {
            $findings[] = new Finding('warn', '/props/0/timing/release', 'Nothing will move: every prop is held and never lets go.', [
                'label' => 'Let ' . $shot->props[0]->name . ' go at frame 12', 'pointer' => '/props/0/timing', 'value' => ['release' => 'frame', 'frame' => 12],
            ]);
        }
        $still = $shot->gravity->isConstant() && $shot->gravity->at(1.0) === 0.0;
        if ($still && ! self::someStartMoving($shot)) {
            $findings[] = new Finding('warn', '/gravity', 'Nothing will fall: gravity is 0 and no prop starts with a velocity or spin.', [
                'label' => 'Earth’s gravity', 'pointer' => '/gravity', 'value' => 9.80665,
            ]);
        }
        usort($findings, static fn (Finding $a, Finding $b): int => ($a->severity === 'stop' ? 0 : 1) <=> ($b->severity === 'stop' ? 0 : 1));

        return $findings;
    }

    private static function someStartMoving(Shot $shot): bool
    {
        foreach ($shot->props as $prop) {
            if ($prop->isKeyed() || array_filter([...$prop->motion->velocity, ...$prop->motion->spin]) !== []) {
                return true;
            }
        }

        return false;
    }

    /** @return list<Finding> */
    private static function prop(Shot $shot, Prop $prop, int $k, Pipeline $pipeline): array
    {
        $at = "/props/{$k}";
        try {
            $mesh = $pipeline->prepared($prop->source);
        } catch (Refusal $error) {
            return [new Finding('stop', "{$at}/source", "{$prop->name}: {$error->getMessage()}")];
        }
        $findings = [];
        $health = $pipeline->health($mesh);
        $moves = $prop->motion->falls || $prop->timing->release !== 'never';
        if (! $health['watertight'] && ($prop->break->isSkin() ? $prop->motion->falls : ! $prop->break->isWhole() || $moves)) {
            $findings[] = new Finding('stop', "{$at}/source", "{$prop->name} is not watertight ({$health['openEdges']} open edges), so it has no inside to break and no mass. It can only be something to fall on.", [
                'label' => 'Keep it whole and still', 'pointer' => $at, 'value' => ['break' => ['pattern' => 'whole'], 'timing' => ['release' => 'never'], 'motion' => ['before' => 'held']],
            ]);
        }
        $how = $prop->break->how;
        if ($moves && $how->pattern === 'flakes' && $how->flakes > self::MANY) {
            $findings[] = new Finding('warn', "{$at}/break/flakes", sprintf('%s has %s flakes, and each is moved as a hard piece of its own: a bake will take hours.', $prop->name, number_format($how->flakes)), [
                'label' => 'Take ' . self::MANY, 'pointer' => "{$at}/break/flakes", 'value' => self::MANY,
            ]);
        }
        if ($how->pattern === 'drawn' && $how->lines === []) {
            $findings[] = new Finding('warn', "{$at}/break/lines", "No cut line has been drawn on {$prop->name} yet, so it stays in one piece.");
        }
        $t = $prop->timing;
        $last = $shot->frames;
        if (in_array($t->release, ['frame', 'cue'], true) && $t->frame > $last) {
            $findings[] = new Finding('warn', "{$at}/timing/frame", "{$prop->name} lets go at frame {$t->frame}, but the shot ends at frame {$last}.", [
                'label' => 'Make the shot long enough', 'pointer' => '/frames', 'value' => min(5000, $t->frame + 48),
            ]);
        }
        if ($t->release === 'cue' && $t->cue === '') {
            $findings[] = new Finding('warn', "{$at}/timing/cue", "{$prop->name} should let go at a cue, but none is chosen.");
        }
        if (in_array($t->release, ['sweep', 'blow'], true) && $t->from >= $last) {
            $findings[] = new Finding('warn', "{$at}/timing/from", "The front on {$prop->name} starts at frame {$t->from}, but the shot ends at frame {$last}.");
        }
        if ($t->release === 'blow' && ! $how->hasBlow()) {
            $findings[] = new Finding('warn', "{$at}/timing/release", "{$prop->name} should let go from the blow outward, but its break has none. Break it by a web or a breach, or cellular and finer about a place.", [
                'label' => 'Sweep instead', 'pointer' => "{$at}/timing/release", 'value' => 'sweep',
            ]);
        }
        if ($how->pattern === 'cellular' && $how->density === 'weight' && ! in_array($t->release, ['sweep', 'blow'], true)) {
            $findings[] = new Finding('warn', "{$at}/break/density", "{$prop->name} should be finer where its weight is high, but without a front the weight is the same everywhere.", [
                'label' => 'Let a front sweep by', 'pointer' => "{$at}/timing/release", 'value' => 'sweep',
            ]);
        }
        if ($t->release === 'contact' && ! $prop->motion->falls && ! self::othersMove($shot, $prop)) {
            $findings[] = new Finding('warn', "{$at}/motion/before", "{$prop->name} is held until something touches it, but nothing else moves.", [
                'label' => 'Let it fall', 'pointer' => "{$at}/motion/before", 'value' => 'falls',
            ]);
        }
        if ($shot->floorOn && $moves) {
            $lowest = self::lowest($prop, $mesh);
            if ($lowest < $shot->floorHeight - 0.002) {
                $findings[] = new Finding('warn', "{$at}/place/y", sprintf('%s starts %.3f m below the floor and will be pushed out at once.', $prop->name, $shot->floorHeight - $lowest), [
                    'label' => 'Stand it on the floor', 'pointer' => "{$at}/place/y", 'value' => round($prop->placeAt(1.0)[1] + $shot->floorHeight - $lowest, 4),
                ]);
            }
        }

        return $findings;
    }

    private static function othersMove(Shot $shot, Prop $self): bool
    {
        foreach ($shot->props as $prop) {
            if ($prop !== $self && ($prop->motion->falls || $prop->isKeyed() || $prop->timing->release !== 'never')) {
                return true;
            }
        }

        return false;
    }

    private static function lowest(Prop $prop, TriangleMesh $mesh): float
    {
        [$low] = $mesh->transformed(1.0, $prop->turnAt(1.0), $prop->placeAt(1.0))->bounds();

        return $low[1];
    }
}
