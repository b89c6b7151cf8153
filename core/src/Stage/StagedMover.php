<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Motion\Steps;

/**
 * Staged motion of a shot's props: where each piece is depends on the frame alone, so that any frame can be had at once.
 *
 * @extends PosedMover<StagedProp>
 */
final class StagedMover extends PosedMover
{
    /**
     * @param list<Prop> $own the props it moves
     * @param list<BrokenProp> $broken their pieces
     */
    public function __construct(array $own, array $broken, Surfaces $others)
    {
        $props = [];
        foreach ($own as $k => $prop) {
            $props[] = [$prop->id, count($broken[$k]->pieces), new StagedProp($prop, $broken[$k], $k, $others)];
        }
        parent::__construct($props);
    }

    public function drive(float $from, float $to, float $dt): void
    {
        foreach ($this->props as [, , $prop]) {
            $prop->setOut($from, $to);
        }
    }

    public function substep(int $number): void
    {
        foreach ($this->props as [, , $prop]) {
            $prop->goOn(($number + 1) / Steps::SUBSTEPS);
        }
    }

    public function colliders(): array
    {
        return array_merge(...array_map(static fn (array $entry): array => $entry[2]->colliders(), $this->props));
    }
}
