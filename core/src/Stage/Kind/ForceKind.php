<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Stage\Surfaces;

/** A force, made from its settings. */
interface ForceKind
{
    /** @throws BadDocument if a key is wrong */
    public static function make(Settings $settings, Shot $shot, Surfaces $others): ForceField;

    /**
     * @return list<mixed> what else decides it, beside its own settings
     *
     * @throws BadDocument
     */
    public static function inputs(Settings $settings, Shot $shot, Surfaces $others): array;
}
