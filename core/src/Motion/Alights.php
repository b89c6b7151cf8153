<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** A mover whose pieces land on surfaces that bend. It ends a step once these stand where they do by then. */
interface Alights
{
    /**
     * Once, before anything moves.
     *
     * @param list<Bends> $on
     */
    public function alight(array $on): void;
}
