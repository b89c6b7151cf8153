<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** A prop that is to play what moves in its file, and cannot. */
final class NotPlayed extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        $led = $prop->mover->has('led');
        if (! $prop->source->has('moves')) {
            return $led ? new Finding('stop', "{$at}/motion/mover", "{$prop->name} is to move as in its file, but it is made here and has none. Let it move otherwise, or bring in a GLB in which it moves.") : null;
        }
        if ($led && ! $prop->played->bool('on')) {
            return new Finding('stop', "{$at}/played/on", "{$prop->name} is to move as in its file, but the file is not played.", ['label' => 'Play it', 'pointer' => "{$at}/played/on", 'value' => true]);
        }
        try {
            $pipeline->surfaces->moving($prop);
        } catch (BadFile $why) {
            [$setting, $label, $value] = $prop->played->string('clip') === '' ? ['on', 'Do not play it', false] : ['clip', 'Play all its animations', ''];

            return new Finding('stop', "{$at}/played/{$setting}", "{$prop->name} cannot play its file. {$why->getMessage()}", ['label' => $label, 'pointer' => "{$at}/played/{$setting}", 'value' => $value]);
        }
        $lost = match (true) {
            $prop->isWhole() => '',
            $led => 'it goes as one, and none of its pieces comes off',
            $prop->played->bool('on') && ! $prop->mover->has('plays') && ! $prop->neverLetsGo() => 'its pieces stay where it is at rest until they let go, and nothing of it is seen',
            default => '',
        };
        if ($lost !== '') {
            return new Finding('warn', "{$at}/motion/mover", "{$prop->name} plays its file, but {$lost}. Staged pieces ride along with it, and can be let go to fall.", self::ride($prop, $at));
        }
        if ($prop->played->bool('on') && ! $prop->mover->has('plays')) {
            return new Finding('warn', "{$at}/motion/mover", "{$prop->name} plays its file, but what it moves as goes by its own keys: nothing of it is seen.", ['label' => 'Let it move as in its file', 'pointer' => "{$at}/motion/mover", 'value' => 'played']);
        }
        if ($prop->plays() && $prop->pattern->has('cored') && ! $prop->mover->has('vertices')) {
            return new Finding('warn', "{$at}/break/{$prop->pattern->kind}/core", "{$prop->name} plays its file, but the core that its pieces come off keeps its shape. Let them come off nothing, and bring the file in once more, to move as in its file beneath them.", ['label' => 'Without a core', 'pointer' => "{$at}/break/{$prop->pattern->kind}/core", 'value' => false]);
        }

        return null;
    }

    /** @return array{label: string, pointer: string, value: mixed} pieces as heavy, as rough and as springy as they were to be, which let go at some time */
    private static function ride(Prop $prop, string $at): array
    {
        $own = array_intersect_key($prop->mover->settings->values(), ['density' => 0, 'friction' => 0, 'restitution' => 0]);
        $motion = ['mover' => 'staged', 'staged' => ['takes' => 1, 'variety' => 0, 'after' => 'end', ...$own]];
        if ($prop->neverLetsGo()) {
            return ['label' => 'Let them ride along and fall at frame 12', 'pointer' => $at, 'value' => ['motion' => $motion, 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 12]]]];
        }

        return ['label' => 'Let them ride along and fall', 'pointer' => "{$at}/motion", 'value' => $motion];
    }
}
