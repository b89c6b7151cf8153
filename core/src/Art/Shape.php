<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

/** A filled shape of flat art: closed outlines, and the rule that says what lies inside them. */
final readonly class Shape
{
    /**
     * @param list<list<array{float, float}>> $outlines points in the art's own units, y up
     * @param bool $evenOdd else what is wound around (SVG 2, fill-rule)
     * @param string $colour as #rrggbb
     */
    public function __construct(public array $outlines, public bool $evenOdd, public string $colour)
    {
    }
}
