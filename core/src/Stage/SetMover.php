<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;

/**
 * Props that are set on others. Nothing touches them, and they touch nothing.
 *
 * @extends PosedMover<SetProp>
 */
final class SetMover extends PosedMover
{
    /**
     * @param list<Prop> $own the props it moves
     * @param list<BrokenProp> $broken their pieces
     *
     * @throws BadDocument if there is nothing to stand on
     */
    public function __construct(Shot $shot, array $own, array $broken, Surfaces $others)
    {
        $props = [];
        foreach ($own as $k => $prop) {
            $props[] = [$prop->id, count($broken[$k]->pieces), new SetProp($prop, $shot, $broken[$k], $others)];
        }
        parent::__construct($props);
    }
}
