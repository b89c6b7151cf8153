<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Force\ForceField;

/** A force, made from its settings. */
interface ForceKind
{
    /** @throws BadDocument if a key is wrong */
    public static function make(Settings $settings): ForceField;

    /**
     * @return list<mixed> what decides it
     *
     * @throws BadDocument
     */
    public static function inputs(Settings $settings): array;
}
