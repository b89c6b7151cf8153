<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Falloff;

/** How something goes from none to full, as its settings say. */
final class SoftEdge
{
    /** @throws BadDocument if a drawn one runs back */
    public static function of(Settings $settings): Falloff
    {
        $edge = $settings->string('edge');

        return $edge === 'curve' ? Falloff::drawn($settings->curve('edgeCurve')) : Falloff::of($edge);
    }
}
