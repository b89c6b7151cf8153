<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Outline;
use YardBreak\Core\Stage\PropShape;

/** A source of a weight that is somewhere. */
interface HasOutline
{
    /**
     * @return Outline|null null: there is nothing to be seen of it at that frame
     *
     * @throws BadDocument
     */
    public static function outline(Settings $settings, Prop $prop, PropShape $shape, float $frame): ?Outline;
}
