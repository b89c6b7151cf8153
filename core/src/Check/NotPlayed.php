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
        if ($prop->played->bool('on') && ! $prop->mover->has('plays')) {
            return new Finding('warn', "{$at}/motion/mover", "{$prop->name} plays its file, but what it moves as goes by its own keys: nothing of it is seen.", ['label' => 'Let it move as in its file', 'pointer' => "{$at}/motion/mover", 'value' => 'played']);
        }
        if ($prop->plays() && $prop->pattern->has('cored') && ! $prop->mover->has('vertices')) {
            return new Finding('warn', "{$at}/break/{$prop->pattern->kind}/core", "{$prop->name} plays its file, but the core that its pieces come off keeps its shape. Let them come off nothing, and bring the file in once more, to move as in its file beneath them.", ['label' => 'Without a core', 'pointer' => "{$at}/break/{$prop->pattern->kind}/core", 'value' => false]);
        }
        try {
            $pipeline->surfaces->moving($prop);
        } catch (BadFile $why) {
            return new Finding('stop', "{$at}/played/on", "{$prop->name} cannot play its file. {$why->getMessage()}", ['label' => 'Do not play it', 'pointer' => "{$at}/played/on", 'value' => false]);
        }

        return null;
    }
}
