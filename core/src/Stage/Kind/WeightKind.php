<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\WeightSource;

/** A source of a weight, made from its settings. */
interface WeightKind
{
    /**
     * @return WeightSource|null null: it has nothing to go by, and counts as 0
     *
     * @throws BadDocument if its settings contradict each other
     */
    public static function make(Settings $settings, Prop $prop, PropShape $shape): ?WeightSource;

    /**
     * Settings that contradict each other are said before anything is computed.
     *
     * @throws BadDocument
     */
    public static function check(Settings $settings, Prop $prop): void;

    /** @return list<mixed> what else decides it, beside its own settings and the prop's mesh */
    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array;
}
