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
     * @return list<Outline|null> what is to be seen of it at a frame; always as many, in the same order, null where there is nothing
     *
     * @throws BadDocument
     */
    public static function outlines(Settings $settings, Prop $prop, PropShape $shape, float $frame): array;
}
